import { useState } from "react";
import { Button, Checkbox } from "antd";
import { Link, useNavigate, useParams } from "react-router";
import type { AccessClass, Risk } from "../../../app/theme";
import { useAccount } from "../../../app/account";
import { AssignmentList } from "../../../components/AssignmentList";
import { DraftMark } from "../../../components/DraftMark";
import { Field } from "../../../components/Field";
import { ProblemNote } from "../../../components/ProblemNote";
import { ThingPicker } from "../../../components/ThingPicker";
import { VerdictMark } from "../../../components/VerdictMark";
import { Waiting } from "../../../components/Waiting";
import type { Schemas } from "../../../api/client";
import { flagOf, listOf, textOf } from "../../../lib/thing";
import { count } from "../../../lib/words";
import { Composer } from "../../assign/components/Composer";
import { madeIn, useEdit } from "../../draft/queries";
import { useRolePage } from "../../things/queries";

/** A role: what it amounts to, its hierarchy, who holds it and by what. */
export function RolePage() {
  const { key = "" } = useParams();
  const page = useRolePage(key);
  if (page.isPending) return <Waiting what="the role" />;
  if (page.isError) {
    return <ProblemNote problem={page.error} onRetry={() => void page.refetch()} />;
  }
  return <Role page={page.data} />;
}

function Role({ page }: { page: Schemas["RolePage"] }) {
  const [assigning, setAssigning] = useState(false);
  const [account] = useAccount();
  const edit = useEdit();
  const navigate = useNavigate();
  const { role } = page;
  const key = role.key ?? "";
  const thing = role.thing as unknown as Record<string, unknown>;
  const retired = textOf(thing, "status") === "retired";
  const set = (fields: Record<string, unknown>) =>
    edit.mutate([{ kind: "roles", key, set: fields }]);

  function copy() {
    const rest = Object.fromEntries(
      Object.entries(thing).filter(([field]) => field !== "key" && field !== "code"),
    );
    const name = `${role.name} (copy)`;
    const after = { ...rest, name, basedOn: key, account: account?.key };
    edit.mutate([{ kind: "roles", after }], {
      onSuccess: (open) => void navigate(`/rights/roles/${madeIn(open, "roles") ?? ""}`),
    });
  }

  return (
    <>
      <header className="page-head">
        <p className="note">
          <Link to="/rights/roles">Roles</Link> ·{" "}
          {role.supplied ? "supplied and locked" : (role.account ?? "shared")}
        </p>
        <h1>
          {role.supplied ? (
            role.name
          ) : (
            <input
              key={role.name}
              className="field-input name"
              aria-label="Name of the role"
              defaultValue={role.name}
              maxLength={200}
              onBlur={(event) =>
                event.target.value.trim() !== "" &&
                event.target.value !== role.name &&
                set({ name: event.target.value.trim() })
              }
              onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
            />
          )}{" "}
          <DraftMark mark={role.mark} />
        </h1>
        {textOf(thing, "description") && <p>{textOf(thing, "description")}</p>}
        <p className="acts">
          <Button size="small" type="primary" onClick={() => setAssigning(true)}>
            Assign
          </Button>
          <Button size="small" onClick={copy}>
            Copy and adapt
          </Button>
          {!role.supplied && (
            <>
              <Button size="small" onClick={() => set({ status: retired ? null : "retired" })}>
                {retired ? "Use again" : "Retire"}
              </Button>
              <Checkbox
                checked={flagOf(thing, "requiresMfa")}
                onChange={(event) => set({ requiresMfa: event.target.checked || null })}
              >
                second factor needed
              </Checkbox>
            </>
          )}
        </p>
        {edit.isError && <ProblemNote problem={edit.error} />}
      </header>
      <div className="two">
        <section aria-label="What it amounts to">
          <h2 className="part">
            What it amounts to ·{" "}
            {count(page.content.filter((it) => it.allowed).length, "permission")}
          </h2>
          {page.basedOn && (
            <p className="note">
              Based on <Link to={`/rights/roles/${page.basedOn.key}`}>{page.basedOn.name}</Link>
              {page.adds.length > 0 && <>; adds {page.adds.join(", ")}</>}
              {page.takes.length > 0 && <>; takes away or lacks {page.takes.join(", ")}</>}
              {page.adds.length + page.takes.length === 0 && "; the same as its origin"}.
            </p>
          )}
          {page.originSince && !role.supplied && (
            <OriginOffer
              since={page.originSince}
              thing={thing}
              onEdit={(it) => edit.mutate([it])}
            />
          )}
          <Content lines={page.content} />
          <Parts page={page} onEdit={(it) => edit.mutate([it])} />
        </section>
        <section aria-label="Who holds it">
          <h2 className="part">
            {count(page.active, "active holder")}
            {page.holding > page.active && `, ${page.holding - page.active} not active`}
          </h2>
          <p className="note">
            at least{" "}
            <Limit
              label="At least so many holders"
              value={thing["minHolders"]}
              locked={role.supplied}
              onChange={(minHolders) => set({ minHolders })}
            />
            , at most{" "}
            <Limit
              label="At most so many holders"
              value={thing["maxHolders"]}
              locked={role.supplied}
              onChange={(maxHolders) => set({ maxHolders })}
            />
          </p>
          {page.holders.length === 0 ? (
            <p className="note">Nobody holds it.</p>
          ) : (
            <ul className="holders">
              {page.holders.map((it) => (
                <li key={it.key} className={it.active ? undefined : "quiet"}>
                  <Link to={`/people/${it.key}`}>{it.name}</Link>{" "}
                  <small>
                    {[it.title, !it.active && "not active"].filter(Boolean).join(", ")} by{" "}
                    {it.by.join(", ")}
                  </small>
                </li>
              ))}
            </ul>
          )}
          {page.holding > page.holders.length && (
            <p className="note">and {page.holding - page.holders.length} more</p>
          )}
        </section>
      </div>
      <h2 className="part">Assignments</h2>
      <AssignmentList assignments={page.assignments} hide="gives" />
      {assigning && (
        <Composer
          open
          gives={{ ref: `role:${key}`, name: role.name }}
          onClose={() => setAssigning(false)}
        />
      )}
    </>
  );
}

