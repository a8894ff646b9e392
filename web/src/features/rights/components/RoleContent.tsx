import { Link } from "react-router";
import { VerdictMark } from "@/entities/access/VerdictMark";
import type { Schemas } from "@/shared/api/client";
import type { Edit } from "@/shared/lib/thing";
import { listOf, textOf } from "@/shared/lib/thing";
import { count, listed } from "@/shared/lib/words";
import type { AccessClass, Risk } from "@/shared/theme/theme";
import { DataTable } from "@/shared/ui/DataTable";
import { LinkButton } from "@/shared/ui/LinkButton";
import styles from "./RoleContent.module.css";

type Line = Schemas["ContentLine"];

interface Props {
  page: Schemas["RolePage"];
  onEdit: (edit: Edit) => void;
}

function originsOf(line: Line): string {
  return [
    line.denied && "denied",
    line.needsFactor && "second factor",
    line.through.join(", "),
    line.juniors.length > 0 && `inherited from ${listed(line.juniors)}`,
  ]
    .filter(Boolean)
    .join(" · ");
}

/** What a role grants in all, compared with the role it is based on. */
export function RoleContent({ page, onEdit }: Props) {
  const { basedOn, adds, takes, content } = page;
  return (
    <>
      <h2 className="part">
        Grants · {count(content.filter((it) => it.allowed).length, "permission")}
      </h2>
      {basedOn && (
        <p className="note">
          Based on <Link to={`/rights/roles/${basedOn.key}`}>{basedOn.name}</Link>
          {adds.length > 0 && `; adds ${listed(adds)}`}
          {takes.length > 0 && `; leaves out ${listed(takes)}`}
          {adds.length + takes.length === 0 && "; grants the same"}.
        </p>
      )}
      {page.originSince && !page.role.cannot && (
        <OriginChanges since={page.originSince} thing={page.role.thing} onEdit={onEdit} />
      )}
      {content.length === 0 ? (
        <p className="note">It grants nothing yet. Add a permission set below.</p>
      ) : (
        <DataTable
          label="Permissions of the role"
          rows={content}
          rowKey={(it) => it.key}
          rowClass={(it) => (it.allowed ? undefined : styles["denied"])}
          columns={[
            {
              key: "name",
              title: "Permission",
              card: "title",
              render: (it) => (
                <>
                  <VerdictMark
                    verdict={it.allowed ? "allowed" : "denied"}
                    accessClass={it.accessClass as AccessClass}
                    risk={it.risk as Risk}
                  />{" "}
                  {it.name}
                </>
              ),
            },
            { key: "risk", title: "Risk", width: 80, render: (it) => it.risk },
            {
              key: "through",
              title: "Through",
              quiet: true,
              render: (it) => originsOf(it),
            },
          ]}
        />
      )}
    </>
  );
}

interface OriginProps {
  since: Schemas["OriginSince"];
  thing: unknown;
  onEdit: (edit: Edit) => void;
}

/** What changed in the original role since it was copied; each change can be adopted. */
function OriginChanges({ since, thing, onEdit }: OriginProps) {
  const key = textOf(thing, "key");
  const added = since.added.filter((it) => !listOf(thing, it.field).includes(it.key));
  const removed = since.gone.filter((it) => listOf(thing, it.field).includes(it.key));
  if (added.length + removed.length === 0) return null;
  return (
    <p className="warning">
      The original role has changed since revision {since.revision}:{" "}
      {added.map((it) => (
        <span key={it.key}>
          {it.name} was added.{" "}
          <LinkButton onClick={() => onEdit({ kind: "roles", key, add: { [it.field]: [it.key] } })}>
            Add it here
          </LinkButton>{" "}
        </span>
      ))}
      {removed.map((it) => (
        <span key={it.key}>
          {it.name} was removed.{" "}
          <LinkButton
            onClick={() => onEdit({ kind: "roles", key, drop: { [it.field]: [it.key] } })}
          >
            Remove it here
          </LinkButton>{" "}
        </span>
      ))}
    </p>
  );
}
