import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { ACCOUNTS, openDraft, serve, show } from "@/shared/testing/served";
import { questionAbout } from "./model";
import { Remedies } from "./Remedies";

const way = {
  said: ["Odile Farrow leaves Purchasing"],
  edits: [{ kind: "groups", key: "buyers", drop: { members: ["person:odile"] } }],
  own: 4,
  others: 0,
  people: 0,
  elsewhere: false,
  denies: false,
};

function remedies(may: string[], more: object = {}) {
  const calls = serve({
    "/api/accounts": { ...ACCOUNTS, accounts: ACCOUNTS.accounts.map((it) => ({ ...it, may })) },
    "/api/ask/remedies": {
      verdict: "allowed",
      give: [],
      end: [way],
      bySecondFactor: false,
      hidden: false,
      ...more,
    },
    "POST /api/drafts/open/edits": openDraft(1),
  });
  show(<Remedies question={questionAbout("odile", {})} permission="order.pay" resource="orders" />);
  return calls;
}

describe("how to remove an access", () => {
  it("adds a way to the draft of who may change access", async () => {
    const calls = remedies(["mandala.access.assign"]);
    await userEvent.click(
      await screen.findByRole("button", { name: "Add to draft: Odile Farrow leaves Purchasing" }),
    );
    expect(await screen.findByRole("button", { name: /^Added to draft/ })).toHaveProperty(
      "disabled",
      true,
    );
    expect(calls.find((it) => it.method === "POST")?.body).toEqual({ edits: way.edits });
    expect(screen.queryByText(/You can’t change access yourself/)).toBeNull();
  });

  it("is proposed by who may not, with what comes of it", async () => {
    remedies(["mandala.review.run"]);
    expect(await screen.findByRole("button", { name: /^Propose: Odile/ })).toBeDefined();
    expect(screen.getByText(/send to somebody who can apply it/)).toBeDefined();
  });

  it("names what it does to others, and that a deny stays", async () => {
    remedies([], { end: [{ ...way, others: 3, people: 2, denies: true }] });
    expect(await screen.findByText(/3 rights of 2 other people/)).toBeDefined();
    expect(screen.getByText(/The deny stays behind/)).toBeDefined();
  });

  it("says that the only ways are out of sight", async () => {
    remedies([], { end: [], hidden: true });
    expect(await screen.findByText(/The only ways change things you can't see/)).toBeDefined();
  });
});
