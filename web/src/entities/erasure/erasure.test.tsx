import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { WhoContext } from "@/entities/session";
import { person, Refusal, serve, show } from "@/shared/testing/served";
import { EraseButton } from "./EraseButton";

const COMMON = { "GET /api/session": { state: "in" } };
const ERASURE = "GET /api/people/:key/erasure";
const LEFT = { name: "Petra Lowe", ordered: false };

function showButton() {
  return show(
    <WhoContext value={person()}>
      <EraseButton person="petra.lowe" />
    </WhoContext>,
  );
}

async function opened() {
  await userEvent.click(await screen.findByRole("button", { name: "Erase Petra Lowe…" }));
  return screen.findByRole("dialog");
}

describe("erasing somebody", () => {
  it("needs a reason and a code, and says when the rest is done", async () => {
    const calls = serve({ ...COMMON, [ERASURE]: LEFT, "POST /api/people/:key/erasure": {} });
    showButton();
    await opened();
    const erase = screen.getByRole("button", { name: "Erase" });
    expect((erase as HTMLButtonElement).disabled).toBe(true);
    await userEvent.type(screen.getByRole("textbox", { name: "Reason" }), "Their request");
    expect((erase as HTMLButtonElement).disabled).toBe(true);
    await userEvent.type(
      screen.getByRole("textbox", { name: "Code of your second factor" }),
      "123456",
    );
    await userEvent.click(erase);
    expect(await screen.findByText("They will be erased within minutes")).toBeDefined();
    const outlooks = () => calls.filter((it) => it.method === "GET" && it.path.endsWith("erasure"));
    expect(outlooks()).toHaveLength(1);
    await userEvent.click(screen.getByRole("button", { name: "Close" }));
    await waitFor(() => expect(outlooks()).toHaveLength(2));
    expect(calls.find((it) => it.method === "POST")?.body).toEqual({
      reason: "Their request",
      proof: "123456",
    });
  });

  it("keeps what was typed where it is refused", async () => {
    serve({
      ...COMMON,
      [ERASURE]: LEFT,
      "POST /api/people/:key/erasure": new Refusal(400, {
        title: "The code is not right",
        detail: "Write the current one.",
      }),
    });
    showButton();
    await opened();
    await userEvent.type(screen.getByRole("textbox", { name: "Reason" }), "Their request");
    await userEvent.type(screen.getByRole("textbox", { name: /Code/ }), "000000");
    await userEvent.click(screen.getByRole("button", { name: "Erase" }));
    expect(await screen.findByText("The code is not right")).toBeDefined();
    expect(screen.getByDisplayValue("Their request")).toBeDefined();
  });

  it("says from when they may be erased, and asks for nothing before", async () => {
    serve({
      ...COMMON,
      [ERASURE]: { ...LEFT, left: "2098-12-01T10:00:00Z", earliest: "2098-12-31T10:00:00Z" },
    });
    showButton();
    await opened();
    expect(screen.getByText(/they can be erased from 31 Dec 2098/)).toBeDefined();
    expect(screen.queryByRole("button", { name: "Erase" })).toBeNull();
  });

  it("says so where it is ordered already", async () => {
    serve({ ...COMMON, [ERASURE]: { ...LEFT, ordered: true } });
    showButton();
    await opened();
    expect(await screen.findByText("They will be erased within minutes")).toBeDefined();
  });

  it("offers nothing to who may not", async () => {
    const calls = serve({
      ...COMMON,
      [ERASURE]: new Refusal(403, { title: "Not allowed", detail: "Ask an owner." }),
    });
    const { container } = showButton();
    await expect.poll(() => calls.filter((it) => it.path.endsWith("/erasure")).length).toBe(1);
    expect(container.querySelector("button")).toBeNull();
  });
});
