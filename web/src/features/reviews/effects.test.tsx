import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import { WhoContext } from "@/entities/session";
import { person, Refusal, serve, show } from "@/shared/testing/served";
import { Counted } from "./components/Counted";
import { EffectSentence } from "./components/EffectSentence";
import { RoundEffects } from "./components/RoundEffects";
import { effectOf, effectsInWords, orderOf, TEMPLATES, type Template } from "./model";
import { ReportPage } from "./pages/ReportPage";
import { ReviewedPage } from "./pages/ReviewedPage";
import type { Effects, Reported, ReportState, Round } from "./queries";
import type { Item } from "@/entities/decision/queries";

const ORDER = orderOf(TEMPLATES[0] as Template, "fernwick", new Date("2026-12-01T00:00:00Z"));

const ROUND: Round = {
  number: 7,
  title: "Quarterly",
  order: ORDER,
  ownerName: "Anselm Reeve",
  state: "open",
  begins: ORDER.begins,
  ends: ORDER.ends,
  late: true,
  items: 40,
  finished: 38,
};

const EFFECTS: Effects = {
  late: true,
  left: 2,
  due: 0,
  waiting: 1,
  inForce: 4,
  answered: 0,
  returned: 1,
  drafts: [{ id: "abc", items: 1 }],
  unsettled: [
    { number: 3, text: "Strongroom keeper", deciderName: "Tomas Brandt", state: "undecided" },
    {
      number: 5,
      text: "Loans lead",
      deciderName: "Tomas Brandt",
      state: "undecided",
      why: "Something else grants the same by now",
    },
  ],
  others: true,
};

describe("how decisions take effect", () => {
  it("is a sentence whose words are chosen", async () => {
    const chosen: unknown[] = [];
    show(<EffectSentence order={ORDER} onChange={(it) => chosen.push(it)} />);
    await userEvent.click(screen.getByRole("button", { name: "Take effect: when the round ends" }));
    await userEvent.click(await screen.findByText("within minutes"));
    await userEvent.click(screen.getByRole("checkbox", { name: /Managers of reviewers/ }));
    await userEvent.click(screen.getByRole("button", { name: "Grace time: at the end" }));
    const days = await screen.findByRole("spinbutton", { name: "Grace time, in days" });
    await userEvent.clear(days);
    await userEvent.type(days, "5");
    expect(chosen).toContainEqual({ effect: { ...effectOf(ORDER), carried: "at-once" } });
    expect(chosen).toContainEqual({ effect: { ...effectOf(ORDER), escalate: true } });
    expect(chosen.at(-1)).toEqual({ effect: { ...effectOf(ORDER), grace: 5 } });
  });

  it("is said in few words afterwards", () => {
    expect(effectsInWords({ ...EFFECTS, before: 900, after: 400 })).toEqual([
      "4 in force",
      "1 waiting for an approval",
      "1 came back",
      "exposure 900 → 400",
    ]);
    expect(effectsInWords({ ...EFFECTS, inForce: 0, waiting: 0, returned: 0 })).toEqual([]);
  });

  it("shows what is left, and takes an answer for what came back", async () => {
    const calls = serve({
      "GET /api/reviews/7/effects": EFFECTS,
      "POST /api/reviews/7/items/5/effect/answer": { ...EFFECTS, left: 1 },
    });
    show(<RoundEffects round={ROUND} />);
    const table = await screen.findByRole("table", { name: "What is left" });
    expect(within(table).getAllByText("Tomas Brandt")).toHaveLength(2);
    const answer = within(table).getAllByRole("button", { name: "Answer for it" });
    expect(answer).toHaveLength(1);
    expect(screen.getByRole("link", { name: "A draft of 1 decision" })).toBeTruthy();
    await userEvent.click(answer[0]!);
    const dialog = await screen.findByRole("dialog");
    const sure = within(dialog).getByRole("button", { name: "Answer for it" });
    expect(sure).toHaveProperty("disabled", true);
    await userEvent.type(within(dialog).getByRole("textbox"), "The board decides");
    await userEvent.click(sure);
    await waitFor(() =>
      expect(calls.find((it) => it.method === "POST")?.body).toEqual({ said: "The board decides" }),
    );
  });

  it("is taken over where it waits for its owner", async () => {
    const calls = serve({
      "GET /api/reviews/7/effects": { ...EFFECTS, late: false, unsettled: [] },
      "POST /api/reviews/7/owner": EFFECTS,
    });
    show(<RoundEffects round={{ ...ROUND, late: false, heldUp: "Its owner is not active." }} />);
    await userEvent.click(await screen.findByRole("button", { name: "Take over" }));
    await waitFor(() => expect(calls.some((it) => it.method === "POST")).toBe(true));
  });
});

const DONE: Item = {
  round: 7,
  number: 5,
  id: "mark",
  kind: "assignment",
  aboutKind: "principals",
  about: "odile",
  aboutName: "Odile Farrow",
  said: "Loans lead on Loans desk",
  exposure: 4,
  alike: "x",
  stage: 0,
  state: "done",
  changed: false,
  verdict: "remove",
  with: [],
};

