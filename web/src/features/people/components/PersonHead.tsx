import { useState, type ReactNode } from "react";
import { Button } from "antd";
import { Link } from "react-router";
import { LazyComposer } from "@/entities/assignment/LazyComposer";
import { LazyThingForm } from "@/entities/form/LazyThingForm";
import { Mandala } from "@/entities/access/Mandala";
import { percent, type Excess } from "@/entities/access/excess";
import type { Answer } from "@/entities/access/model";
import { DraftMark } from "@/entities/draft/DraftMark";
import { useEdit } from "@/entities/draft/queries";
import type { Schemas } from "@/shared/api/client";
import { listOf, textOf, thingFrom } from "@/shared/lib/thing";
import { ago, count, dateOf } from "@/shared/lib/words";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Term } from "@/shared/ui/Term";
import { stateInWords, windowInWords } from "../model";
import { PersonMenu } from "./PersonMenu";

type Page = Schemas["PersonPage"];

interface Props {
  page: Page;
  /** Their whole access; absent while it loads and where the viewer can't ask. */
  figure: Answer["figure"] | undefined;
  /** What they use of it; absent likewise. */
  excess: Excess | undefined;
}

/** The head of a person's page: mandala, facts, and what the viewer may do with them. */
export function PersonHead({ page, figure, excess }: Props) {
  const { person } = page;
  return (
    <PageHead
      path={[
        { name: "People", to: "/people" },
        ...(page.account
          ? [{ name: page.account.name, to: `/people?in=${page.account.key ?? ""}` }]
          : []),
        ...(page.unit ? [{ name: page.unit.name }] : []),
      ]}
      figure={
        figure && (
          <Mandala
            figure={figure}
            shares={excess && { used: excess.used, kept: excess.kept }}
            size={150}
            label={`${person.name}: ${count(figure.rights, "right")}`}
          />
        )
      }
      title={
        <>
          {person.name} <DraftMark mark={person.mark} />
        </>
      }
      facts={[...factsOf(page), excess && <Exposure excess={excess} />]}
      actions={<Actions page={page} />}
    />
  );
}

function factsOf(page: Page): ReactNode[] {
  const { thing } = page.person;
  const { title, ...attributes } = thingFrom(thingFrom(thing)["attributes"]);
  const email = textOf(thing, "email");
  const window = windowInWords(textOf(thing, "from"), textOf(thing, "until"));
  const reach = listOf<{ unit: string; level: string }>(thing, "reach");
  const seen = page.lastSeen;
  const service = textOf(thing, "kind") === "service";
  return [
    service ? "service" : typeof title === "string" ? title : "",
    stateInWords(page.state),
    page.manager && (
      <>
        reports to <Named it={page.manager} />
      </>
    ),
    page.sponsor && (
      <>
        answered for by <Named it={page.sponsor} />
      </>
    ),
    email,
    page.mailRefusal && (
      <span className="warning">mail refused: {page.mailRefusal}. Correct the address.</span>
    ),
    <span key="seen" title={seen && dateOf(seen)}>
      last seen {ago(seen, new Date())}
    </span>,
    !service && `second factor: ${thingFrom(thing)["mfa"] === true ? "enrolled" : "none"}`,
    window,
    ...Object.entries(attributes).map(([name, value]) => `${name}: ${String(value)}`),
    reach.length > 0 && (
      <>
        <Term word="reach">reaches</Term>{" "}
        {reach.map((it) => `${it.unit}${it.level === "view" ? " (view)" : ""}`).join(", ")}
      </>
    ),
  ];
}

function Exposure({ excess }: { excess: Excess }) {
  const { exposure, unusedExposure, days } = excess;
  if (exposure === 0) return null;
  return (
    <Link to="?tab=use">
      exposure {exposure.toLocaleString("en")}, {percent(unusedExposure, exposure)} not used in{" "}
      {days} days
    </Link>
  );
}

function Named({ it }: { it: Schemas["Linked"] }) {
  return it.key ? <Link to={`/people/${encodeURIComponent(it.key)}`}>{it.name}</Link> : it.name;
}

function Actions({ page }: { page: Page }) {
  const { person, cannot } = page;
  const key = person.key ?? "";
  const id = encodeURIComponent(key);
  const suspended = page.state === "suspended";
  const edit = useEdit();
  const [form, setForm] = useState<"assign" | "edit">();
  const close = () => setForm(undefined);
  return (
    <>
      {!cannot.assign && (
        <Button size="small" type="primary" onClick={() => setForm("assign")}>
          Assign
        </Button>
      )}
      {!cannot.edit && (
        <>
          <Button size="small" onClick={() => setForm("edit")}>
            Edit details
          </Button>
          <Button
            size="small"
            loading={edit.isPending}
            onClick={() =>
              edit.mutate([
                { kind: "principals", key, set: { status: suspended ? null : "suspended" } },
              ])
            }
          >
            {suspended ? "Reactivate" : "Suspend"}
          </Button>
        </>
      )}
      {!cannot.edit && <PersonMenu page={page} />}
      {!cannot.ask && <Link to={`/ask/differ?one=${id}`}>Compare</Link>}
      {!cannot.viewAs && <Link to={`/look?as=${id}`}>View as {person.name}</Link>}
      {edit.isError && <ProblemAlert problem={edit.error} />}
      {form === "edit" && <LazyThingForm kind="principals" existing={person} onClose={close} />}
      {form === "assign" && (
        <LazyComposer
          open
          subject={{ ref: `${textOf(person.thing, "kind")}:${key}`, name: person.name }}
          onClose={close}
        />
      )}
    </>
  );
}
