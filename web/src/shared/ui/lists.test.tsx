import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { show } from "@/shared/testing/served";
import { DataTable } from "./DataTable";

interface Room {
  key: string;
  name: string;
  size: number;
}

const rooms: Room[] = Array.from({ length: 60 }, (_, at) => ({
  key: `r${at}`,
  name: `Room ${String(at).padStart(2, "0")}`,
  size: (at * 7) % 60,
}));

function list(address = "/rooms") {
  show(
    <DataTable
      label="Rooms"
      tools="rooms"
      rows={rooms}
      rowKey={(it) => it.key}
      columns={[
        {
          key: "name",
          title: "Name",
          card: "title",
          order: (it) => it.name,
          render: (it) => <b>{it.name}</b>,
        },
        {
          key: "size",
          title: "Size",
          order: (it) => it.size,
          text: (it) => `${it.size} m²`,
          render: (it) => <i>{it.size}</i>,
        },
      ]}
    />,
    address,
  );
}

const address = () => screen.getByLabelText("address").textContent;
const names = () => screen.getAllByText(/^Room \d\d$/).map((it) => it.textContent);

describe("the tools of a list", () => {
  let saved: Blob | undefined;

  beforeEach(() => {
    saved = undefined;
    vi.spyOn(URL, "createObjectURL").mockImplementation((it) => {
      saved = it as Blob;
      return "blob:x";
    });
    vi.spyOn(URL, "revokeObjectURL").mockImplementation(() => undefined);
    vi.spyOn(HTMLAnchorElement.prototype, "click").mockImplementation(() => undefined);
  });

  afterEach(() => {
    vi.restoreAllMocks();
  });

  it("sort by a column, which the address keeps", async () => {
    list();
    await userEvent.click(screen.getByText("Size"));
    expect(address()).toBe("/rooms?rooms.sort=size");
    expect(names()[0]).toBe("Room 00");
    await userEvent.click(screen.getByText("Size"));
    expect(address()).toBe("/rooms?rooms.sort=-size");
    expect(names()[0]).toBe(rooms.find((it) => it.size === 59)?.name);
  });

  it("show what an address asks for: columns, order, rows of a page", () => {
    list("/rooms?rooms.hide=size&rooms.sort=-name&rooms.rows=25");
    expect(screen.queryByText("Size")).toBeNull();
    expect(names()).toHaveLength(25);
    expect(names()[0]).toBe("Room 59");
  });

  it("take no size of a page that is not offered", () => {
    list("/rooms?rooms.rows=3");
    expect(names()).toHaveLength(60);
  });

  it("hide a column and bring it back", async () => {
    list();
    await userEvent.click(screen.getByRole("button", { name: "Columns" }));
    await userEvent.click(await screen.findByRole("checkbox", { name: "Size" }));
    expect(address()).toBe("/rooms?rooms.hide=size");
    await userEvent.click(screen.getByRole("checkbox", { name: "Size" }));
    expect(address()).toBe("/rooms");
  });

  it("save all rows, in words, also those of other pages and hidden columns", async () => {
    list("/rooms?rooms.rows=25&rooms.hide=size");
    await userEvent.click(screen.getByRole("button", { name: "Export as CSV" }));
    await waitFor(() => expect(saved).toBeDefined());
    const lines = (await saved!.text()).split("\r\n");
    expect(lines[0]).toBe("Name,Size");
    expect(lines).toHaveLength(61);
    expect(lines[2]).toBe("Room 01,7 m²");
  });
});
