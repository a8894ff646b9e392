import { useState } from "react";
import { Link } from "react-router";
import { RoutesPanel } from "@/entities/access/RoutesPanel";
import { questionAbout } from "@/entities/access/model";
import { Problem } from "@/shared/api/client";
import { pageOf } from "@/entities/thing/pages";
import { dateOf } from "@/shared/lib/words";
import { EmptyState } from "@/shared/ui/EmptyState";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Loading } from "@/shared/ui/Loading";
import { NoAccess } from "@/shared/ui/NoAccess";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { rulesOf } from "../model";
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
        rulesOf(findings).map((rule) => (
          <section key={`${rule.kind} ${rule.key}`}>
            <h2 className="part">
              <Link to={pageOf(`${rule.kind}s`, rule.key) ?? ""}>{rule.name}</Link>{" "}
              <small>{rule.kind}</small>
            </h2>
            <ul className="plain-list">
              {rule.findings.map((it) => (
                <Finding key={identityOf(it)} finding={it} />
              ))}
            </ul>
          </section>
        ))
      )}
      {elsewhere && (
        <p className="note">There are also violations in accounts where you can't see people.</p>
      )}
    </section>
  );
}

type Case = CheckedFinding["cases"][number];

/** Tells one finding of a rule from the others, also after a draft has settled some of them. */
function identityOf({ cases: [first], said }: CheckedFinding): string {
  return first ? [first.principal, first.permission, first.resource, first.name].join(" ") : said;
}

function Finding({ finding }: { finding: CheckedFinding }) {
  const [open, setOpen] = useState<number>();
  return (
    <li>
      {finding.said}
      {finding.since && (
        <small>
          {" "}
          since {dateOf(finding.since)}
          {finding.revision === undefined ? (
            ", when an access window began or ended"
          ) : (
            <>
              , <Link to={`/trail?revision=${finding.revision}`}>revision {finding.revision}</Link>
            </>
          )}
        </small>
      )}
      <ul className={styles["cases"]}>
        {finding.cases.map((it, at) => (
          <li key={at}>
            <CaseName it={it} />{" "}
            {it.principal && it.permission && it.resource && (
              <LinkButton
                aria-expanded={open === at}
                aria-label={`Why, and how to remove it: ${it.name ?? ""}`}
                onClick={() => setOpen(open === at ? undefined : at)}
              >
                Why, and how to remove it
              </LinkButton>
            )}
            {open === at && it.principal && it.permission && it.resource && (
              <RoutesPanel
                question={questionAbout(it.principal, { draft: "open" })}
                permission={it.permission}
                resource={it.resource}
              />
            )}
          </li>
        ))}
      </ul>
      {finding.moreCases > 0 && <p className="note">and {finding.moreCases} more</p>}
      {finding.elsewhere && <p className="note">Also in accounts you can't see.</p>}
    </li>
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
