import { useAccountNames } from "@/entities/account/queries";
import type { ThingView } from "@/entities/thing/queries";
import { listOf } from "@/shared/lib/thing";
import { useAddress } from "@/shared/lib/useAddress";
import { count } from "@/shared/lib/words";
import { DataTable } from "@/shared/ui/DataTable";
import { SavedViews } from "@/entities/view/SavedViews";
import { accountColumn, unfoldingColumn } from "./columns";
import { NewThing } from "./NewThing";
import { SetEditor } from "./SetEditor";

/** Permission sets; each opens to its content. */
export function SetTable({ sets }: { sets: ThingView[] }) {
  const [params, set] = useAddress();
  const accountName = useAccountNames();
  const open = params.get("open") ?? "";
  const many = (it: ThingView, field: string) => {
    const n = listOf(it.thing, field).length;
    return n > 0 ? count(n, "permission") : "";
  };
  return (
    <>
      <div className="acts">
        <NewThing kind="permissionSets" label="New permission set" />
      </div>
      <DataTable
        label="Permission sets"
        tools="sets"
        extra={<SavedViews />}
        rows={sets}
        rowKey={(it) => it.key ?? ""}
        rowClass={(it) => it.mark}
        detail={{ open: open ? [open] : [], render: (it) => <SetEditor set={it} /> }}
        columns={[
          unfoldingColumn("Permission set", open, (it) => set({ open: it })),
          accountColumn(accountName),
          {
            key: "allow",
            title: "Allows",
            order: (it) => listOf(it.thing, "allow").length,
            render: (it) => many(it, "allow"),
          },
          {
            key: "deny",
            title: "Denies",
            order: (it) => listOf(it.thing, "deny").length,
            render: (it) => many(it, "deny"),
          },
        ]}
      />
    </>
  );
}
