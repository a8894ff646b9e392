import { useState } from "react";
import { Select } from "antd";
import { VerdictMark } from "@/entities/access/VerdictMark";
import { DraftMark } from "@/entities/draft/DraftMark";
import { LazyThingForm } from "@/entities/form/LazyThingForm";
import { useThings, type ThingView } from "@/entities/thing/queries";
import { listOf, textOf } from "@/shared/lib/thing";
import { useAddress } from "@/shared/lib/useAddress";
import type { AccessClass, Risk } from "@/shared/theme/theme";
import { SavedViews } from "@/entities/view/SavedViews";
import { DataTable } from "@/shared/ui/DataTable";
import { LinkButton } from "@/shared/ui/LinkButton";
import { NewThing } from "./NewThing";
import { PermissionPicture } from "./PermissionPicture";

/** Permissions, of all types or of one; of one, with a picture of what implies what. */
export function PermissionTable({ permissions }: { permissions: ThingView[] }) {
  const [params, set] = useAddress();
  const type = params.get("type") ?? "";
  const [edited, setEdited] = useState<ThingView>();
  const typeThings = useThings("resourceTypes", { limit: 1000 });
  const typeNames = new Map((typeThings.data?.things ?? []).map((it) => [it.key, it.name]));
  const types = [...new Set(permissions.flatMap((it) => listOf(it.thing, "on")))].sort();
  const shown = type
    ? permissions.filter((it) => listOf(it.thing, "on").includes(type))
    : permissions;
  const names = new Map(permissions.map((it) => [it.key ?? "", it.name]));
  const named = (keys: string[]) => keys.map((key) => names.get(key) ?? key).join(", ");
  const typed = (key: string) => typeNames.get(key) ?? key;
  return (
    <>
      <div className="acts">
        <NewThing kind="permissions" label="New permission" />
      </div>
      <div className="acts">
        <Select
          aria-label="Type"
          style={{ minWidth: 200 }}
          value={type}
          showSearch={{ optionFilterProp: "label" }}
          options={[
            { value: "", label: "Every type" },
            ...types.map((it) => ({ value: it, label: typed(it) })),
          ]}
          onChange={(it) => set({ type: it })}
        />
      </div>
      {type && <PermissionPicture permissions={shown} names={names} />}
      <DataTable
        label="Permissions"
        tools="permissions"
        extra={<SavedViews />}
        rows={shown}
        rowKey={(it) => it.key ?? ""}
        rowClass={(it) => it.mark}
        columns={[
          {
            key: "name",
            title: "Permission",
            card: "title",
            order: (it) => it.name,
            render: (it) => (
              <>
                <VerdictMark
                  verdict="allowed"
                  accessClass={textOf(it.thing, "class") as AccessClass}
                  risk={textOf(it.thing, "risk") as Risk}
                />{" "}
                {it.name}
                <DraftMark mark={it.mark} />
              </>
            ),
          },
          {
            key: "meaning",
            title: "Meaning",
            quiet: true,
            render: (it) => textOf(it.thing, "description"),
          },
          {
            key: "on",
            title: "Applies to",
            render: (it) =>
              it.supplied ? "Mandala itself" : listOf(it.thing, "on").map(typed).join(", "),
          },
          { key: "class", title: "Class", width: 92, render: (it) => textOf(it.thing, "class") },
          { key: "risk", title: "Risk", width: 82, render: (it) => textOf(it.thing, "risk") },
          { key: "implies", title: "Implies", render: (it) => named(listOf(it.thing, "implies")) },
          {
            key: "gates",
            title: "Gates",
            term: "gate",
            render: (it) => named(listOf(it.thing, "requires")),
          },
          {
            key: "actions",
            title: "Actions",
            quietTitle: true,
            width: 50,
            render: (it) =>
              !it.supplied &&
              !it.cannot &&
              it.mark !== "removes" && (
                <LinkButton aria-label={`Edit ${it.name}`} onClick={() => setEdited(it)}>
                  Edit
                </LinkButton>
              ),
          },
        ]}
      />
      {edited && (
        <LazyThingForm
          key={edited.key}
          kind="permissions"
          existing={edited}
          onClose={() => setEdited(undefined)}
        />
      )}
    </>
  );
}
