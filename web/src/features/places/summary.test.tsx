import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import { ACCOUNTS, Refusal, serve, show } from "@/shared/testing/served";
import { AccountLikeDialog } from "./components/AccountLikeDialog";
import { AccountPeople } from "./components/AccountPeople";
import { keyOf, seatsInWords } from "./summary";

const summary = {
  active: 1_240,
  suspended: 3,
  waiting: 1,
  guests: 6,
  guestsEnding: 2,
  guestsWithoutEnd: 1,
  services: 5,
  servicesWithoutSponsor: 1,
  invited: [{ key: "juno", name: "Juno Teasel", since: "2026-11-03T00:00:00Z" }],
  seats: [{ key: "courier", name: "Courier", used: 3, most: 5 }],
  owners: [{ key: "marten", name: "Marten Holloway" }],
  hiddenOwners: false,
};

const badge = { key: "badge", label: "Badge", choices: [], required: ["person"] };

function served(more: object = {}) {
  return serve({
    "/api/accounts": ACCOUNTS,
    "/api/accounts/trust/summary": summary,
    "/api/accounts/trust/fields": { fields: [{ field: badge, own: true }], mine: true },
    "/api/things/:kind": {
      things: [{ kind: "principals", key: "ilse", name: "Ilse Varga" }],
      total: 1,
    },
    ...more,
  });
}

function page() {
  return (
    <Routes>
      <Route path="/places" element={<AccountPeople account="trust" name="The Trust" />} />
      <Route path="/drafts/:id" element={<p>the draft</p>} />
    </Routes>
  );
}

describe("who belongs to an account", () => {
  it("is counted, with ways to the lists", async () => {
    served();
    show(page(), "/places");
    const active = await screen.findByRole("link", { name: "1,240 active" });
    expect(active.getAttribute("href")).toBe("/people?in=trust&state=active&kind=person");
    expect(screen.getByText(/2 ending within 30 days/)).toBeDefined();
    expect(screen.getByText(/1 for which nobody answers/)).toBeDefined();
    expect(screen.getByText(/since 3 Nov 2026/)).toBeDefined();
    expect(screen.getByText(/3 of 5 used, 2 free/)).toBeDefined();
    expect(screen.getByText(/It has one owner only/)).toBeDefined();
  });

  it("warns of one owner alone, not of two or of some unseen", async () => {
    served({ "/api/accounts/trust/summary": { ...summary, hiddenOwners: true } });
    show(page(), "/places");
    expect(await screen.findByText(/others whom you can't see/)).toBeDefined();
    expect(screen.queryByText(/It has one owner only/)).toBeNull();
  });

  it("says why it can't be seen", async () => {
    served({
      "/api/accounts/trust/summary": new Refusal(403, {
        title: "Forbidden",
        detail: "You can't see who belongs to this account. Ask its directory administrator.",
      }),
    });
    show(page(), "/places");
    expect(await screen.findByText(/Ask its directory administrator/)).toBeDefined();
  });

  it("hands ownership over in a draft", async () => {
    const sent = served({ "POST /api/accounts/trust/owner": { draft: "d1" } });
    show(page(), "/places");
    await userEvent.click(await screen.findByRole("button", { name: /Hand over from Marten/ }));
    await userEvent.click(await screen.findByText("Ilse Varga"));
    expect(await screen.findByText("the draft")).toBeDefined();
    expect(sent.find((it) => it.method === "POST")?.body).toEqual({ from: "marten", to: "ilse" });
  });
});

describe("the fields of an account", () => {
  it("are declared with a key made of the name", async () => {
    const sent = served({ "PUT /api/accounts/trust/fields": { fields: [], mine: true } });
    show(page(), "/places");
    await userEvent.click(await screen.findByRole("button", { name: "edit fields" }));
    await userEvent.click(await screen.findByRole("button", { name: "Add field" }));
    await userEvent.type(screen.getByLabelText("Name of field 2"), "Shift plan");
    await userEvent.type(screen.getByLabelText("Choices of field 2"), "day{enter}night{enter}");
    await userEvent.click(screen.getByRole("button", { name: "Save fields" }));
    await waitFor(() =>
      expect(sent.find((it) => it.method === "PUT")?.body).toEqual({
        fields: [
          badge,
          { key: "shift-plan", label: "Shift plan", choices: ["day", "night"], required: [] },
        ],
      }),
    );
  });

  it("get keys of small letters, digits and hyphens", () => {
    expect(keyOf("Badge number")).toBe("badge-number");
    expect(keyOf("2. Größe ")).toBe("gro-e");
    expect(keyOf("7")).toBe("");
  });
});

describe("a new account like another", () => {
  it("needs a name and an administrator, and goes into a draft", async () => {
    const sent = served({
      "POST /api/accounts/trust/copies": { draft: "d1", account: "annexe", leftOut: 1 },
    });
    show(
      <Routes>
        <Route
          path="/places"
          element={<AccountLikeDialog account="trust" name="The Trust" onClose={() => undefined} />}
        />
        <Route path="/drafts/:id" element={<p>the draft</p>} />
      </Routes>,
      "/places",
    );
    const add = await screen.findByRole("button", { name: "Add to draft" });
    expect(add).toHaveProperty("disabled", true);
    await userEvent.type(screen.getByLabelText("Name"), "Annexe");
    await userEvent.click(screen.getByRole("button", { name: /Administrator/ }));
    await userEvent.click(await screen.findByText("Ilse Varga"));
    await userEvent.click(screen.getByLabelText("Units"));
    await userEvent.click(add);
    expect(await screen.findByText("the draft")).toBeDefined();
    expect(sent.find((it) => it.method === "POST")?.body).toEqual({
      name: "Annexe",
      parent: "trust",
      administrator: "ilse",
      parts: ["groups", "roles"],
    });
  });

  it("says why it is refused", async () => {
    served({
      "POST /api/accounts/trust/copies": new Refusal(400, {
        title: "Ilse Varga would not belong to the account",
        detail: "Choose a person at home in the account above it, or higher up.",
      }),
    });
    show(
      <AccountLikeDialog account="trust" name="The Trust" onClose={() => undefined} />,
      "/places",
    );
    await userEvent.type(await screen.findByLabelText("Name"), "Annexe");
    await userEvent.click(screen.getByRole("button", { name: /Administrator/ }));
    await userEvent.click(await screen.findByText("Ilse Varga"));
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    expect(await screen.findByText("Ilse Varga would not belong to the account")).toBeDefined();
  });
});

describe("seats of a role", () => {
  it("are said with their limits", () => {
    const role = { key: "r", name: "R" };
    expect(seatsInWords({ ...role, used: 7, most: 5 })).toBe("7 used, at most 5");
    expect(seatsInWords({ ...role, used: 1, least: 2 })).toBe("1 used, at least 2");
    expect(seatsInWords({ ...role, most: 5 })).toBe("at most 5; you can't see all holders");
  });
});