interface OfferProps {
  since: Schemas["OriginSince"];
  thing: Record<string, unknown>;
  onEdit: (edit: PartEdit) => void;
}

/** What has changed at the origin since it was copied: offered, never taken over by itself. */
function OriginOffer({ since, thing, onEdit }: OfferProps) {
  const key = textOf(thing, "key");
  const comes = since.added.filter((it) => !listOf(thing, it.field).includes(it.key));
  const goes = since.gone.filter((it) => listOf(thing, it.field).includes(it.key));
  if (comes.length + goes.length === 0) return null;
  return (
    <p className="wrong">
      Since it was copied (revision {since.revision}), its origin has changed:{" "}
      {comes.map((it) => (
        <span key={it.key}>
          {it.name} came into it{" "}
          <button
            type="button"
            className="link"
            onClick={() => onEdit({ kind: "roles", key, add: { [it.field]: [it.key] } })}
          >
            take it over
          </button>{" "}
        </span>
      ))}
      {goes.map((it) => (
        <span key={it.key}>
          {it.name} went out of it{" "}
          <button
            type="button"
            className="link"
            onClick={() => onEdit({ kind: "roles", key, drop: { [it.field]: [it.key] } })}
          >
            take it out here
          </button>{" "}
        </span>
      ))}
    </p>
  );
}

function Content({ lines }: { lines: Schemas["ContentLine"][] }) {
  if (lines.length === 0) return <p className="note">It gives nothing.</p>;
  return (
    <table className="plain">
      <tbody>
        {lines.map((it) => (
          <tr key={it.key} className={it.allowed ? undefined : "struck"}>
            <th scope="row">
              <VerdictMark
                verdict={it.allowed ? "allowed" : "denied"}
                accessClass={it.accessClass as AccessClass}
                risk={it.risk as Risk}
              />{" "}
              {it.name}
            </th>
            <td>{it.risk}</td>
            <td className="quiet">
              {[
                it.denied && "denied",
                it.needsFactor && "second factor",
                it.through.join(", "),
                it.juniors.length > 0 && `from ${it.juniors.join(", ")}`,
              ]
                .filter(Boolean)
                .join(" · ")}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

interface PartEdit {
  kind: string;
  key: string;
  add?: Record<string, string[]>;
  drop?: Record<string, string[]>;
}

interface PartsProps {
  page: Schemas["RolePage"];
  onEdit: (edit: PartEdit) => void;
}

/** What a role is made of: sets, juniors, prerequisites. */
function Parts({ page, onEdit }: PartsProps) {
  const key = page.role.key ?? "";
  const locked = page.role.supplied;
  const names = new Map([...page.juniors, ...page.seniors].map((it) => [it.key, it.name]));
  const parts = [
    { field: "sets", label: "Permission sets", kind: "permissionSets" },
    { field: "inherits", label: "Inherits from", kind: "roles" },
    { field: "prerequisites", label: "Prerequisites", kind: "roles" },
  ];
  return (
    <div className="set-editor">
      {parts.map(({ field, label, kind }) => (
        <div key={field}>
          <h3>{label}</h3>
          <ul className="chips">
            {listOf(page.role.thing, field).map((it) => (
              <li key={it}>
                {names.get(it) ?? it}
                {!locked && (
                  <button
                    type="button"
                    aria-label={`Take ${it} out`}
                    onClick={() => onEdit({ kind: "roles", key, drop: { [field]: [it] } })}
                  >
                    ✕
                  </button>
                )}
              </li>
            ))}
          </ul>
          {!locked && (
            <Field
              label={`${label}: add`}
              className="link"
              value="add"
              picker={(close) => (
                <ThingPicker
                  kind={kind}
                  label="Add"
                  without={[...listOf(page.role.thing, field), key]}
                  onChoose={(it) => {
                    onEdit({ kind: "roles", key, add: { [field]: [it] } });
                    close();
                  }}
                />
              )}
            />
          )}
        </div>
      ))}
      {page.seniors.length > 0 && (
        <p className="note">Inherited by {page.seniors.map((it) => it.name).join(", ")}.</p>
      )}
      {page.copies.length > 0 && (
        <p className="note">Adapted as {page.copies.map((it) => it.name).join(", ")}.</p>
      )}
    </div>
  );
}

interface LimitProps {
  label: string;
  value: unknown;
  locked: boolean;
  onChange: (value: number | null) => void;
}

function Limit({ label, value, locked, onChange }: LimitProps) {
  const shown = typeof value === "number" ? String(value) : "";
  if (locked) return <>{shown || "any number"}</>;
  return (
    <input
      key={shown}
      className="plain-input number"
      inputMode="numeric"
      aria-label={label}
      placeholder="any"
      defaultValue={shown}
      onBlur={(event) => {
        const typed = event.target.value.trim();
        if (typed !== shown && /^\d*$/.test(typed)) onChange(typed === "" ? null : Number(typed));
      }}
    />
  );
}
