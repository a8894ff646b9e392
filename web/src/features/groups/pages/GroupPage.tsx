import { useState } from "react";
import { Button } from "antd";
import { Link, useParams } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { pageOfUse } from "@/entities/access/excess";
import { useAccountName, useAsks, useMay } from "@/entities/account/queries";
import { AssignmentList } from "@/entities/assignment/AssignmentList";
import { LazyComposer } from "@/entities/assignment/LazyComposer";
import { DraftMark } from "@/entities/draft/DraftMark";
import { useEdit } from "@/entities/draft/queries";
import { ThingField } from "@/entities/thing/ThingField";
import { useGroupPage } from "@/entities/thing/queries";
import { textOf } from "@/shared/lib/thing";
import { listed } from "@/shared/lib/words";
import { EditableTitle } from "@/shared/ui/EditableTitle";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Members } from "../components/Members";
import { Nesting } from "../components/Nesting";
import { RuleBuilder } from "../components/RuleBuilder";
import { ruleOf } from "../model";

type Page = Schemas["GroupPage"];

/** A group: its members and how they are in it, its nesting, and what it is assigned. */
export function GroupPage() {
  const { key = "" } = useParams();
  const page = useGroupPage(key);
  if (page.isPending) return <Loading what="the group" />;
  if (page.isError) {
    return <ProblemAlert problem={page.error} onRetry={() => void page.refetch()} />;
  }
  return <Group page={page.data} />;
}

function Group({ page }: { page: Page }) {
  const { group } = page;
  const key = group.key ?? "";
  const edit = useEdit();
  const [ruling, setRuling] = useState(false);
  const rule = ruleOf(group.thing);
  const put = (changes: object) => edit.mutate([{ kind: "groups", key, ...changes }]);
  return (
    <>
      <Head page={page} onPut={put} />
      {edit.isError && <ProblemAlert problem={edit.error} />}
      <div className="two">
        <Members
          page={page}
          onAdd={(member) => put({ add: { members: [member] } })}
          onRemove={(members) => put({ drop: { members } })}
        />
        <section aria-label="Rule and nesting">
          <h2 className="part">Rule</h2>
          {(rule && !group.cannot) || ruling ? (
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
              {rule ? group.said : "No rule: members are listed one by one."}{" "}
              {!group.cannot && (
                <LinkButton onClick={() => setRuling(true)}>Build a rule</LinkButton>
              )}
            </p>
          )}
          <Nesting
            page={page}
            onRemove={
              group.cannot ? undefined : (it) => put({ drop: { members: [`group:${it}`] } })
            }
          />
        </section>
      </div>
      <h2 className="part">Assignments of this group</h2>
      <AssignmentList label="Assignments" assignments={page.gives} hide="subject" />
    </>
  );
}

function ownersInWords(page: Page): string {
  const names = page.owners.map((it) =>
    it.state === "active" ? it.name : `${it.name} (${it.state})`,
  );
  if (names.length === 0) return "no owner";
  return `owned by ${listed(names)}`;
}

function Head({ page, onPut }: { page: Page; onPut: (changes: object) => void }) {
  const { group } = page;
  const accountName = useAccountName(group.account);
  const [assigning, setAssigning] = useState(false);
  const mayEdit = !group.cannot;
  const assigns = useMay("mandala.access.assign");
  const asks = useAsks();
  const retired = textOf(group.thing, "status") === "retired";
  return (
    <PageHead
      path={[{ name: "Groups", to: "/groups" }, { name: accountName }]}
      title={
        <>
          {mayEdit ? (
            <EditableTitle
              key={group.name}
              label="Name of the group"
              name={group.name}
              onName={(name) => onPut({ set: { name } })}
            />
          ) : (
            group.name
          )}{" "}
          <DraftMark mark={group.mark} />
        </>
      }
      facts={[
        retired && "retired",
        ownersInWords(page),
        asks && (
          <Link key="use" to={pageOfUse(`group:${group.key ?? ""}`)}>
            what its members use
          </Link>
        ),
      ]}
      actions={
        <>
          {assigns && (
            <Button size="small" type="primary" onClick={() => setAssigning(true)}>
              Assign
            </Button>
          )}
          {mayEdit && (
            <>
              <Button
                size="small"
                onClick={() => onPut({ set: { status: retired ? null : "retired" } })}
              >
                {retired ? "Reactivate" : "Retire"}
              </Button>
              <ThingField
                label="Owner"
                look="button"
                value="Add an owner"
                kind="principals"
                onChoose={(it) => onPut({ add: { owners: [it] } })}
              />
            </>
          )}
        </>
      }
    >
      {assigning && (
        <LazyComposer
          open
          subject={{ ref: `group:${group.key ?? ""}`, name: group.name }}
          onClose={() => setAssigning(false)}
        />
      )}
    </PageHead>
  );
}
