import { lazy, Suspense, useState } from "react";
import { Button, Descriptions, Slider } from "antd";
import dayjs from "dayjs";
import { Link } from "react-router";
import type { Trim } from "@/entities/access/excess";
import { useTakeTrim } from "@/entities/draft/queries";
import { count } from "@/shared/lib/words";
import { EmptyState } from "@/shared/ui/EmptyState";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { choiceOf, firstStop, type RareFate } from "./trim";
import styles from "./UseOfAccess.module.css";

const RareAssignments = lazy(() => import("./RareAssignments"));
const TrimCurve = lazy(() => import("./TrimCurve"));

interface Props {
  trim: Trim;
  job: string;
  /** Called to leave a thing as it is, by its kind and key. */
  onKeep: (thing: string) => void;
}

const number = (it: number) => it.toLocaleString("en");
const signed = (it: number) => (it > 0 ? `+${number(it)}` : number(it).replace("-", "−"));

/** Where to stop on the way to what is needed, and what becomes of what is rarely used. */
export function TrimChoice({ trim, job, onKeep }: Props) {
  const [at, setAt] = useState(() => firstStop(trim));
  const [fates, setFates] = useState<Record<string, RareFate>>({});
  const [until, setUntil] = useState(() => dayjs().add(90, "day").endOf("day").toISOString());
  const take = useTakeTrim(job);
  const point = trim.points[at];
  if (!point && trim.rare.length === 0) {
    return (
      <EmptyState title="Nothing can go">
        What they don&apos;t use comes with what somebody needs, or you can&apos;t change what
        grants it.
      </EmptyState>
    );
  }
  const steps = trim.steps.slice(0, point?.steps ?? 0);
  const rare = Object.values(fates).filter((it) => it !== "leave").length;
  const changes = steps.length + rare;
  return (
    <>
      {trim.part && (
        <p className="note">
          People whose whole access you can&apos;t see are left out. These are{" "}
          {count(trim.people, "person", "people")}.
        </p>
      )}
      {point && (
        <div className={styles["choice"]}>
          <div>
            <Slider
              ariaLabelForHandle="How far to trim"
              min={0}
              max={trim.points.length - 1}
              value={at}
              onChange={setAt}
              tooltip={{ formatter: () => count(point.steps, "change") }}
            />
            <p className={styles["ends"]}>
              <span>the safest and simplest</span>
              <span>{trim.narrows ? "exactly what is needed" : "all that nobody needs"}</span>
            </p>
            <Descriptions
              column={1}
              size="small"
              items={[
                {
                  key: "own",
                  label: trim.people === 1 ? "Their exposure" : "Exposure of all of them",
                  children: `${number(trim.own)} → ${number(point.own)}, of which ${number(trim.ownFloor)} is needed`,
                },
                {
                  key: "all",
                  label: "Removed from everyone",
                  children: number(trim.before - point.after),
                },
                { key: "steps", label: "Changes", children: number(point.steps) },
                {
                  key: "assignments",
                  label: "Assignments",
                  children: `${signed(point.assignments)}, ${count(point.added, "new statement")}`,
                },
              ]}
            />
          </div>
          <Suspense fallback={<div className={styles["curve"]} />}>
            <TrimCurve trim={trim} chosen={at} onChoose={setAt} />
          </Suspense>
        </div>
      )}
      {!trim.narrows && (
        <p className="note">
          Assignments are not narrowed: you need “Define rights” on the accounts of those who hold
          them.
        </p>
      )}
      {steps.length > 0 && (
        <ol className={styles["steps"]} aria-label="Changes">
          {steps.map((step, i) => (
            <li key={i}>
              {step.said.join("; ")}. <span className="note">Safe because {step.why}.</span>{" "}
              {step.key && (
                <LinkButton onClick={() => onKeep(`${step.kind}:${step.key}`)}>
                  Leave as it is
                </LinkButton>
              )}
            </li>
          ))}
        </ol>
      )}
      {trim.rare.length > 0 && (
        <Suspense fallback={<Loading what="what is rarely used" />}>
          <RareAssignments
            trim={trim}
            fates={fates}
            onFate={(key, fate) => setFates({ ...fates, [key]: fate })}
            until={until}
            onUntil={setUntil}
          />
        </Suspense>
      )}
      {take.isError && <ProblemAlert problem={take.error} />}
      {take.data ? (
        <p>
          The changes are in a new draft.{" "}
          <Link to={`/drafts/${take.data.draft}`}>Open the draft</Link>
        </p>
      ) : (
        <Button
          type="primary"
          style={{ marginTop: 10 }}
          disabled={changes === 0}
          loading={take.isPending}
          onClick={() => take.mutate(choiceOf(point?.steps ?? 0, fates, until))}
        >
          Add {count(changes, "change")} to a new draft
        </Button>
      )}
    </>
  );
}
