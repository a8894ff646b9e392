import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { nameOf } from "@/shared/lib/impersonation";
import { person, Refusal, serve, show } from "@/shared/testing/served";
import { ImpersonationBar } from "./components/ImpersonationBar";
import { StartViewPage } from "./pages/StartViewPage";

const odile = person({ key: "odile", name: "Odile Farrow" });
const went = vi.fn();

beforeEach(() => {
  went.mockReset();
  vi.stubGlobal("location", { assign: went, replace: went });
});

afterEach(() => {
  vi.unstubAllGlobals();
  window.name = "";
});

function started(answer: object = {}, address = "/view?as=odile") {
  const calls = serve({
    "POST /api/views": answer,
    "/api/things/:kind/:key": { name: "Odile Farrow" },
    "/api/things/:kind": { things: [], total: 0 },
    "/api/names": {},
  });
  show(<StartViewPage />, address);
  return calls;
}

describe("an impersonated view", () => {
  it("starts after a notice, with the second factor chosen there", async () => {
    const calls = started();
    expect(screen.getByText(/you can't change anything/)).toBeDefined();
    await userEvent.click(screen.getByRole("checkbox", { name: /second factor/ }));
    await userEvent.click(screen.getByRole("button", { name: "Start view" }));
    await waitFor(() => expect(went).toHaveBeenCalledWith("/you"));
    expect(calls.find((it) => it.method === "POST")?.body).toEqual({ principal: "odile" });
    expect(window.name).toBe(nameOf({ key: "odile", factor: true }));
  });

  it("keeps date and factor of the question that it comes from", async () => {
    started({}, "/view?as=odile&factor=1&at=2026-03-01T00:00:00Z&to=/ask");
    await userEvent.click(screen.getByRole("button", { name: "Start view" }));
    await waitFor(() => expect(went).toHaveBeenCalledWith("/ask"));
    expect(window.name).toBe(nameOf({ key: "odile", factor: true, at: "2026-03-01T00:00:00Z" }));
  });

  it("does not start where the server refuses", async () => {
    started(new Refusal(403, { title: "Not allowed", detail: "You can't view as Odile Farrow." }));
    await userEvent.click(screen.getByRole("button", { name: "Start view" }));
    expect(await screen.findByText("You can't view as Odile Farrow.")).toBeDefined();
    expect(window.name).toBe("");
    expect(went).not.toHaveBeenCalled();
  });
});

describe("the bar of an impersonated view", () => {
  function bar() {
    window.name = nameOf({ key: "odile", factor: false, at: "2026-03-01T00:00:00Z" });
    const calls = serve({ "DELETE /api/views/:principal": {} });
    show(
      <>
        <ImpersonationBar who={odile} by={person()} />
        <input aria-label="Search" />
      </>,
    );
    return calls;
  }

  it("says as whom, when and with which sign-in one sees, and who one is", () => {
    bar();
    const said = screen.getAllByRole("status")[0]?.textContent;
    expect(said).toContain("You see what Odile Farrow would see without a second factor on 1 Mar");
    expect(said).toContain("You can't change anything. You are Ilse Varga.");
  });

  it("leaves the view by its button, on the server too", async () => {
    const calls = bar();
    await userEvent.click(screen.getByRole("button", { name: /Leave this view/ }));
    await waitFor(() => expect(went).toHaveBeenCalledWith("/people/odile"));
    expect(calls.map((it) => `${it.method} ${it.path}`)).toEqual(["DELETE /api/views/odile"]);
    expect(window.name).toBe("");
  });

  it("leaves it by a key, but not while something is typed", async () => {
    bar();
    await userEvent.type(screen.getByRole("textbox", { name: "Search" }), "xx");
    expect(went).not.toHaveBeenCalled();
    screen.getByRole("textbox").blur();
    await userEvent.keyboard("x");
    await waitFor(() => expect(went).toHaveBeenCalledTimes(1));
  });
});
