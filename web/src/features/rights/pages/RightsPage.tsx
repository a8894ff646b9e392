import { useState } from "react";
import { Button } from "antd";
import { Link, NavLink, useNavigate, useParams, useSearchParams } from "react-router";
import type { AccessClass, Risk } from "../../../app/theme";
import { useAccount } from "../../../app/account";
import { DraftMark } from "../../../components/DraftMark";
import { ProblemNote } from "../../../components/ProblemNote";
import { VerdictMark } from "../../../components/VerdictMark";
import { Waiting } from "../../../components/Waiting";
import { flagOf, listOf, textOf } from "../../../lib/thing";
import { count } from "../../../lib/words";
import { madeIn, useEdit } from "../../draft/queries";
import { ThingForm, ThingList } from "../../model";
import { useRoleUses, useThings, type ThingView } from "../../things/queries";
import { PermissionPicture } from "../components/PermissionPicture";
import { SetEditor } from "../components/SetEditor";

const PARTS = [
  { key: "roles", kind: "roles", label: "Roles" },
  { key: "sets", kind: "permissionSets", label: "Permission sets" },
  { key: "permissions", kind: "permissions", label: "Permissions" },
  { key: "types", kind: "resourceTypes", label: "Types" },
  { key: "patterns", kind: "patterns", label: "Patterns" },
  { key: "bridges", kind: "bridges", label: "Bridges" },
  { key: "delegations", kind: "delegations", label: "Delegations" },
];

/** Those that have no table of their own. */
const LISTED = ["types", "patterns", "bridges", "delegations"];

/** Roles, permission sets and permissions. */
export function RightsPage() {
  const { part = "roles" } = useParams();
  const [params, setParams] = useSearchParams();
  const text = params.get("text") ?? "";
  const kind = PARTS.find((it) => it.key === part)?.kind ?? "roles";
  const listed = LISTED.includes(part);
  const [account] = useAccount();
  const things = useThings(kind, { text, limit: 1000 }, !listed);
  return (
    <>
      <nav className="parts" aria-label="Rights">
        {PARTS.map((it) => (
          <NavLink key={it.key} to={`/rights/${it.key}`}>
            {it.label}
          </NavLink>
        ))}
        <input
          className="plain-input"
          aria-label="Part of the name"
          placeholder="part of the name"
          value={text}
          onChange={(event) => {
            const next = new URLSearchParams(params);
            if (event.target.value) next.set("text", event.target.value);
            else next.delete("text");
            setParams(next, { replace: true });
          }}
        />
      </nav>
      {listed ? (
        <ThingList
          key={kind}
          kind={kind}
          text={text}
          given={kind === "delegations" || !account ? {} : { account: account.key }}
        />
      ) : things.isPending ? (
        <Waiting what="the rights" />
      ) : things.isError ? (
        <ProblemNote problem={things.error} onRetry={() => void things.refetch()} />
      ) : things.data.total === 0 ? (
        <div className="empty">
          <p>Nothing fits, or nothing of this may be read by you.</p>
        </div>
      ) : part === "sets" ? (
        <Sets things={things.data.things} />
      ) : part === "permissions" ? (
        <Permissions things={things.data.things} />
      ) : (
        <Roles things={things.data.things} />
      )}
    </>
  );
}

