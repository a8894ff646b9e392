import { useState } from "react";
import { Link } from "react-router";
import { RoutesPanel } from "@/entities/access/RoutesPanel";
import { questionAbout } from "@/entities/access/model";
import { SavedViews } from "@/entities/view/SavedViews";
import { Problem } from "@/shared/api/client";
import { dateOf } from "@/shared/lib/words";
import { DataTable } from "@/shared/ui/DataTable";
import { EmptyState } from "@/shared/ui/EmptyState";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Loading } from "@/shared/ui/Loading";
import { NoAccess } from "@/shared/ui/NoAccess";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { pageOfRule } from "../model";
import { useChecks, type CheckedFinding } from "../queries";
import styles from "./Findings.module.css";

/** Every violated rule; each case opens its routes and how to remove the access. */
export function Findings() {
  const checks = useChecks();
  if (checks.isPending) return <Loading what="the findings" />;
  if (checks.isError && checks.error instanceof Problem && checks.error.status === 403) {
    return (
      <NoAccess what="findings">
        A finding is access that breaks an expectation or an exclusion.
      </NoAccess>
    );
  }
  if (checks.isError) {
    return <ProblemAlert problem={checks.error} onRetry={() => void checks.refetch()} />;
  }
  const { findings, elsewhere } = checks.data;
  return (
    <section aria-label="Findings">
      {findings.length === 0 ? (
        <EmptyState>
          No violations. Add an expectation or an exclusion to have more checked.
        </EmptyState>
      ) : (
        <FindingTable findings={findings} />
      )}
      {elsewhere && (
        <p className="note">There are also violations in accounts where you can't see people.</p>
      )}
    </section>
  );
}

function FindingTable({ findings }: { findings: CheckedFinding[] }) {
  const [open, setOpen] = useState<{ row: string; at: number }>();
  const opened = findings.find((it) => identityOf(it) === open?.row)?.cases[open?.at ?? 0];
  return (
    <DataTable
      label="Findings"
      tools="findings"
      extra={<SavedViews />}
      rows={findings}
      rowKey={identityOf}
      detail={{
        open: open && opened ? [open.row] : [],
        render: () =>
          opened?.principal &&
          opened.permission &&
          opened.resource && (
            <RoutesPanel
              question={questionAbout(opened.principal, { draft: "open" })}
              permission={opened.permission}
              resource={opened.resource}
            />
          ),
      }}
      columns={[
        {
          key: "finding",
          title: "Finding",
          card: "title",
          order: (it) => it.said,
          render: (it) => (
            <Said
              finding={it}
              open={open?.row === identityOf(it) ? open.at : undefined}
              onOpen={(at) => setOpen(at === undefined ? undefined : { row: identityOf(it), at })}
            />
          ),
        },
        {
          key: "rule",
          title: "Rule",
          width: "26%",
          order: (it) => it.name,
          render: (it) => (
            <>
              <Link to={pageOfRule(it.kind, it.key)}>{it.name}</Link> <small>{it.kind}</small>
            </>
          ),
        },
        {
          key: "account",
          title: "Account",
          width: 150,
          quiet: true,
          order: accountsOf,
          render: accountsOf,
        },
        {
          key: "since",
          title: "Since",
          width: 200,
          quiet: true,
          order: (it) => it.since ?? "",
          render: (it) => <Since finding={it} />,
        },
      ]}
    />
  );
}

type Case = CheckedFinding["cases"][number];

/** Tells one finding from the others, also after a draft has settled some of them. */
function identityOf({ kind, key, cases: [first], said }: CheckedFinding): string {
  const about = first ? [first.principal, first.permission, first.resource, first.name] : [said];
  return [kind, key, ...about].join(" ");
}

function accountsOf({ cases }: CheckedFinding): string {
  return [...new Set(cases.flatMap((it) => it.account ?? []))].join(", ");
}

function Since({ finding: { since, revision } }: { finding: CheckedFinding }) {
  if (!since) return null;
  return (
    <>
      {dateOf(since)}
      <br />
      {revision === undefined ? (
        "when an access window began or ended"
      ) : (
        <Link to={`/trail?revision=${revision}`}>revision {revision}</Link>
      )}
    </>
  );
}

interface SaidProps {
  finding: CheckedFinding;
  /** The case whose routes are open. */
  open: number | undefined;
  onOpen: (at: number | undefined) => void;
}

/** What is found, and each case with the way to its routes and remedies. */
function Said({ finding, open, onOpen }: SaidProps) {
  return (
    <>
      {finding.said}
      <ul className={styles["cases"]}>
        {finding.cases.map((it, at) => (
          <li key={at}>
            <CaseName it={it} />{" "}
            {it.principal && it.permission && it.resource && (
              <LinkButton
                aria-expanded={open === at}
                aria-label={`Why, and how to remove it: ${it.name ?? ""}`}
                onClick={() => onOpen(open === at ? undefined : at)}
              >
                Why, and how to remove it
              </LinkButton>
            )}
          </li>
        ))}
      </ul>
      {finding.moreCases > 0 && <p className="note">and {finding.moreCases} more</p>}
      {finding.elsewhere && <p className="note">Also in accounts you can't see.</p>}
    </>
  );
}

function CaseName({ it }: { it: Case }) {
  return (
    <>
      {it.principal ? (
        <Link to={`/people/${encodeURIComponent(it.principal)}`}>{it.name}</Link>
      ) : (
        it.permission && "Anyone not signed in"
      )}
      {it.permissionName && `: ${it.permissionName}`}
      {it.resourceName && ` on ${it.resourceName}`}
    </>
  );
}
