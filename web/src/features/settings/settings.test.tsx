import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { ACCOUNTS, Refusal, serve, show, type Call } from "@/shared/testing/served";
import { SettingsPage } from "./pages/SettingsPage";
import { LARGEST } from "./queries";

function answers(answer: object): Call[] {
  const calls = serve({
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
    const calls = answers({ revision: 7, things: 12 });
    await choose(new File(['{"format": "mandala-model/1"}'], "m.json"));
    expect((await screen.findByText(/^Imported/)).textContent).toBe(
      "Imported 12 things as revision 7.",
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

  it("does not send what is too large", async () => {
    const calls = answers({});
    const file = new File(["{}"], "huge.json");
    Object.defineProperty(file, "size", { value: LARGEST * 3 });
    await choose(file);
    expect((await screen.findByRole("alert")).textContent).toContain("huge.json has 192 MiB");
    expect(calls.some((it) => it.method === "PUT")).toBe(false);
  });
});