function Roles({ things }: { things: ThingView[] }) {
  const uses = useRoleUses();
  const [account] = useAccount();
  const edit = useEdit();
  const navigate = useNavigate();
  const [compared, setCompared] = useState<string[]>([]);
  return (
    <>
      <p className="acts">
        <Button
          size="small"
          onClick={() =>
            edit.mutate([{ kind: "roles", after: { name: "New role", account: account?.key } }], {
              onSuccess: (open) => void navigate(`/rights/roles/${madeIn(open, "roles") ?? ""}`),
            })
          }
        >
          New role in {account?.name}
        </Button>
        {compared.length === 2 && (
          <Link to={`/rights/compare?one=${compared[0] ?? ""}&other=${compared[1] ?? ""}`}>
            Compare the two
          </Link>
        )}
        <span className="note">Better: open a role like it, and copy it.</span>
      </p>
      {edit.isError && <ProblemNote problem={edit.error} />}
      <table className="plain">
        <thead>
          <tr>
            <th scope="col" aria-label="Compare" />
            <th scope="col">role</th>
            <th scope="col">what for</th>
            <th scope="col">owned by</th>
            <th scope="col" className="right">
              holders
            </th>
            <th scope="col">needs</th>
          </tr>
        </thead>
        <tbody>
          {things.map((it) => {
            const key = it.key ?? "";
            const retired = textOf(it.thing, "status") === "retired";
            return (
              <tr key={key} className={it.mark}>
                <td>
                  <input
                    type="checkbox"
                    aria-label={`Compare ${it.name}`}
                    checked={compared.includes(key)}
                    onChange={(event) =>
                      setCompared(
                        event.target.checked
                          ? [...compared, key].slice(-2)
                          : compared.filter((each) => each !== key),
                      )
                    }
                  />
                </td>
                <th scope="row">
                  <Link to={`/rights/roles/${encodeURIComponent(key)}`}>{it.name}</Link>
                  <DraftMark mark={it.mark} />
                </th>
                <td className="quiet">{textOf(it.thing, "description")}</td>
                <td>{it.supplied ? "supplied" : (it.account ?? "shared")}</td>
                <td className="right">{uses.data?.holders[key] ?? 0}</td>
                <td>
                  {[
                    retired && "retired",
                    flagOf(it.thing, "requiresMfa") && "second factor",
                    listOf(it.thing, "prerequisites").length > 0 && "prerequisites",
                  ]
                    .filter(Boolean)
                    .join(", ")}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </>
  );
}

function Sets({ things }: { things: ThingView[] }) {
  const [params, setParams] = useSearchParams();
  const open = params.get("open");
  return (
    <>
      <MakeOne kind="permissionSets" label="New permission set" />
      <SetTable
        things={things}
        open={open}
        onOpen={(key) => setParams(open === key ? {} : { open: key })}
      />
    </>
  );
}

function MakeOne({ kind, label }: { kind: string; label: string }) {
  const [account] = useAccount();
  const [making, setMaking] = useState(false);
  return (
    <p className="acts">
      <Button size="small" onClick={() => setMaking(true)}>
        {label}
      </Button>
      {making && (
        <ThingForm
          kind={kind}
          given={account ? { account: account.key } : {}}
          onClose={() => setMaking(false)}
        />
      )}
    </p>
  );
}

interface SetTableProps {
  things: ThingView[];
  open: string | null;
  onOpen: (key: string) => void;
}

function SetTable({ things, open, onOpen }: SetTableProps) {
  return (
    <table className="plain">
      <thead>
        <tr>
          <th scope="col">permission set</th>
          <th scope="col">owned by</th>
          <th scope="col">allows</th>
          <th scope="col">denies</th>
        </tr>
      </thead>
      <tbody>
        {things.map((it) => (
          <SetRow
            key={it.key}
            set={it}
            open={open === it.key}
            onOpen={() => onOpen(it.key ?? "")}
          />
        ))}
      </tbody>
    </table>
  );
}

function SetRow({ set, open, onOpen }: { set: ThingView; open: boolean; onOpen: () => void }) {
  return (
    <>
      <tr className={set.mark}>
        <th scope="row">
          <button type="button" aria-expanded={open} onClick={onOpen}>
            {set.name}
          </button>
          <DraftMark mark={set.mark} />
        </th>
        <td>{set.supplied ? "supplied" : (set.account ?? "shared")}</td>
        <td>{count(listOf(set.thing, "allow").length, "permission")}</td>
        <td>
          {listOf(set.thing, "deny").length > 0 &&
            count(listOf(set.thing, "deny").length, "permission")}
        </td>
      </tr>
      {open && (
        <tr className="opened">
          <td colSpan={4}>
            <SetEditor set={set} />
          </td>
        </tr>
      )}
    </>
  );
}

function Permissions({ things }: { things: ThingView[] }) {
  const [params] = useSearchParams();
  const [type, setType] = useState("");
  const [changed, setChanged] = useState<ThingView>();
  const types = [...new Set(things.flatMap((it) => listOf(it.thing, "on")))].sort();
  const shown = type ? things.filter((it) => listOf(it.thing, "on").includes(type)) : things;
  const names = new Map(things.map((it) => [it.key ?? "", it.name]));
  const named = (keys: string[]) => keys.map((key) => names.get(key) ?? key).join(", ");
  return (
    <>
      <MakeOne kind="permissions" label="New permission" />
      <p className="acts">
        <label>
          on{" "}
          <select
            className="plain-input"
            value={type}
            onChange={(event) => setType(event.target.value)}
          >
            <option value="">every type</option>
            {types.map((it) => (
              <option key={it}>{it}</option>
            ))}
          </select>
        </label>
      </p>
      {type && <PermissionPicture permissions={shown} names={names} />}
      <table className="plain">
        <thead>
          <tr>
            <th scope="col">permission</th>
            <th scope="col">means</th>
            <th scope="col">on</th>
            <th scope="col">class</th>
            <th scope="col">risk</th>
            <th scope="col">implies</th>
            <th scope="col">gate</th>
            <th scope="col" aria-label="Acts" />
          </tr>
        </thead>
        <tbody>
          {shown.map((it) => (
            <tr key={it.key} className={params.get("open") === it.key ? "opened" : it.mark}>
              <th scope="row">
                <VerdictMark
                  verdict="allowed"
                  accessClass={textOf(it.thing, "class") as AccessClass}
                  risk={textOf(it.thing, "risk") as Risk}
                />{" "}
                {it.name}
                <DraftMark mark={it.mark} />
              </th>
              <td className="quiet">{textOf(it.thing, "description")}</td>
              <td>{it.supplied ? "Mandala’s own" : listOf(it.thing, "on").join(", ")}</td>
              <td>{textOf(it.thing, "class")}</td>
              <td>{textOf(it.thing, "risk")}</td>
              <td>{named(listOf(it.thing, "implies"))}</td>
              <td>{named(listOf(it.thing, "requires"))}</td>
              <td>
                {!it.supplied && it.mark !== "removes" && (
                  <button
                    type="button"
                    className="link"
                    aria-label={`Change ${it.name}`}
                    onClick={() => setChanged(it)}
                  >
                    change
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {changed && (
        <ThingForm
          key={changed.key}
          kind="permissions"
          existing={changed}
          onClose={() => setChanged(undefined)}
        />
      )}
    </>
  );
}
