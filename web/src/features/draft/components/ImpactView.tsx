import { AreaTable } from "@/entities/access/AreaTable";
import { VerdictMark } from "@/entities/access/VerdictMark";
import type { DraftView, ImpactView as Impact } from "@/entities/draft/queries";
import type { AccessClass, Risk } from "@/shared/theme/theme";
import { DataTable } from "@/shared/ui/DataTable";
import { byRule, keptInWords } from "../model";
import { ImpactPeople } from "./ImpactPeople";
import styles from "./ImpactView.module.css";

interface Props {
  impact: Impact;
  draft: DraftView;
}

const figure = (many: number) => (many > 0 ? many.toLocaleString("en") : "");

/** What a draft does to everyone, down to each right. */
export function ImpactView({ impact, draft }: Props) {
  const kept = keptInWords(impact);
  return (
    <>
      <p className="summary" role="status">
        {impact.summary}
      </p>
      <Rules title="New violations" findings={impact.begin} raised />
      <Rules title="Resolved" findings={impact.end} />
      {impact.denies.length > 0 && (
        <p className="warning">Removing a deny widens access: {impact.denies.join("; ")}.</p>
      )}
      {impact.people.length > 0 && (
        <>
          <h3>People</h3>
          <ImpactPeople impact={impact} draft={draft} />
        </>
      )}
      {impact.elsewhere && (
        <p className="note">
          It also affects people or rules in accounts you can't see. The figures here leave them
          out.
        </p>
      )}
      {kept && <p className="note">{kept}</p>}
      {impact.permissions.length > 0 && (
        <>
          <h3>Permissions</h3>
          <DataTable
            label="Permissions"
            rows={impact.permissions}
            rowKey={(it) => it.key}
            columns={[
              {
                key: "name",
                title: "Permission",
                card: "title",
                render: (it) => (
                  <>
                    <VerdictMark
                      verdict="allowed"
                      accessClass={it.accessClass as AccessClass}
                      risk={it.risk as Risk}
                    />{" "}
                    {it.name}
                  </>
                ),
              },
              { key: "risk", title: "Risk", render: (it) => it.risk },
              { key: "gained", title: "Gained", numeric: true, render: (it) => figure(it.gained) },
              { key: "lost", title: "Lost", numeric: true, render: (it) => figure(it.lost) },
            ]}
          />
          <h3>Areas</h3>
          <AreaTable areas={impact.areas} words={{ gained: "Gained", lost: "Lost" }} />
        </>
      )}
    </>
  );
}

interface RulesProps {
  title: string;
  findings: Impact["begin"];
  raised?: boolean;
}

function Rules({ title, findings, raised }: RulesProps) {
  if (findings.length === 0) return null;
  return (
    <>
      <h3>{title}</h3>
      <ul className={styles["findings"]}>
        {byRule(findings).map((it) => (
          <li key={it.key} className={raised ? "adds" : undefined}>
            <strong>{it.name}</strong> <small>{it.kind}</small> {it.said.join("; ")}
            {it.more > 0 && `; and ${it.more} more`}
          </li>
        ))}
      </ul>
    </>
  );
}
