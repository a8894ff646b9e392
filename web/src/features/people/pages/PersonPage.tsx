import { useState } from "react";
import { Button } from "antd";
import { Link, useParams } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { useAccountName } from "@/entities/account/queries";
import { AssignmentList } from "@/entities/assignment/AssignmentList";
import { Composer } from "@/entities/assignment/Composer";
import { DraftMark } from "@/entities/draft/DraftMark";
import { useEdit } from "@/entities/draft/queries";
import { ThingForm } from "@/entities/form";
import { usePersonPage } from "@/entities/thing/queries";
import { listOf, textOf, thingFrom } from "@/shared/lib/thing";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Memberships } from "../components/Memberships";
import { OtherAccess } from "../components/OtherAccess";

type Page = Schemas["PersonPage"];

/** A person: facts, groups, and every assignment that applies to them. */
export function PersonPage() {
  const { key = "" } = useParams();
  const page = usePersonPage(key);
  if (page.isPending) return <Loading what="the person" />;
  if (page.isError) {
    return <ProblemAlert problem={page.error} onRetry={() => void page.refetch()} />;
  }
  return (
    <>
      <Head page={page.data} />
      <Memberships page={page.data} />
      <h2 className="part">Assignments that apply to {page.data.person.name}</h2>
      <AssignmentList label="Assignments" assignments={page.data.assignments} />
      <OtherAccess person={page.data.person} />
    </>
  );
}

function factsOf(page: Page): string[] {
  const { thing } = page.person;
  const attributes = thingFrom(thingFrom(thing)["attributes"]);
  return [
    textOf(thing, "kind"),
    textOf(thing, "status") || "active",
    page.unit ? `unit ${page.unit}` : "",
    page.manager ? `reports to ${page.manager}` : "",
    ...Object.entries(attributes).map(([name, value]) => `${name}: ${String(value)}`),
    ...listOf<{ unit: string; level: string }>(thing, "reach").map(
      (it) => `reaches ${it.unit} (${it.level})`,
    ),
  ];
}

function Head({ page }: { page: Page }) {
  const { person } = page;
  const key = person.key ?? "";
  const id = encodeURIComponent(key);
  const kind = textOf(person.thing, "kind");
  const suspended = textOf(person.thing, "status") === "suspended";
  const accountName = useAccountName(person.account);
  const edit = useEdit();
  const [form, setForm] = useState<"assign" | "edit">();
  return (
    <PageHead
      path={[{ name: "People", to: "/people" }, { name: accountName }]}
      title={
        <>
          {person.name} <DraftMark mark={person.mark} />
        </>
      }
      facts={factsOf(page)}
      actions={
        <>
          <Button size="small" type="primary" onClick={() => setForm("assign")}>
            Assign
          </Button>
          <Button size="small" onClick={() => setForm("edit")}>
            Edit details
          </Button>
          <Button
            size="small"
            onClick={() =>
              edit.mutate([
                { kind: "principals", key, set: { status: suspended ? null : "suspended" } },
              ])
            }
          >
            {suspended ? "Reactivate" : "Suspend"}
          </Button>
          <Link to={`/ask?who=${id}`}>What can they do?</Link>
          <Link to={`/ask/differ?one=${id}`}>Compare</Link>
          <Link to={`/look?as=${id}`}>View as {person.name}</Link>
        </>
      }
    >
      {edit.isError && <ProblemAlert problem={edit.error} />}
      {form === "edit" && (
        <ThingForm kind="principals" existing={person} onClose={() => setForm(undefined)} />
      )}
      {form === "assign" && (
        <Composer
          open
          subject={{ ref: `${kind}:${key}`, name: person.name }}
          onClose={() => setForm(undefined)}
        />
      )}
    </PageHead>
  );
}
