import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { Refusal, serve, show } from "@/shared/testing/served";
import { JoinPage } from "./pages/JoinPage";

const WHO = {
  key: "kai.orrin",
  name: "Kai Orrin",
  accountName: "Quillhaven",
  first: true,
  until: "2026-12-05T10:00:00Z",
};

const COMMON = { "/api/session": { demo: false } };

describe("the first sign-in", () => {
  it("by a link asks for a password twice, and leads to signing in", async () => {
    const calls = serve({
      ...COMMON,
      "POST /api/join/look": WHO,
      "POST /api/join": { key: "kai.orrin" },
    });
    show(<JoinPage />, "/join?token=abc");
    await userEvent.type(await screen.findByLabelText("New password"), "a lamp on the stairs");
    await userEvent.type(screen.getByLabelText("The same again"), "a lamp on the floor");
    await userEvent.click(screen.getByRole("button", { name: "Set password" }));
    expect(await screen.findByText("The two are not the same.")).toBeDefined();
    await userEvent.clear(screen.getByLabelText("The same again"));
    await userEvent.type(screen.getByLabelText("The same again"), "a lamp on the stairs");
    await userEvent.click(screen.getByRole("button", { name: "Set password" }));
    expect(await screen.findByText("Your password is set")).toBeDefined();
    expect(calls.find((it) => it.path === "/api/join")?.body).toEqual({
      proof: { token: "abc" },
      password: "a lamp on the stairs",
    });
  });

  it("by a link that is over says so", async () => {
    serve({
      ...COMMON,
      "POST /api/join/look": new Refusal(404, { title: "Not found", detail: "Ask for a new one." }),
    });
    show(<JoinPage />, "/join?token=old");
    expect(await screen.findByText(/Ask for a new one/)).toBeDefined();
  });

  it("by a first password names the person first", async () => {
    const calls = serve({ ...COMMON, "POST /api/join/look": WHO });
    show(<JoinPage />, "/join");
    await userEvent.type(screen.getByLabelText("Name or e-mail address"), "kai.orrin");
    await userEvent.type(screen.getByLabelText("First password"), "abcd-efgh");
    await userEvent.click(screen.getByRole("button", { name: "Go on" }));
    expect(await screen.findByText(/Kai Orrin · Quillhaven/)).toBeDefined();
    expect(calls.find((it) => it.path === "/api/join/look")?.body).toEqual({
      name: "kai.orrin",
      firstPassword: "abcd-efgh",
    });
  });

  it("forgotten passwords say the same to everybody", async () => {
    serve({ ...COMMON, "POST /api/join/forgotten": {} });
    show(<JoinPage />, "/join?forgotten=");
    await userEvent.type(screen.getByLabelText("Name or e-mail address"), "nobody");
    await userEvent.click(screen.getByRole("button", { name: "Send link" }));
    expect(await screen.findByText(/If there is such a person/)).toBeDefined();
  });
});
