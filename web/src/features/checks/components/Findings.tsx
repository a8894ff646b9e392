import { useState } from "react";
import { Link } from "react-router";
import { ProblemNote } from "../../../components/ProblemNote";
import { Waiting } from "../../../components/Waiting";
import { when } from "../../../lib/words";
import { RoutesPanel } from "../../ask/components/RoutesPanel";
import { rulesOf } from "../model";
import { useChecks, type CheckedFinding } from "../queries";

/** Every rule that does not hold; each case opens its routes and the ways to mend it. */
export function Findings() {
  const checks = useChecks();
  if (checks.isPending) return <Waiting what="the checks" />;
  if (checks.isError) {
    return <ProblemNote problem={checks.error} onRetry={() => void checks.refetch()} />;
  }
  const { findings, elsewhere } = checks.data;
  return (
    <section aria-label="Findings">
      {findings.length === 0 ? (
        <div className="empty">
          <p>Every rule holds.</p>
        </div>
      ) : (
        rulesOf(findings).map((rule) => (
          <section key={`${rule.kind} ${rule.key}`} className="rule">
            <h2 className="part">
              {rule.name} <small>{rule.kind}</small>
            </h2>
            <ul className="said">
              {rule.findings.map((it, at) => (
                <FindingRow key={at} finding={it} />
              ))}
            </ul>
          </section>
        ))
      )}
      {elsewhere && (
        <p className="note">Rules are also broken elsewhere, where you can't see people.</p>
      )}
    </section>
  );
}

function FindingRow({ finding }: { finding: CheckedFinding }) {
  const [open, setOpen] = useState<number>();
  return (
    <li className="finding">
      <span>
        {finding.said}
        {finding.since && (
          <small>
            seen since {when(finding.since)}
            {finding.revision !== undefined && `, revision ${finding.revision}`}
          </small>
        )}
        <ul className="cases">
          {finding.cases.map((it, at) => (
            <li key={at}>
              {it.principal ? (
                <Link to={`/people/${encodeURIComponent(it.principal)}`}>{it.name}</Link>
              ) : (
                it.permission && "Nobody signed in"
              )}
              {it.permissionName && `: ${it.permissionName}`}
              {it.resourceName && ` on ${it.resourceName}`}{" "}
              {it.principal && it.permission && it.resource && (
                <button
                  type="button"
                  className="link"
                  aria-expanded={open === at}
                  onClick={() => setOpen(open === at ? undefined : at)}
                >
                  why, and what ends it
                </button>
              )}
              {open === at && it.principal && it.permission && it.resource && (
                <RoutesPanel
                  question={{
                    who: it.principal,
                    in: "",
                    doors: true,
                    at: "",
                    factor: true,
                    actingFor: "",
                    draft: "open",
                  }}
                  permission={it.permission}
                  resource={it.resource}
                />
              )}
            </li>
          ))}
        </ul>
        {finding.moreCases > 0 && <p className="note">and {finding.moreCases} more</p>}
        {finding.elsewhere && <p className="note">also elsewhere</p>}
      </span>
    </li>
  );
}
