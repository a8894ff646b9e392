import { render, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { Problem } from "@/shared/api/client";
import { setWidth } from "@/shared/testing/setup";
import { Combobox } from "./Combobox";
import { DataTable, type Column } from "./DataTable";
import { DateField } from "./DateField";
import { EditableTitle } from "./EditableTitle";
import { InlinePicker } from "./InlinePicker";
import { ProblemAlert } from "./ProblemAlert";
import { TagList } from "./TagList";
import { Term } from "./Term";

const options = [
  { value: "q", label: "Quillhaven" },
  { value: "f", label: "Fernwick", note: "sealed" },
];

function activeOption(): string {
  return document.querySelector(".ant-select-item-option-active")?.textContent ?? "";
}

describe("a combobox", () => {
  it("filters by typing, notes included", async () => {
    render(<Combobox label="Account" options={options} onChoose={vi.fn()} />);
    await userEvent.type(screen.getByRole("combobox", { name: "Account" }), "seal");
    await waitFor(() => expect(screen.queryByText("Quillhaven")).toBeNull());
    expect(activeOption()).toContain("Fernwick");
  });

  it("chooses by a click", async () => {
    const choose = vi.fn();
    render(<Combobox label="Account" options={options} onChoose={choose} />);
    await userEvent.click(screen.getByText("Quillhaven"));
    expect(choose).toHaveBeenCalledExactlyOnceWith("q");
  });

  it("says what to do where nothing matches, and that it is searching", async () => {
    const { rerender } = render(<Combobox label="Account" options={options} onChoose={vi.fn()} />);
    await userEvent.type(screen.getByRole("combobox"), "zzz");
    expect(screen.getByText(/No matches. Type another part/)).toBeDefined();
    rerender(<Combobox label="Account" options={[]} onType={vi.fn()} onChoose={vi.fn()} loading />);
    expect(screen.getByText("Searching…")).toBeDefined();
  });

  it("leaves the search to the server where it is asked to", async () => {
    const type = vi.fn();
    render(<Combobox label="Account" options={options} onType={type} onChoose={vi.fn()} />);
    await userEvent.type(screen.getByRole("combobox"), "zzz");
    expect(type).toHaveBeenLastCalledWith("zzz");
    expect(screen.getByText("Quillhaven")).toBeDefined();
  });
});

describe("an inline picker", () => {
  const picker = (close: () => void) => (
    <button type="button" onClick={close}>
      Choose this
    </button>
  );

  it("is named by its label and value", () => {
    render(<InlinePicker label="Account" value="Quillhaven" picker={picker} />);
    expect(screen.getByRole("button", { name: "Account: Quillhaven" })).toBeDefined();
  });

  it("opens in place, and gives the focus back when something is chosen", async () => {
    render(<InlinePicker label="Account" value="Quillhaven" picker={picker} />);
    const word = screen.getByRole("button", { name: /Account/ });
    await userEvent.click(word);
    expect(word.getAttribute("aria-expanded")).toBe("true");
    await userEvent.click(await screen.findByText("Choose this"));
    expect(word.getAttribute("aria-expanded")).toBe("false");
    expect(document.activeElement).toBe(word);
  });

  it("closes at Escape", async () => {
    render(<InlinePicker label="Account" value="Quillhaven" picker={picker} />);
    const word = screen.getByRole("button", { name: /Account/ });
    await userEvent.click(word);
    (await screen.findByText("Choose this")).focus();
    await userEvent.keyboard("{Escape}");
    expect(word.getAttribute("aria-expanded")).toBe("false");
  });
});

interface Role {
  key: string;
  name: string;
  holders: number;
}

const roles: Role[] = [
  { key: "r", name: "Registrar", holders: 12 },
  { key: "a", name: "Archivist", holders: 7 },
];
const columns: Column<Role>[] = [
  { key: "name", title: "Role", card: "title", order: (it) => it.name, render: (it) => it.name },
  {
    key: "holders",
    title: "Holders",
    numeric: true,
    order: (it) => it.holders,
    render: (it) => it.holders,
  },
];

function names(): string[] {
  return screen.getAllByRole("rowheader").map((it) => it.textContent);
}

describe("a table", () => {
  const table = (more: object = {}) => (
    <DataTable label="Roles" rows={roles} rowKey={(it) => it.key} columns={columns} {...more} />
  );

  it("keeps the order given, and sorts by a column", async () => {
    render(table());
    expect(names()).toEqual(["Registrar", "Archivist"]);
    await userEvent.click(screen.getByText("Holders"));
    expect(names()).toEqual(["Archivist", "Registrar"]);
    await userEvent.click(screen.getByText("Role"));
    expect(names()).toEqual(["Archivist", "Registrar"]);
  });

  it("unfolds the rows that it is told to", () => {
    render(table({ detail: { open: ["a"], render: (it: Role) => `more of ${it.name}` } }));
    expect(screen.getByText("more of Archivist")).toBeDefined();
    expect(screen.queryByText("more of Registrar")).toBeNull();
  });

  it("keeps the last rows selected where only some may be", async () => {
    const change = vi.fn();
    const selection = {
      chosen: ["r"],
      onChange: change,
      name: (it: Role) => it.name,
      most: 1,
    };
    render(table({ selection }));
    await userEvent.click(screen.getByRole("checkbox", { name: "Select Archivist" }));
    expect(change).toHaveBeenCalledWith(["a"]);
  });

  it("says that it is empty", () => {
    render(table({ rows: [], empty: "No roles yet." }));
    expect(screen.getByText("No roles yet.")).toBeDefined();
  });

  it("becomes cards on a narrow screen, which keep the name and what else is asked for", () => {
    setWidth(390);
    render(table());
    expect(screen.queryByRole("table")).toBeNull();
    const cards = within(screen.getByRole("list", { name: "Roles" })).getAllByRole("listitem");
    expect(cards.map((it) => it.textContent)).toEqual(["RegistrarHolders12", "ArchivistHolders7"]);
  });

  it("keeps selection, details and the last chosen in cards, and leaves out empty lines", async () => {
    setWidth(390);
    const change = vi.fn();
    const empty: Column<Role> = { key: "note", title: "Note", render: () => "" };
    render(
      table({
        columns: [...columns, empty],
        selection: { chosen: ["r"], onChange: change, name: (it: Role) => it.name, most: 1 },
        detail: { open: ["a"], render: (it: Role) => `more of ${it.name}` },
      }),
    );
    await userEvent.click(screen.getByRole("checkbox", { name: "Select Archivist" }));
    expect(change).toHaveBeenLastCalledWith(["a"]);
    await userEvent.click(screen.getByRole("checkbox", { name: "Select Registrar" }));
    expect(change).toHaveBeenLastCalledWith([]);
    expect(screen.getByText("more of Archivist")).toBeDefined();
    expect(screen.queryByText("Note")).toBeNull();
  });
});

describe("fields", () => {
  it("a title is taken at Enter, kept at Escape, and never emptied", async () => {
    const name = vi.fn();
    render(<EditableTitle label="Name" name="Guards" onName={name} />);
    const field = screen.getByRole<HTMLInputElement>("textbox", { name: "Name" });
    await userEvent.type(field, " of the night{Enter}");
    expect(name).toHaveBeenCalledExactlyOnceWith("Guards of the night");
    await userEvent.clear(field);
    await userEvent.tab();
    expect(field.value).toBe("Guards");
    expect(name).toHaveBeenCalledOnce();
  });

  it("a day is typed as people write it or as a standard writes it", async () => {
    const change = vi.fn();
    render(<DateField label="Until" value="2026-11-28" onChange={change} />);
    const field = screen.getByRole<HTMLInputElement>("textbox", { name: "Until" });
    expect(field.value).toBe("28 Nov 2026");
    await userEvent.clear(field);
    await userEvent.type(field, "2027-01-05{Enter}");
    expect(change).toHaveBeenLastCalledWith("2027-01-05");
  });

  it("a list of names can be read only, or each removed", async () => {
    const remove = vi.fn();
    const items = [{ key: "g", name: "Guards" }];
    const { rerender } = render(<TagList label="Groups" items={items} />);
    expect(screen.queryByLabelText("Remove Guards")).toBeNull();
    rerender(<TagList label="Groups" items={items} onRemove={remove} />);
    await userEvent.click(screen.getByLabelText("Remove Guards"));
    expect(remove).toHaveBeenCalledWith("g");
    rerender(<TagList label="Groups" items={[]} />);
    expect(screen.getByText("none")).toBeDefined();
  });
});

describe("what explains itself", () => {
  it("a problem says what, where and what to do next", async () => {
    const retry = vi.fn();
    const problem = new Problem(422, "The document has an error", "Fix it.", [
      { path: "$.units[0].account", what: "there is no account 'x'", next: "Name one" },
    ]);
    render(<ProblemAlert problem={problem} onRetry={retry} />);
    expect(screen.getByRole("alert").textContent).toContain(
      "$.units[0].account there is no account 'x'. Name one.",
    );
    await userEvent.click(screen.getByText("Try again"));
    expect(retry).toHaveBeenCalledOnce();
  });

  it("one of Mandala's own words shows its sentence on hover and on focus", async () => {
    render(<Term word="seal" />);
    await userEvent.hover(screen.getByText("seal"));
    expect((await screen.findByRole("tooltip")).textContent).toContain("A seal keeps out");
  });
});
