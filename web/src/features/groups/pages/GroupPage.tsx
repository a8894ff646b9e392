import { useState } from "react";
import { Button } from "antd";
import { Link, useParams } from "react-router";
import type { Schemas } from "../../../api/client";
import { useAccountName } from "../../../app/account";
import { AssignmentList } from "../../../components/AssignmentList";
import { DraftMark } from "../../../components/DraftMark";
import { Field } from "../../../components/Field";
import { ProblemNote } from "../../../components/ProblemNote";
import { ThingPicker } from "../../../components/ThingPicker";
import { Waiting } from "../../../components/Waiting";
import { listOf, textOf } from "../../../lib/thing";
import { count } from "../../../lib/words";
import { Composer, SubjectPicker } from "../../assign/components/Composer";
import { useEdit } from "../../draft/queries";
import { useGroupPage } from "../../things/queries";
import { RuleBuilder } from "../components/RuleBuilder";
import { ruleOf } from "../model";

/** A group: who is in it and how, what it holds and is held by, what being a member gives. */
export function GroupPage() {
  const { key = "" } = useParams();
  const page = useGroupPage(key);
  if (page.isPending) return <Waiting what="the group" />;
  if (page.isError) {
    return <ProblemNote problem={page.error} onRetry={() => void page.refetch()} />;
  }
  return <Group page={page.data} />;
}

function Group({ page }: { page: Schemas["GroupPage"] }) {
  const { group } = page;
  const key = group.key ?? "";
  const edit = useEdit();
  const [assigning, setAssigning] = useState(false);
  const [ruling, setRuling] = useState(false);
  const [chosen, setChosen] = useState<string[]>([]);
  const retired = textOf(group.thing, "status") === "retired";
  const rule = ruleOf(group.thing);
  const listed = listOf(group.thing, "members");
  const accountName = useAccountName(group.account);
  const put = (changes: object) => edit.mutate([{ kind: "groups", key, ...changes }]);
  const refOf = (it: Schemas["MemberView"]) => `${it.kind}:${it.key}`;
  return (
    <>
      <header className="page-head">
        <p className="note">
          <Link to="/groups">Groups</Link> · {accountName}
        </p>
        <h1>
          <input
            key={group.name}
            className="field-input name"
            aria-label="Name of the group"
            defaultValue={group.name}
            maxLength={200}
            onBlur={(event) =>
              event.target.value.trim() !== "" &&
              event.target.value !== group.name &&
              put({ set: { name: event.target.value.trim() } })
            }
            onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
          />{" "}
          <DraftMark mark={group.mark} />
        </h1>
        <p className="acts">
          <Button size="small" type="primary" onClick={() => setAssigning(true)}>
            Assign something to it
          </Button>
          <Button size="small" onClick={() => put({ set: { status: retired ? null : "retired" } })}>
            {retired ? "Use again" : "Retire"}
          </Button>
          <span className="note">
            {page.owners.length > 0
              ? `${page.owners.map((it) => (it.state === "active" ? it.name : `${it.name} (${it.state})`)).join(", ")} answers for it`
              : "nobody answers for it"}
          </span>
          <Field
            label="Who answers for it"
            className="link"
            value="choose who answers"
            picker={(close) => (
              <ThingPicker
                kind="principals"
                label="Who answers for it"
                onChoose={(it) => {
                  put({ add: { owners: [it] } });
                  close();
                }}
              />
            )}
          />
        </p>
        {edit.isError && <ProblemNote problem={edit.error} />}
      </header>
      <div className="two">
        <section aria-label="Members">
          <h2 className="part">{count(page.size, "member")}</h2>
          <p className="acts">
            <Field
              label="Add a member"
              className="link"
              value="add a member"
              picker={() => (
                <SubjectPicker
                  without={listed}
                  onChoose={(it) => put({ add: { members: [it.ref] } })}
                />
              )}
            />
            {chosen.length > 0 && (
              <button
                type="button"
                className="link"
                onClick={() => {
                  put({ drop: { members: chosen } });
                  setChosen([]);
                }}
              >
                take {chosen.length} out
              </button>
            )}
          </p>
          {page.members.length === 0 && <p className="note">Nobody is in it.</p>}
          <ul className="holders">
            {page.members.map((it) => (
              <li key={it.key} className={it.active ? undefined : "quiet"}>
                {it.listed && (
                  <input
                    type="checkbox"
                    aria-label={`Choose ${it.name}`}
                    checked={chosen.includes(refOf(it))}
                    onChange={(event) =>
                      setChosen(
                        event.target.checked
                          ? [...chosen, refOf(it)]
                          : chosen.filter((each) => each !== refOf(it)),
                      )
                    }
                  />
                )}{" "}
                <Link to={`/people/${it.key}`}>{it.name}</Link>{" "}
                <small>
                  {[it.title, it.account, !it.active && "not active"].filter(Boolean).join(", ")}
                  {it.listed ? "" : rule ? " · by rule" : " · by a group within"}
                </small>
              </li>
            ))}
          </ul>
          {page.elsewhere && <p className="note">Others you can't see are in it, too.</p>}
          {page.size > page.members.length && (
            <p className="note">and {page.size - page.members.length} more</p>
          )}
        </section>
        <section aria-label="Rule and nesting">
          <h2 className="part">Rule</h2>
          {rule || ruling ? (
            <RuleBuilder
              key={JSON.stringify(rule)}
              account={group.account ?? ""}
              rule={rule}
              onPut={(it) => {
                put({ set: { rule: it } });
                setRuling(false);
              }}
            />
          ) : (
            <p>
              No rule: only who is listed is in it.{" "}
              <button type="button" className="link" onClick={() => setRuling(true)}>
                build a rule
              </button>
            </p>
          )}
          <h2 className="part">Nesting</h2>
          <p>
            Holds{" "}
            {page.holds.length === 0
              ? "no other group"
              : page.holds.map((it, i) => (
                  <span key={it.key}>
                    {i > 0 && ", "}
                    <Link to={`/groups/${it.key}`}>{it.name}</Link>{" "}
                    <button
                      type="button"
                      className="link"
                      aria-label={`Take ${it.name} out`}
                      onClick={() => put({ drop: { members: [`group:${it.key}`] } })}
                    >
                      take out
                    </button>
                  </span>
                ))}
            .
          </p>
          <p>
            Held by{" "}
            {page.heldBy.length === 0
              ? "no other group"
              : page.heldBy.map((it, i) => (
                  <span key={it.key}>
                    {i > 0 && ", "}
                    <Link to={`/groups/${it.key}`}>{it.name}</Link>
                  </span>
                ))}
            {page.heldBy.length > 0 && ": its members have what that gives"}.
          </p>
        </section>
      </div>
      <h2 className="part">What being a member gives</h2>
      <AssignmentList assignments={page.gives} hide="subject" />
      {assigning && (
        <Composer
          open
          subject={{ ref: `group:${key}`, name: group.name }}
          onClose={() => setAssigning(false)}
        />
      )}
    </>
  );
}
