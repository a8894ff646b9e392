import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { ThingView } from "@/entities/thing/queries";
import { openDraft, Refusal, serve, show } from "@/shared/testing/served";
import { SPECS } from "./declaration";
import { ThingForm } from "./ThingForm";
import { ThingList } from "./ThingList";

const things = { things: [], total: 0 };

function served(more: Record<string, object> = {}) {
  return serve({
    "/api/things/:kind": things,
    "/api/accounts/:account/fields": { fields: [], mine: false },
    "POST /api/places/scope": {
      everything: false,
      relative: false,
      count: 0,
      sealedOff: 0,
      first: [],
      cut: false,
    },
    "POST /api/drafts/open/edits": openDraft(1),
    ...more,
  });
}

const pattern = {
  kind: "patterns",
  key: "guard",
  name: "Guard",
  supplied: false,
  said: "Guard: for the night",
  thing: { key: "guard", name: "Guard", description: "for the night" },
} as ThingView;

describe("the form of a thing", () => {
  it.each(SPECS.map((it) => [it.kind, it] as const))("shows every field of %s", (kind, spec) => {
    served();
    show(<ThingForm kind={kind} existing={{ ...pattern, kind, thing: {} }} onClose={vi.fn()} />);
    const dialog = screen.getByRole("dialog");
    for (const field of spec.fields.filter((it) => it.asked?.({}) ?? true)) {
      expect(within(dialog).getAllByText(field.label).length).toBeGreaterThan(0);
    }
  });

  it("shows of a new thing what is needed first, and the rest when it is wanted", async () => {
    served();
    show(<ThingForm kind="roles" onClose={vi.fn()} />);
    expect(screen.getByText("Owners")).toBeDefined();
    expect(screen.queryByText("Most holders")).toBeNull();
    await userEvent.click(screen.getByText("More details"));
    expect(await screen.findByText("Most holders")).toBeDefined();
  });

  it("closes at once while nothing was typed", async () => {
    const close = vi.fn();
    served();
    show(<ThingForm kind="patterns" existing={pattern} onClose={close} />);
    await userEvent.click(screen.getByRole("button", { name: "Cancel" }));
    expect(close).toHaveBeenCalledOnce();
  });

  it("asks before it closes on what was typed", async () => {
    const close = vi.fn();
    served();
    show(<ThingForm kind="patterns" onClose={close} />);
    await userEvent.type(screen.getByRole("textbox", { name: "Name" }), "Courier");
    await userEvent.click(screen.getByRole("button", { name: "Cancel" }));
    expect(await screen.findByText("Discard what you typed?")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Keep editing" }));
    expect(close).not.toHaveBeenCalled();
    expect(screen.getByDisplayValue("Courier")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Cancel" }));
    await userEvent.click(await screen.findByRole("button", { name: "Discard" }));
    expect(close).toHaveBeenCalledOnce();
  });

  it("keeps what was typed when the page is left, until it is sent or given up", async () => {
    served();
    const left = show(<ThingForm kind="patterns" onClose={vi.fn()} />);
    await userEvent.type(screen.getByRole("textbox", { name: "Name" }), "Courier");
    left.unmount();
    const again = show(<ThingForm kind="patterns" onClose={vi.fn()} />);
    expect(screen.getByText(/What you typed before is here again/)).toBeDefined();
    expect(screen.getByDisplayValue("Courier")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    await waitFor(() => expect(sessionStorage).toHaveLength(0));
    again.unmount();
    show(<ThingForm kind="patterns" onClose={vi.fn()} />);
    expect(screen.queryByText(/What you typed before/)).toBeNull();
  });

  it("starts over when that is wanted", async () => {
    served();
    show(<ThingForm kind="patterns" onClose={vi.fn()} />).unmount();
    sessionStorage.setItem("mandala.kept.patterns:new", JSON.stringify({ name: "Courier" }));
    show(<ThingForm kind="patterns" onClose={vi.fn()} />);
    await userEvent.click(screen.getByRole("button", { name: "Start over" }));
    expect(screen.queryByDisplayValue("Courier")).toBeNull();
    expect(sessionStorage).toHaveLength(0);
  });

  it("lists the errors at their fields, and keeps what was typed", async () => {
    const calls = served();
    show(<ThingForm kind="exclusions" onClose={vi.fn()} />);
    await userEvent.type(screen.getByRole("textbox", { name: "Name" }), "Two pairs of eyes");
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    expect(screen.getByText("Enter “Sides”.")).toBeDefined();
    expect(screen.getByText("Enter “Counted per”.")).toBeDefined();
    expect(screen.getByRole("alert").textContent).toContain("Fix the errors");
    expect(screen.getByDisplayValue("Two pairs of eyes")).toBeDefined();
    expect(calls.some((it) => it.method === "POST" && it.path.endsWith("/edits"))).toBe(false);
  });

  it("asks who answers for a service, and not for a person", async () => {
    const calls = served();
    const person = show(
      <ThingForm kind="principals" given={{ kind: "person", account: "q" }} onClose={vi.fn()} />,
    );
    await userEvent.click(screen.getByText("More details"));
    expect(await screen.findByText("Reach")).toBeDefined();
    expect(screen.queryByText("Sponsor")).toBeNull();
    person.unmount();
    sessionStorage.clear();
    show(
      <ThingForm kind="principals" given={{ kind: "service", account: "q" }} onClose={vi.fn()} />,
    );
    await userEvent.type(screen.getByRole("textbox", { name: "Name" }), "Label printer");
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    expect(screen.getByText("Enter “Sponsor”.")).toBeDefined();
    expect(calls.some((it) => it.path.endsWith("/edits"))).toBe(false);
  });

  it("asks for the fields of the account, and keeps other attributes", async () => {
    const badge = { key: "badge", label: "Badge", choices: [], required: ["person"] };
    const shift = { key: "shift", label: "Shift", choices: ["day", "night"], required: [] };
    const calls = served({
      "/api/accounts/:account/fields": {
        fields: [badge, shift].map((field) => ({ field, own: true })),
        mine: false,
      },
    });
    const given = { kind: "person", account: "q", name: "Juno", attributes: { desk: "East" } };
    show(<ThingForm kind="principals" given={given} onClose={vi.fn()} />);
    expect(await screen.findByLabelText("Badge")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    expect(screen.getByText("Enter “Badge”.")).toBeDefined();
    expect(calls.some((it) => it.path.endsWith("/edits"))).toBe(false);
    await userEvent.type(screen.getByLabelText("Badge"), "7");
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    await waitFor(() => expect(calls.some((it) => it.path.endsWith("/edits"))).toBe(true));
    expect(calls.find((it) => it.path.endsWith("/edits"))?.body).toMatchObject({
      edits: [{ after: { attributes: { desk: "East", badge: "7" } } }],
    });
  });

  it("proposes an end for a guest, who is without one only by choice", async () => {
    const calls = served();
    const given = { principal: "ada", account: "q", sponsor: "ilse" };
    const close = vi.fn();
    const proposed = show(<ThingForm kind="guests" given={given} onClose={close} />);
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    await waitFor(() => expect(close).toHaveBeenCalled());
    const sent = calls.find((it) => it.path.endsWith("/edits"))?.body as {
      edits: { after: { until?: string; endless?: boolean } }[];
    };
    const days = (Date.parse(sent.edits[0]?.after.until ?? "") - Date.now()) / 86_400_000;
    expect(days).toBeGreaterThan(88);
    expect(days).toBeLessThan(93);
    expect(sent.edits[0]?.after).not.toHaveProperty("endless");
    proposed.unmount();

    show(<ThingForm kind="guests" given={{ ...given, until: "" }} onClose={vi.fn()} />);
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    expect(screen.getByText("Enter “Until”.")).toBeDefined();
    await userEvent.click(screen.getByRole("checkbox", { name: "Without an end" }));
    await waitFor(() => expect(screen.queryByText("Enter “Until”.")).toBeNull());
  });

  it("adds a new thing to the draft, without empty fields", async () => {
    const close = vi.fn();
    const calls = served();
    show(<ThingForm kind="patterns" given={{ account: "q" }} onClose={close} />);
    await userEvent.type(screen.getByRole("textbox", { name: "Name" }), "Courier");
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    await waitFor(() => expect(close).toHaveBeenCalledOnce());
    expect(calls.find((it) => it.path.endsWith("/edits"))?.body).toEqual({
      edits: [{ kind: "patterns", after: { account: "q", name: "Courier" } }],
    });
  });

  it("edits an existing thing by its key", async () => {
    const calls = served();
    show(<ThingForm kind="patterns" existing={pattern} onClose={vi.fn()} />);
    const name = screen.getByRole("textbox", { name: "Name" });
    await userEvent.clear(name);
    await userEvent.type(name, "Night guard");
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    await waitFor(() => expect(calls.some((it) => it.path.endsWith("/edits"))).toBe(true));
    expect(calls.find((it) => it.path.endsWith("/edits"))?.body).toMatchObject({
      edits: [{ kind: "patterns", key: "guard", after: { name: "Night guard" } }],
    });
  });

  it("shows why the server refused, and stays open", async () => {
    const close = vi.fn();
    served({
      "POST /api/drafts/open/edits": new Refusal(409, {
        title: "The draft has changed",
        detail: "Reload the page.",
      }),
    });
    show(<ThingForm kind="patterns" existing={pattern} onClose={close} />);
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    expect(await screen.findByText("The draft has changed")).toBeDefined();
    expect(close).not.toHaveBeenCalled();
  });
});

describe("the list of things", () => {
  it("shows sentences, and removes one in the draft", async () => {
    const calls = served({ "/api/things/:kind": { things: [pattern], total: 1 } });
    show(<ThingList kind="patterns" />);
    await userEvent.click(
      await screen.findByRole("button", { name: "Remove Guard: for the night" }),
    );
    await waitFor(() => expect(calls.some((it) => it.path.endsWith("/edits"))).toBe(true));
    expect(calls.find((it) => it.path.endsWith("/edits"))?.body).toEqual({
      edits: [{ kind: "patterns", key: "guard", remove: true }],
    });
  });

  it("says that there is none, and why where a filter is set", async () => {
    served();
    const { unmount } = show(<ThingList kind="patterns" />);
    expect(await screen.findByText(/No patterns that you can see/)).toBeDefined();
    unmount();
    show(<ThingList kind="patterns" text="zzz" />);
    expect(await screen.findByText(/Change the name you filter by/)).toBeDefined();
  });
});
