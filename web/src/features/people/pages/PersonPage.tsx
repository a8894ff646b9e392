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
import { Composer } from "../../assign/components/Composer";
import { useEdit } from "../../draft/queries";
import { ThingForm, ThingList } from "../../model";
import { usePersonPage } from "../../things/queries";

/** A person: facts, memberships, what is assigned to them in any way. */
export function PersonPage() {
  const { key = "" } = useParams();
  const page = usePersonPage(key);
  if (page.isPending) return <Waiting what="the person" />;
  if (page.isError) {
    return <ProblemNote problem={page.error} onRetry={() => void page.refetch()} />;
  }
  return <Person page={page.data} />;
}

function Person({ page }: { page: Schemas["PersonPage"] }) {
  const { person } = page;
  const key = person.key ?? "";
  const thing = person.thing;
  const kind = textOf(thing, "kind");
  const status = textOf(thing, "status") || "active";
  const accountName = useAccountName(person.account);
  const edit = useEdit();
  const [assigning, setAssigning] = useState(false);
  const [changing, setChanging] = useState(false);
  const reach = listOf<{ unit: string; level: string }>(thing, "reach");
  const attributes = (thing as { attributes?: Record<string, string> }).attributes ?? {};
  return (
    <>
      <header className="page-head">
        <p className="note">
          <Link to="/people">People</Link> · {accountName}
        </p>
        <h1>
          {person.name} <DraftMark mark={person.mark} />
        </h1>
        <p className="note">
          {[
            kind,
            status,
            page.unit && `unit ${page.unit}`,
            page.manager && `reports to ${page.manager}`,
            ...Object.entries(attributes).map(([name, value]) => `${name}: ${value}`),
            ...reach.map((it) => `reaches ${it.unit} (${it.level})`),
          ]
            .filter(Boolean)
            .join(" · ")}
        </p>
        <p className="acts">
          <Link to={`/ask?who=${encodeURIComponent(key)}`}>What can they do?</Link>
          <Link to={`/ask/differ?one=${encodeURIComponent(key)}`}>Compare</Link>
          <Link to={`/look?as=${encodeURIComponent(key)}`}>See as they would</Link>
          <Button size="small" type="primary" onClick={() => setAssigning(true)}>
            Assign
          </Button>
          <Button
            size="small"
            onClick={() =>
              edit.mutate([
                {
                  kind: "principals",
                  key,
                  set: { status: status === "suspended" ? null : "suspended" },
                },
              ])
            }
          >
            {status === "suspended" ? "Make active again" : "Suspend"}
          </Button>
          <Button size="small" onClick={() => setChanging(true)}>
            Change the facts
          </Button>
        </p>
        {edit.isError && <ProblemNote problem={edit.error} />}
      </header>
      <div className="two">
        <section aria-label="Groups">
          <h2 className="part">In groups</h2>
          <ul className="chips">
            {page.groups.map((it) => (
              <li key={it.key}>
                <Link to={`/groups/${it.key}`}>{it.name}</Link>
              </li>
            ))}
          </ul>
          {page.groups.length === 0 && <p className="note">In none.</p>}
          <Field
            label="Put into a group"
            className="link"
            value="put into a group"
            picker={(close) => (
              <ThingPicker
                kind="groups"
                label="Group"
                without={page.groups.map((it) => it.key)}
                onChoose={(group) => {
                  edit.mutate([
                    { kind: "groups", key: group, add: { members: [`${kind}:${key}`] } },
                  ]);
                  close();
                }}
              />
            )}
          />
        </section>
        <section aria-label="Reports">
          <h2 className="part">Who reports</h2>
          <p>
            {page.reports.length === 0
              ? "Nobody reports to them."
              : `${page.reports.map((it) => it.name).join(", ")} report to them.`}
          </p>
        </section>
      </div>
      <h2 className="part">Assigned to them in any way</h2>
      <AssignmentList assignments={page.assignments} />
      <h2 className="part">Guest elsewhere</h2>
      <ThingList
        kind="guests"
        text={person.name}
        given={{ principal: key }}
        which={(it) => textOf(it.thing, "principal") === key}
        none="Guest of no other account that you may read."
      />
      <h2 className="part">Acting for others, and others for them</h2>
      <ThingList
        kind="delegations"
        given={{ principal: key }}
        which={(it) => [textOf(it.thing, "principal"), textOf(it.thing, "delegate")].includes(key)}
        none="Nobody acts for them, and they act for nobody."
      />
      <h2 className="part">Switched on</h2>
      <ThingList
        kind="activations"
        text={person.name}
        given={{ principal: key }}
        which={(it) => textOf(it.thing, "principal") === key}
        none="Nothing is switched on."
      />
      {changing && (
        <ThingForm kind="principals" existing={person} onClose={() => setChanging(false)} />
      )}
      {assigning && (
        <Composer
          open
          subject={{ ref: `${kind}:${key}`, name: person.name }}
          onClose={() => setAssigning(false)}
        />
      )}
    </>
  );
}
