import { useState } from "react";
import { Link } from "react-router";
import { RoutesPanel } from "@/entities/access/RoutesPanel";
import { questionAbout } from "@/entities/access/model";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { pageOfRule } from "../model";
import { useChecks, type CheckedFinding } from "../queries";
import styles from "./RuleCases.module.css";

/** Who violates a rule and where, with the open draft applied; each case opens its routes. */
export function RuleCases({ id }: { id: string }) {
  const checks = useChecks();
  const [open, setOpen] = useState<number>();
  if (checks.isPending) return <Loading what="the cases" />;
  if (checks.isError) {
    return <ProblemAlert problem={checks.error} onRetry={() => void checks.refetch()} />;
  }
  const finding = checks.data.findings.find((it) => it.id === id);
  if (!finding) return <p className="note">Your draft resolves this violation.</p>;
  return <Cases finding={finding} open={open} onOpen={setOpen} />;
}

interface Props {
  finding: CheckedFinding;
  /** The case whose routes are open. */
  open: number | undefined;
  onOpen: (at: number | undefined) => void;
}

function Cases({ finding, open, onOpen }: Props) {
  const opened = open === undefined ? undefined : finding.cases[open];
  return (
    <>
      <p>
        Rule: <Link to={pageOfRule(finding.kind, finding.key)}>{finding.name}</Link>
      </p>
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
      {opened?.principal && opened.permission && opened.resource && (
        <RoutesPanel
          question={questionAbout(opened.principal, { draft: "open" })}
          permission={opened.permission}
          resource={opened.resource}
        />
      )}
    </>
  );
}

type Case = CheckedFinding["cases"][number];

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
