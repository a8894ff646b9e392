import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import { ACCOUNTS, Refusal, serve, show } from "@/shared/testing/served";
import { PersonnelListsPage } from "./pages/PersonnelListsPage";
import { PersonnelPage } from "./pages/PersonnelPage";
import { numbersInWords, orderInWords, withFile, type PersonnelOrder } from "./personnel";

const order: PersonnelOrder = {
  title: "Staff",
  account: "q",
  columns: {},
  missing: "leave",
  most: 5,
  does: "applies",
  file: "staff.csv",
};

const numbers = { joins: 0, changes: 0, returns: 0, leaves: 31, faulty: 0, holds: 40 };

const kept = {
  number: 3,
  order,
  accountName: "Quillhaven",
  ownerName: "Ilse Varga",
  folder: "personnel/q/",
  ownerIsActive: true,
  taken: [
    {
      number: 8,
      at: "2026-11-30T06:00:00Z",
      ...numbers,
      state: "stopped",
      heldUp: "It would remove 31 of 40 people, more than 5 %.",
    },
    {
      number: 7,
      at: "2026-11-29T06:00:00Z",
      ...numbers,
      leaves: 0,
      joins: 2,
      state: "applied",
      revision: 51,
    },
  ],
};

const preview = {
  columns: ["No.", "Name"],
  facts: ["number", "name"],
  mapping: { number: "No.", name: "Name" },
  ...numbers,
  leaves: 1,
  faulty: 1,
  unchanged: 38,
  first: [
    { line: 4, state: "faulty", name: "", number: "N4", says: ["There is no name."] },
    { state: "leaves", name: "Ada Finch", number: "N1", person: "ada", says: [] },
  ],
  notTaken: "No.,Name,why it was not taken\nN4,,There is no name.\n",
};

const managed = {
  ...ACCOUNTS,
  accounts: ACCOUNTS.accounts.map((it) => ({ ...it, may: ["mandala.people.manage"] })),
};

function served(more: object = {}) {
  return serve({
    "/api/accounts": managed,
    "/api/personnel": { lists: [kept] },
    "POST /api/personnel/preview": preview,
    ...more,
  });
}

function page() {
  return (
    <Routes>
      <Route path="/personnel" element={<PersonnelListsPage />} />
      <Route path="/personnel/:list" element={<PersonnelPage />} />
      <Route path="/drafts/:id" element={<p>the draft</p>} />
    </Routes>
  );
}

describe("personnel lists", () => {
  it("say how each comes, and what became of it", async () => {
    served();
    show(page(), "/personnel");
    expect(await screen.findByText("Quillhaven")).toBeDefined();
    expect(
      screen.getByText("staff.csv, applied · who is missing leaves, stops above 5 %"),
    ).toBeDefined();
    expect(screen.getByText(/stopped: It would remove 31 of 40 people/)).toBeDefined();
  });

  it("are for whoever may manage people", async () => {
    const none = ACCOUNTS.accounts.map((it) => ({ ...it, may: [] }));
    served({ "/api/accounts": { ...ACCOUNTS, accounts: none }, "/api/personnel": { lists: [] } });
    show(page(), "/personnel");
    expect(await screen.findByText(/Whoever may manage the people/)).toBeDefined();
    expect(screen.queryByText("New list")).toBeNull();
  });

  it("show what a pasted list does, and add it to a draft", async () => {
    const sent = served({
      "PUT /api/personnel/3": kept,
      "POST /api/personnel/3/lists": { ...kept.taken[1], state: "proposed", draft: "d1" },
    });
    show(page(), "/personnel/3");
    await userEvent.type(await screen.findByLabelText("The list"), "No.,Name");
    expect(await screen.findByText("1 leaves · 38 as they are · 1 line with errors")).toBeDefined();
    expect(screen.getByText("There is no name.")).toBeDefined();
    expect(screen.getByText("missing from the list")).toBeDefined();
    expect(screen.getByText("Export 1 line with errors")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    expect(await screen.findByText("the draft")).toBeDefined();
    const given = sent.find((it) => it.path === "/api/personnel/3/lists");
    expect(given?.body).toEqual({ list: "No.,Name", leaves: 1 });
  });

  it("ask before a list that removes too many is taken", async () => {
    const tooMany = "It would remove 31 of 40 people, more than 5 %.";
    const sent = served({
      "/api/personnel/3/lists/8": { ...preview, leaves: 31, tooMany },
      "POST /api/personnel/3/lists/8/take": { ...kept.taken[0], state: "proposed", draft: "d2" },
    });
    show(page(), "/personnel/3");
    await userEvent.click(await screen.findByRole("button", { name: "Look at it" }));
    expect(await screen.findByText(tooMany)).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Take it all the same" }));
    expect(await screen.findByText("Take a list by which 31 people leave?")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Take list" }));
    expect(await screen.findByText("the draft")).toBeDefined();
    expect(sent.find((it) => it.path.endsWith("/take"))?.body).toEqual({ leaves: 31 });
  });

  it("say why one can't be saved", async () => {
    served({
      "POST /api/personnel": new Refusal(409, {
        title: "These people have a personnel list already",
        detail: "“Staff” has them. Change it, or end it first.",
      }),
    });
    show(page(), "/personnel/new");
    await userEvent.click(await screen.findByRole("button", { name: "Save list" }));
    expect(await screen.findByText("These people have a personnel list already")).toBeDefined();
  });

  it("dismiss a file that is stopped", async () => {
    const sent = served({ "DELETE /api/personnel/3/lists/8": kept });
    show(page(), "/personnel/3");
    await userEvent.click(await screen.findByRole("button", { name: "Dismiss" }));
    await waitFor(() =>
      expect(sent.some((it) => it.path === "/api/personnel/3/lists/8")).toBe(true),
    );
  });
});

describe("words of a personnel list", () => {
  it("count what it does", () => {
    expect(numbersInWords(numbers)).toBe("31 leave");
    expect(numbersInWords({ joins: 1, changes: 2, returns: 1, leaves: 0 })).toBe(
      "1 comes back · 1 joins · 2 change",
    );
    expect(numbersInWords({ ...numbers, leaves: 0 })).toBe("nothing changes");
  });

  it("say that it is given by hand where no file is named", () => {
    expect(orderInWords(withFile({ ...order, missing: "stay" }, undefined))).toBe(
      "by hand · nobody leaves by it",
    );
    expect(withFile(order, "all.csv").file).toBe("all.csv");
  });
});
