import { Button } from "antd";
import { Link, NavLink, useNavigate, useSearchParams } from "react-router";
import { useAccount } from "../../../app/account";
import { DraftMark } from "../../../components/DraftMark";
import { ProblemNote } from "../../../components/ProblemNote";
import { Waiting } from "../../../components/Waiting";
import { listOf, textOf } from "../../../lib/thing";
import { count } from "../../../lib/words";
import { useEdit } from "../../draft/queries";
import { useThings } from "../../things/queries";
import { ruleOf } from "../model";

/** Groups of the account one works in. */
export function GroupsPage() {
  const [account] = useAccount();
  const [params, setParams] = useSearchParams();
  const text = params.get("text") ?? "";
  const groups = useThings("groups", {
    ...(account && { account: account.key }),
    text,
    limit: 1000,
  });
  const edit = useEdit();
  const navigate = useNavigate();
  return (
    <>
      <nav className="parts" aria-label="People">
        <NavLink to="/people">People</NavLink>
        <NavLink to="/groups">Groups</NavLink>
        <input
          className="plain-input"
          aria-label="Part of the name"
          placeholder="part of the name"
          value={text}
          onChange={(event) =>
            setParams(event.target.value ? { text: event.target.value } : {}, { replace: true })
          }
        />
      </nav>
      <p className="acts">
        <Button
          size="small"
          onClick={() => {
            const key = `g-${Date.now().toString(36)}`;
            edit.mutate(
              [{ kind: "groups", after: { key, name: "New group", account: account?.key } }],
              { onSuccess: () => void navigate(`/groups/${key}`) },
            );
          }}
        >
          New group in {account?.name}
        </Button>
      </p>
      {edit.isError && <ProblemNote problem={edit.error} />}
      {groups.isPending ? (
        <Waiting what="the groups" />
      ) : groups.isError ? (
        <ProblemNote problem={groups.error} onRetry={() => void groups.refetch()} />
      ) : groups.data.total === 0 ? (
        <div className="empty">
          <p>No group fits here. Choose another account above, or begin one.</p>
        </div>
      ) : (
        <table className="plain">
          <thead>
            <tr>
              <th scope="col">group</th>
              <th scope="col">takes in</th>
              <th scope="col">state</th>
            </tr>
          </thead>
          <tbody>
            {groups.data.things.map((it) => (
              <tr key={it.key} className={it.mark}>
                <th scope="row">
                  <Link to={`/groups/${encodeURIComponent(it.key ?? "")}`}>{it.name}</Link>
                  <DraftMark mark={it.mark} />
                </th>
                <td>
                  {[
                    ruleOf(it.thing) && "by rule",
                    listOf(it.thing, "members").length > 0 &&
                      count(listOf(it.thing, "members").length, "listed member"),
                  ]
                    .filter(Boolean)
                    .join(", ") || "nobody"}
                </td>
                <td>{textOf(it.thing, "status") || "active"}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}
