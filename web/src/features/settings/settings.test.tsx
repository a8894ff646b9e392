import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { ACCOUNTS, Refusal, serve, show, type Call } from "@/shared/testing/served";
import { SettingsPage } from "./pages/SettingsPage";
import { LARGEST } from "./queries";

const JOB = {
  id: "j1",
  kind: "model-import",
  title: "Import of a whole model",
  details: { base: 6 },
  state: "running",
  done: 2,
  total: 4,
  begun: "2026-11-29T09:00:00Z",
  answered: false,
  bytes: 0,
};

const DONE = { ...JOB, state: "done", answered: true, ended: "2026-11-29T09:00:02Z" };

function answers(answer: object, job: object = DONE, jobs: object[] = []): Call[] {
  const calls = serve({
    "/api/jobs": { jobs },
    "/api/jobs/:id": job,
    "/api/model/imports/:job": { revision: 7, things: 12 },
    "/api/accounts": ACCOUNTS,
    "/api/settings/approval": { rules: [] },
    "/api/revisions": [{ number: 6 }],
    "PUT /api/model": answer,
  });
  show(<SettingsPage />);
  return calls;
}

async function choose(file: File) {
  await screen.findByText("Choose document");
  const input = document.querySelector<HTMLInputElement>("input[type=file]");
  await userEvent.upload(input!, file);
  await userEvent.type(screen.getByLabelText(/Code of your second factor/), "123456");
  const submit = screen.getByRole("button", { name: "Import and replace" });
  await waitFor(() => expect(submit).toHaveProperty("disabled", false));
  await userEvent.click(submit);
  await userEvent.click(await screen.findByText("Replace model"));
}

it("settings that one may not see say what they are and whom to ask", async () => {
  serve({
    "/api/accounts": { ...ACCOUNTS, transfer: false },
    "/api/settings/approval": { rules: [] },
  });
  show(<SettingsPage />);
  expect(await screen.findByText("You can't see any settings")).toBeDefined();
  expect(screen.getByText(/Ask a security administrator/)).toBeDefined();
});

describe("the approval policy", () => {
  it("keeps what is not changed", async () => {
    const rule = { account: "trust", name: "Larkmoor Trust", people: 5, mine: true };
    const calls = serve({
      "/api/accounts": ACCOUNTS,
      "/api/settings/approval": { rules: [{ ...rule, reason: false, reference: true }] },
      "/api/revisions": [{ number: 6 }],
      "/api/jobs": { jobs: [] },
      "PUT /api/settings/approval/:account": { rules: [] },
    });
    show(<SettingsPage />);
    await userEvent.click(await screen.findByLabelText("Reason required"));
    await waitFor(() =>
      expect(calls.find((it) => it.method === "PUT")?.body).toEqual({
        people: 5,
        reason: true,
        reference: true,
      }),
    );
  });
});

describe("importing a document", () => {
  it("sends the chosen document and says what was imported", async () => {
    const calls = answers(JOB);
    await choose(new File(['{"format": "mandala-model/1"}'], "m.json"));
    expect((await screen.findByText(/^Imported/)).textContent).toBe(
      "Imported 12 things as revision 7 on 29 Nov 2026, 09:00 UTC.",
    );
    const sent = calls.find((it) => it.method === "PUT");
    expect(sent?.query).toEqual({ base: "6" });
    expect(sent?.body).toEqual({ format: "mandala-model/1" });
  });

  it("lists all errors with their place", async () => {
    answers(
      new Refusal(422, {
        title: "The document has 2 faults",
        detail: "Nothing was changed.",
        faults: [
          { path: "$.units[0].account", what: "there is no account 'x'", next: "Name one" },
          { path: "$.units[1].key", what: "the field 'key' is missing", next: "Add it" },
        ],
      }),
    );
    await choose(new File(["{}"], "m.json"));
    const told = (await screen.findByRole("alert")).textContent;
    expect(told).toContain("The document has 2 faults");
    expect(told).toContain("$.units[0].account");
    expect(told).toContain("$.units[1].key");
  });

  it("says why an import that was begun changed nothing", async () => {
    answers(JOB, {
      ...DONE,
      state: "failed",
      fault: "The model has changed since you looked. Export it again.",
    });
    await choose(new File(["{}"], "m.json"));
    expect((await screen.findByRole("alert")).textContent).toContain("The model has changed");
    expect(screen.queryByText(/^Imported/)).toBeNull();
  });

  it("finds an import that still runs when one comes back, and begins no other", async () => {
    answers(JOB, JOB, [JOB]);
    expect(await screen.findByText(/You can leave this page/)).toBeDefined();
    expect(screen.getByRole("button", { name: "Cancel: Import of a whole model" })).toBeDefined();
    await userEvent.type(screen.getByLabelText(/Code of your second factor/), "123456");
    const input = document.querySelector<HTMLInputElement>("input[type=file]");
    await userEvent.upload(input!, new File(["{}"], "m.json"));
    expect(screen.getByRole("button", { name: "Import and replace" })).toHaveProperty(
      "disabled",
      true,
    );
  });

  it("does not send what is too large", async () => {
    const calls = answers({});
    const file = new File(["{}"], "huge.json");
    Object.defineProperty(file, "size", { value: LARGEST * 3 });
    await choose(file);
    expect((await screen.findByRole("alert")).textContent).toContain("huge.json has 192 MiB");
    expect(calls.some((it) => it.method === "PUT")).toBe(false);
  });
});

