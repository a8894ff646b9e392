import { render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { afterEach, describe, expect, it, vi } from "vitest";
import { api } from "../../api/client";
import { SettingsPage } from "./pages/SettingsPage";
import { LARGEST } from "./queries";

function show() {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <SettingsPage />
    </QueryClientProvider>,
  );
}

async function choose(file: File) {
  await userEvent.upload(await screen.findByLabelText(/Document/), file);
  await userEvent.type(screen.getByLabelText(/Current code/), "123456");
  await waitFor(() => {
    expect(screen.getByText("Import in place of everything").closest("button")?.disabled).toBe(
      false,
    );
  });
  await userEvent.click(screen.getByText("Import in place of everything"));
  await userEvent.click(await screen.findByText("Replace it"));
}

function answers(status: number, body: object) {
  const response = new Response(null, { status });
  const answer = response.ok ? { data: body, response } : { error: body, response };
  const rules = { data: { rules: [], accounts: [], transfer: true }, response: new Response() };
  const revisions = { data: [{ number: 6 }], response: new Response() };
  vi.spyOn(api, "GET").mockImplementation(((path: string) =>
    Promise.resolve(path === "/api/revisions" ? revisions : rules)) as never);
  return vi.spyOn(api, "PUT").mockResolvedValue(answer as never);
}

describe("importing a document", () => {
  afterEach(() => vi.restoreAllMocks());

  it("sends what was chosen and tells what was done", async () => {
    const calls = answers(200, { revision: 7, things: 12 });
    show();
    await choose(new File(['{"format": "mandala-model/1"}'], "m.json"));
    expect((await screen.findByText(/^Imported/)).textContent).toBe(
      "Imported 12 things; the model is now at revision 7.",
    );
    const sent = calls.mock.calls[0]?.[1] as unknown as {
      bodySerializer: () => string;
      params: object;
    };
    expect(sent.params).toEqual({ query: { base: 6 }, header: { "Mandala-Proof": "123456" } });
    expect(sent.bodySerializer()).toBe('{"format": "mandala-model/1"}');
  });

  it("tells all faults with their place", async () => {
    answers(422, {
      title: "The document has 2 faults",
      detail: "Nothing was changed.",
      faults: [
        { path: "$.units[0].account", what: "there is no account 'x'", next: "Name one" },
        { path: "$.units[1].key", what: "the field 'key' is missing", next: "Add it" },
      ],
    });
    show();
    await choose(new File(["{}"], "m.json"));
    const told = (await screen.findByRole("alert")).textContent;
    expect(told).toContain("The document has 2 faults");
    expect(told).toContain("$.units[0].account");
    expect(told).toContain("$.units[1].key");
  });

  it("does not send what is too large", async () => {
    const calls = answers(200, {});
    show();
    const file = new File(["{}"], "huge.json");
    Object.defineProperty(file, "size", { value: LARGEST * 3 });
    await choose(file);
    expect((await screen.findByRole("alert")).textContent).toContain("huge.json has 192 MiB");
    expect(calls).not.toHaveBeenCalled();
  });
});
