import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { WhoContext } from "@/entities/session";
import { ACCOUNTS, openDraft, person, Refusal, serve, show } from "@/shared/testing/served";
import { GLOSSARY } from "@/shared/lib/glossary";
import { KEYS, QUESTIONS } from "@/shared/lib/help";
import { AccountSwitch } from "./AccountSwitch";
import { Frame } from "./Frame";
import { Help } from "./Help";
import { Search } from "./Search";

const nothing = { things: [], total: 0 };
const answers = {
  "/api/accounts": ACCOUNTS,
  "/api/people/choices": [
    { key: "noor", name: "Noor Haddad", title: "Loans officer", accountName: "Quillhaven" },
  ],
  "/api/things/:kind": nothing,
  "/api/places/choices": [],
  "/api/ask/typed": { asked: false, unknown: [] },
};

async function type(text: string) {
  await userEvent.type(screen.getByRole("combobox", { name: "Find anything, or ask" }), text);
}

describe("the search", () => {
  it("finds a person and opens their page", async () => {
    serve(answers);
    show(<Search />);
    await type("noor");
    await userEvent.click(await screen.findByText(/Loans officer, Quillhaven/));
    expect(screen.getByLabelText("address").textContent).toBe("/people/noor");
  });

  it("says what to do where nothing matches", async () => {
    serve({ ...answers, "/api/people/choices": [] });
    show(<Search />);
    await type("zzz");
    expect(await screen.findByText(/No matches. Try another part of the name/)).toBeDefined();
  });

  it("says that part of it failed, and shows the rest", async () => {
    serve({
      ...answers,
      "/api/places/choices": new Refusal(503, { title: "Busy", detail: "Try again." }),
    });
    show(<Search />);
    await type("noor");
    expect(await screen.findByText(/Part of the search failed/)).toBeDefined();
    expect(screen.getByText(/Loans officer/)).toBeDefined();
  });

  it("takes what one may not list for nothing found, not for a failure", async () => {
    serve({
      ...answers,
      "/api/things/:kind": new Refusal(403, { title: "Not allowed", detail: "Ask." }),
    });
    show(<Search />);
    await type("noor");
    expect(await screen.findByText(/Loans officer/)).toBeDefined();
    expect(screen.queryByText(/search failed/)).toBeNull();
  });

  it("tells what it understood of a question, and which words it did not", async () => {
    serve({
      ...answers,
      "/api/ask/typed": {
        form: "access",
        asked: true,
        person: { key: "noor", name: "Noor Haddad", note: "" },
        unknown: ["juggle"],
      },
    });
    show(<Search />);
    await type("juggle, what can noor do");
    expect(await screen.findByText(/not understood: “juggle”/)).toBeDefined();
    await userEvent.click(await screen.findByText(/What can Noor Haddad do\?/));
    expect(screen.getByLabelText("address").textContent).toBe("/ask?who=noor&factor=1");
  });

  it("offers a question instead where nothing has such a name", async () => {
    const calls = serve({
      ...answers,
      "/api/people/choices": [],
      "/api/ask/typed": {
        form: "who",
        asked: false,
        permission: { key: "loan.approve", name: "Approve loans", note: "" },
        unknown: [],
      },
    });
    show(<Search />);
    await type("loans approve");
    expect(await screen.findByText("Ask instead")).toBeDefined();
    await userEvent.click(screen.getByText(/Who can use “Approve loans”/));
    expect(screen.getByLabelText("address").textContent).toContain("/ask/who?permission=");
    expect(calls.some((it) => it.query["text"] === "loans approve")).toBe(true);
  });
});

describe("the frame", () => {
  beforeEach(() => {
    vi.spyOn(window, "name", "get").mockReturnValue("");
  });

  const framed = {
    ...answers,
    "/api/session": { demo: false, who: person() },
    "/api/drafts/open/summary": { ...openDraft(3), impact: "1 person gains 1 right" },
  };

  function showFrame() {
    return show(
      <WhoContext value={person()}>
        <Frame by={undefined}>
          <h1>A page</h1>
        </Frame>
      </WhoContext>,
      "/people",
    );
  }

  it("shows where one is, the open draft, and who one is", async () => {
    serve(framed);
    showFrame();
    expect(await screen.findByText("People")).toBeDefined();
    expect(await screen.findByText("1 person gains 1 right")).toBeDefined();
    expect(screen.getByRole("button", { name: "Signed in as Ilse Varga" })).toBeDefined();
    expect(screen.getByText("Skip to content").getAttribute("href")).toBe("#content");
  });

  it("hides pages that one's access does not cover", async () => {
    serve({ ...framed, "/api/accounts": { ...ACCOUNTS, people: false } });
    showFrame();
    expect(await screen.findByRole("button", { name: /Account/ })).toBeDefined();
    for (const page of ["People", "Rights", "Places", "Checks", "Settings"]) {
      expect(screen.queryByRole("link", { name: page })).toBeNull();
    }
    expect(screen.queryByText("1 person gains 1 right")).toBeNull();
  });

  it("goes by keys, and opens Help by ?", async () => {
    serve(framed);
    showFrame();
    await screen.findByText("People");
    await userEvent.keyboard("gt");
    expect(screen.getByLabelText("address").textContent).toBe("/trail");
    await userEvent.keyboard("?");
    expect(await screen.findByText("Which question do I ask?")).toBeDefined();
  });

  it("switches colours and density", async () => {
    serve(framed);
    showFrame();
    await userEvent.click(await screen.findByRole("button", { name: /Signed in as/ }));
    expect(await screen.findByText("Comfortable")).toBeDefined();
    expect(screen.getByText("Dark")).toBeDefined();
  });
});

it("Help lists the questions, Mandala's words and the keys", async () => {
  show(<Help open onClose={vi.fn()} />);
  for (const it of QUESTIONS) expect(screen.getByText(it.ask)).toBeDefined();
  await userEvent.click(screen.getByText("Words"));
  for (const sentence of Object.values(GLOSSARY)) expect(screen.getByText(sentence)).toBeDefined();
  await userEvent.click(screen.getByText("Keys"));
  for (const [, does] of KEYS) expect(screen.getByText(does)).toBeDefined();
});

it("the account can be switched, and the page keeps its question", async () => {
  serve({ "/api/accounts": ACCOUNTS });
  show(<AccountSwitch />, "/ask?who=noor&in=q&area=desk");
  const path = await screen.findByRole("button", { name: /Larkmoor Trust.*Quillhaven/ });
  await userEvent.click(path);
  await userEvent.click(await screen.findByText("Larkmoor Trust"));
  expect(screen.getByLabelText("address").textContent).toBe("/ask?who=noor&in=trust");
});
