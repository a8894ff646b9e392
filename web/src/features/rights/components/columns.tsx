import { ownerOf } from "@/entities/account/queries";
import { DraftMark } from "@/entities/draft/DraftMark";
import type { ThingView } from "@/entities/thing/queries";
import { textOf } from "@/shared/lib/thing";
import type { Column } from "@/shared/ui/DataTable";

/** The name of a thing, which unfolds what is below its row. */
export function unfoldingColumn(
  title: string,
  open: string,
  onOpen: (key: string) => void,
): Column<ThingView> {
  return {
    key: "name",
    title,
    card: "title",
    order: (it) => it.name,
    render: (it) => (
      <>
        <button
          type="button"
          aria-expanded={open === it.key}
          onClick={() => onOpen(open === it.key ? "" : (it.key ?? ""))}
        >
          {it.name}
        </button>
        <DraftMark mark={it.mark} />
      </>
    ),
  };
}

export const DESCRIPTION: Column<ThingView> = {
  key: "description",
  title: "Description",
  quiet: true,
  order: (it) => textOf(it.thing, "description"),
  render: (it) => textOf(it.thing, "description"),
};

/** The account that a thing belongs to. */
export function accountColumn(nameOf: (key: string) => string): Column<ThingView> {
  return {
    key: "account",
    title: "Account",
    order: (it) => ownerOf(it, nameOf),
    render: (it) => ownerOf(it, nameOf),
  };
}
