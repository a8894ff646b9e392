import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { expect, it, vi } from "vitest";
import { serve, show } from "@/shared/testing/served";
import { PasteList } from "./components/PasteList";
import { fileOf, filterOf, rowsBetween, type Slot } from "./model";

it("a pasted list selects those it names, and says which lines are left", async () => {
  const found = [{ key: "ada", name: "Ada Finch", kind: "person", accountName: "Q" }];
  const calls = serve({
    "POST /api/people/named": { found, unknown: ["Nobody"], ambiguous: ["Sam"] },
  });
  const onSelect = vi.fn();
  show(<PasteList onSelect={onSelect} />);
  await userEvent.click(screen.getByRole("button", { name: "Paste a list" }));
  await userEvent.type(
    await screen.findByLabelText("Names, addresses or keys"),
    "Ada Finch, Nobody{Enter}Sam",
  );
  await userEvent.click(screen.getByRole("button", { name: "Select" }));
  await waitFor(() => expect(onSelect).toHaveBeenCalledWith(found));
  expect(calls[0]?.body).toEqual({ lines: ["Ada Finch", "Nobody", "Sam"] });
  expect(await screen.findByText("1 person selected, 2 lines left")).toBeDefined();
  expect(screen.getByText(/No one you can see is called Nobody/)).toBeDefined();
  expect(screen.getByDisplayValue(/Nobody\s+Sam/)).toBeDefined();
});

it("the file of the list is asked for as the list is", () => {
  const filter = filterOf(new URLSearchParams("in=f&job=Registrar&people.sort=-seen"), "q");
  const params = new URL(fileOf(filter, "xlsx"), "http://x").searchParams;
  expect(params.get("sort")).toBe("-seen");
  expect(params.get("title")).toBe("Registrar");
  expect(params.get("format")).toBe("xlsx");
});

it("with Shift all rows between two are meant, as far as they are loaded", () => {
  const slots = ["a", undefined, "c", "d"].map((key, at) => ({
    at,
    row: key && { key },
  })) as unknown as Slot[];
  expect(rowsBetween(slots, 2, 0).map((it) => it.key)).toEqual(["a", "c"]);
});
