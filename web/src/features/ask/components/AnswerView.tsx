import { useMemo } from "react";
import { Button } from "antd";
import { accessAddress, narrowed, type Answer, type Question } from "@/entities/access/model";
import { AnswerExports } from "@/entities/access/AnswerExports";
import { Mandala } from "@/entities/access/Mandala";
import { firstName } from "@/shared/lib/words";
import { EmptyState } from "@/shared/ui/EmptyState";
import { LinkButton } from "@/shared/ui/LinkButton";
import { AccessTable } from "./AccessTable";
import { ActedFor } from "./ActedFor";
import styles from "./AnswerView.module.css";
import { Legend } from "./Legend";

interface Props {
  answer: Answer;
  question: Question;
  /** The sector that the table is narrowed to. */
  area: string | undefined;
  onArea: (area: string) => void;
  /** Asks as if the person were active. */
  onActive?: () => void;
  /** Leaves the mandala out, where the page has it already. */
  withoutFigure?: boolean;
}

const NEXT: Record<string, string> = {
  inactive:
    "People who are not active can do nothing, whatever is assigned to them. Choose another date.",
  absent: "Choose another revision, or ask without the draft.",
};

function refusalInWords(answer: Answer): string {
  const name = answer.principal.name;
  switch (answer.refusal) {
    case "absent":
      return `${name} is not in the directory of this revision or draft`;
    case "inactive":
      return `${answer.actingFor ? `${name} or ${answer.actingFor.name}` : name} is not active at that time`;
    default:
      return `${name} can't act for ${answer.actingFor?.name ?? "them"} at that time`;
  }
}

/** What somebody can do: the mandala, and the table by place. */
export function AnswerView(props: Props) {
  const { answer, question, area, onArea, onActive, withoutFigure } = props;
  const permissions = useMemo(
    () => new Map(answer.permissions.map((it) => [it.key, it])),
    [answer.permissions],
  );
  const regions = useMemo(() => narrowed(answer.regions, area), [answer.regions, area]);
  const chosen = answer.figure.sectors.find((it) => it.key === area);
  if (answer.refusal) {
    return (
      <EmptyState
        title={refusalInWords(answer)}
        action={
          answer.refusal === "inactive" &&
          !answer.actingFor &&
          !question.asActive &&
          onActive && <Button onClick={onActive}>Show what they can do once active</Button>
        }
      >
        {NEXT[answer.refusal] ?? "Choose another date, or somebody who has delegated to them."}
      </EmptyState>
    );
  }
  return (
    <div className={withoutFigure ? styles["alone"] : styles["answer"]}>
      {!withoutFigure && (
        <figure className={styles["figure"]}>
          <Mandala
            figure={answer.figure}
            size={500}
            centre={firstName(answer.principal.name)}
            chosen={chosen?.key}
            onChoose={(sector) => onArea(sector === area ? "" : sector)}
            label={`Access of ${answer.principal.name}`}
          />
          <figcaption>
            <Legend />
          </figcaption>
        </figure>
      )}
      <section className={styles["regions"]} aria-label="Access by place">
        {chosen && (
          <p className={styles["narrowed"]}>
            <span>
              Only <strong>{chosen.name}</strong>
            </span>
            <LinkButton onClick={() => onArea("")}>Show all areas</LinkButton>
          </p>
        )}
        {question.asActive && (
          <p className="note">
            {answer.principal.name} may not be active yet. This is what they can do once they are.
          </p>
        )}
        {answer.draftCut ? (
          <p className="note">The draft's effect is shown only in accounts you can read.</p>
        ) : (
          answer.limited && <p className="note">This covers only the accounts you can ask about.</p>
        )}
        {answer.everybody && <ActedFor answer={answer} />}
        {regions.length === 0 ? (
          <EmptyState>
            {answer.principal.name} can do nothing here. Choose another account or date.
          </EmptyState>
        ) : (
          <AccessTable
            key={area ?? ""}
            regions={regions}
            permissions={permissions}
            question={question}
            unfold={chosen !== undefined}
          />
        )}
        <AnswerExports address={accessAddress(question)} />
      </section>
    </div>
  );
}