describe("a decision that counts", () => {
  it("is taken back before it is in force", async () => {
    const calls = serve({ "DELETE /api/reviews/7/items/5/effect": { changed: 1 } });
    show(<Counted round={7} item={DONE} open />);
    expect(screen.getByText(/removed, and your decision counts/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Take back" }));
    await waitFor(() => expect(calls).toHaveLength(1));
  });

  it("can't be taken back once somebody answers for it, or the round is over", () => {
    show(<Counted round={7} item={{ ...DONE, outcome: "answered", remark: "Board" }} open />);
    expect(screen.getByText("Board")).toBeTruthy();
    show(<Counted round={7} item={{ ...DONE, outcome: "in-force", revision: 44 }} open={false} />);
    expect(screen.getByRole("link", { name: "Revision 44" })).toBeTruthy();
    expect(screen.queryByRole("button")).toBeNull();
  });
});

const STATE: ReportState = {
  round: 7,
  title: "Quarterly",
  state: "closed",
  hashes: { json: "ab12", pdf: "cd34", xlsx: "ef56" },
  readable: true,
  signable: true,
};

const REPORT: Reported = {
  format: "mandala-review/1",
  summary: {
    round: 7,
    title: "Quarterly",
    what: "people in Fernwick, of high risk or more",
    owner: "Anselm Reeve",
    begins: "2026-12-01T00:00:00Z",
    ends: "2026-12-15T00:00:00Z",
    closed: "2026-12-15T00:01:00Z",
    revision: 41,
    items: 2,
    people: 2,
    before: 900,
    after: 400,
    kept: 1,
    reduced: 0,
    removed: 1,
    byRule: 1,
    gone: 0,
    rule: "keep after 0 days",
  },
  reviewers: [
    {
      name: "Tomas Brandt",
      items: 2,
      kept: 1,
      reduced: 0,
      removed: 1,
      controls: 1,
      controlsKept: 0,
    },
  ],
  items: [
    {
      number: 1,
      what: "Loans lead on Loans desk",
      whoseKind: "principals",
      whose: "odile",
      whoseName: "Odile Farrow",
      control: false,
      verdict: "remove",
      decidedBy: "Tomas Brandt",
      reason: "She left loans",
      outcome: "In force",
      revision: 44,
      history: [],
    },
    {
      number: 2,
      what: "Registrar",
      whoseKind: "principals",
      whose: "petra",
      whoseName: "Petra Lowe",
      control: false,
      verdict: "keep",
      outcome: "Kept",
      history: [],
    },
  ],
};

const showReport = () =>
  show(
    <WhoContext value={person()}>
      <Routes>
        <Route path="/reviews/:round/report" element={<ReportPage />} />
      </Routes>
    </WhoContext>,
    "/reviews/7/report",
  );

describe("a report", () => {
  it("tells what was decided and what became of it, and is signed", async () => {
    const calls = serve({
      "/api/session": { demo: false, who: person() },
      "GET /api/reviews/7/report": STATE,
      "GET /api/reviews/7/report/json": REPORT,
      "POST /api/reviews/7/signature": { ...STATE, signable: false, signedByName: "Ilse Varga" },
    });
    showReport();
    expect(await screen.findByText("She left loans")).toBeTruthy();
    expect(screen.getByRole("link", { name: "revision 44" })).toBeTruthy();
    expect(screen.getByText("the round's rule")).toBeTruthy();
    expect(screen.getByRole("link", { name: "PDF" }).getAttribute("href")).toBe(
      "/api/reviews/7/report/file?format=pdf",
    );
    expect(screen.getByText("cd34")).toBeTruthy();
    await userEvent.type(screen.getByRole("textbox", { name: /Code of/ }), "123456");
    await userEvent.click(screen.getByRole("button", { name: "Sign the result" }));
    await waitFor(() =>
      expect(calls.find((it) => it.method === "POST")?.body).toEqual({ proof: "123456" }),
    );
  });

  it("says when there is none, and when it is not for the viewer", async () => {
    serve({
      "GET /api/reviews/7/report": {
        ...STATE,
        hashes: {},
        state: "open",
        readable: false,
        signable: false,
      },
    });
    showReport();
    expect(await screen.findByText("No report yet")).toBeTruthy();
  });

  it("that names strangers is not read", async () => {
    serve({ "GET /api/reviews/7/report": { ...STATE, readable: false, signable: false } });
    showReport();
    expect(await screen.findByText(/names people you can't see/)).toBeTruthy();
    expect(screen.queryByRole("link", { name: "PDF" })).toBeNull();
  });
});

describe("was somebody reviewed?", () => {
  const showSearch = () =>
    show(<ReviewedPage />, "/reviews/reviewed?person=odile&since=2026-09-01");

  it("is answered by a list of decisions", async () => {
    serve({
      "GET /api/reviews/reviewed": {
        about: "Odile Farrow",
        rows: [
          {
            round: 7,
            title: "Quarterly",
            roundState: "closed",
            signed: true,
            runs: false,
            item: 1,
            what: "Loans lead on Loans desk",
            verdict: "remove",
            byName: "Tomas Brandt",
            at: "2026-12-04T10:00:00Z",
            state: "done",
            outcome: "In force",
            revision: 44,
          },
        ],
      },
    });
    showSearch();
    expect(await screen.findByText(/1 decision about Odile Farrow since/)).toBeTruthy();
    expect(screen.getByText("removed")).toBeTruthy();
    expect(screen.getByRole("link", { name: "Quarterly" }).getAttribute("href")).toBe(
      "/reviews/7/report",
    );
  });

  it("says so where nothing was, and why not", async () => {
    serve({ "GET /api/reviews/reviewed": { about: "Odile Farrow", rows: [] } });
    showSearch();
    expect(await screen.findByText(/Nothing of Odile Farrow was reviewed since/)).toBeTruthy();
  });

  it("says what to do where somebody can't be read", async () => {
    serve({
      "GET /api/reviews/reviewed": new Refusal(404, {
        title: "Not found",
        detail: "Choose from the list.",
      }),
    });
    showSearch();
    expect(await screen.findByText("Choose from the list.")).toBeTruthy();
  });
});