describe("mail and notices", () => {
  const manages = {
    ...ACCOUNTS,
    accounts: ACCOUNTS.accounts.map((it) => ({ ...it, may: ["mandala.settings.manage"] })),
  };
  const mail = {
    id: "m1",
    person: "noor",
    recipient: "noor@larkmoor.example",
    subject: "My draft was approved",
    body: "Hello Noor Haddad,",
    state: "kept",
    repeated: false,
    attempts: 0,
    made: "2026-11-29T09:00:00Z",
  };
  const demands = (mine: boolean) => ({
    account: "trust",
    mine,
    demands: [{ kind: "job-ended", title: "Long work of mine ended", delivery: "here" }],
  });

  it("lists mail with what became of it, and opens its text", async () => {
    serve({
      "/api/accounts": manages,
      "/api/settings/approval": { rules: [] },
      "/api/revisions": [{ number: 6 }],
      "/api/jobs": { jobs: [] },
      "/api/notices/demands/:account": demands(false),
      "/api/settings/schedule": {
        works: [
          {
            name: "daily-digest",
            description: "Sends each person one mail.",
            next: "2026-11-30T07:00:00Z",
            last: "2026-11-29T07:00:00Z",
            outcome: "failed",
            remark: "It is tried again.",
          },
          { name: "other", description: "Another one." },
        ],
      },
      "/api/settings/mail": {
        sent: true,
        mails: [
          mail,
          {
            ...mail,
            id: "m2",
            subject: "Refused one",
            state: "refused",
            fault: "550 No such user",
          },
        ],
      },
    });
    show(<SettingsPage />);
    expect(await screen.findByText("550 No such user")).toBeDefined();
    expect(screen.getByText(/through your mail server/)).toBeDefined();
    const digest = await screen.findByRole("row", { name: /Sends each person one mail/ });
    expect(digest.textContent).toContain("Failed, 29 Nov 2026, 07:00 UTCIt is tried again.");
    expect(screen.getByRole("row", { name: /Another one.*never yet/ })).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "My draft was approved" }));
    expect(await screen.findByText("Hello Noor Haddad,")).toBeDefined();
  });

  it("shows how each kind of mail reads", async () => {
    serve({
      "/api/accounts": manages,
      "/api/settings/approval": { rules: [] },
      "/api/revisions": [{ number: 6 }],
      "/api/jobs": { jobs: [] },
      "/api/notices/demands/:account": demands(false),
      "/api/settings/schedule": { works: [] },
      "/api/settings/tokens": { accounts: [], tokens: [] },
      "/api/settings/mail": { sent: false, mails: [] },
      "/api/notices/letters": {
        letters: [
          { kind: "draft-waits", subject: "A draft waits for my approval", body: "Hello Ilse," },
          { kind: "job-ended", subject: "Long work of mine ended", body: "It is done." },
        ],
      },
    });
    show(<SettingsPage />);
    await userEvent.click(
      await screen.findByRole("button", { name: "See how each kind of mail reads" }),
    );
    expect(await screen.findByText("Hello Ilse,")).toBeDefined();
    await userEvent.click(screen.getByRole("combobox", { name: "Kind of mail" }));
    await userEvent.click(await screen.findByTitle("Long work of mine ended"));
    expect(await screen.findByText("It is done.")).toBeDefined();
  });

  it("asks for no mail where one may not read it", async () => {
    const calls = serve({
      "/api/accounts": ACCOUNTS,
      "/api/settings/approval": { rules: [] },
      "/api/revisions": [{ number: 6 }],
      "/api/jobs": { jobs: [] },
      "/api/notices/demands/:account": demands(false),
    });
    show(<SettingsPage />);
    expect(await screen.findByText("Choose document")).toBeDefined();
    expect(calls.some((it) => it.path.endsWith("/mail"))).toBe(false);
    expect(screen.queryByText("Long work of mine ended:")).toBeNull();
  });

  it("sets what an account demands", async () => {
    const calls = serve({
      "/api/accounts": manages,
      "/api/settings/approval": { rules: [] },
      "/api/revisions": [{ number: 6 }],
      "/api/jobs": { jobs: [] },
      "/api/settings/mail": { sent: false, mails: [] },
      "/api/settings/schedule": { works: [] },
      "/api/settings/tokens": { accounts: [], tokens: [] },
      "/api/notices/demands/:account": demands(true),
      "PUT /api/notices/demands/:account/:kind": {},
    });
    show(<SettingsPage />);
    expect(await screen.findByText(/No mail server is set/)).toBeDefined();
    await userEvent.click(await screen.findByRole("combobox", { name: "Long work of mine ended" }));
    const options = await waitFor(() => {
      const found = document.querySelectorAll<HTMLElement>(".ant-select-item-option");
      expect(found).toHaveLength(3);
      return found;
    });
    await userEvent.click(options[2]!);
    await waitFor(() =>
      expect(calls.find((it) => it.method === "PUT")?.body).toEqual({ delivery: "mail" }),
    );
  });
});
