import { useState } from "react";
import { AnswerExports } from "@/entities/access/AnswerExports";
import { AreaTable } from "@/entities/access/AreaTable";
import { Mandala } from "@/entities/access/Mandala";
import {
  differAddress,
  questionAbout,
  type DifferAsked,
  type Question,
} from "@/entities/access/model";
import type { DifferenceAnswer } from "@/entities/access/queries";
import { RightDifferences } from "@/entities/access/RightDifferences";
import { count, firstName } from "@/shared/lib/words";
import styles from "./DifferenceView.module.css";

interface Props {
  answer: DifferenceAnswer;
  asked: DifferAsked;
}

/** Two accesses side by side: the mandalas, the areas, and each right that differs. */
export function DifferenceView({ answer, asked }: Props) {
  const { one, other } = answer;
  const [area, setArea] = useState<string>();
  return (
    <>
      <div className={styles["differ"]}>
        {[one, other].map((side, at) => (
          <figure key={at}>
            <Mandala
              figure={side.figure}
              size={300}
              centre={firstName(side.name)}
              labels={false}
              chosen={area}
              edges={{ raised: at === 0 ? answer.less : answer.more }}
              label={`Access of ${side.name}`}
            />
            <figcaption>
              <strong>{side.name}</strong>
              {side.title && <small>{side.title}</small>}
              {side.refusal && (
                <small>
                  {side.refusal === "absent"
                    ? "not in the directory at that time"
                    : "not active at that time"}
                </small>
              )}
            </figcaption>
          </figure>
        ))}
        <div>
          <p className="summary" role="status">
            {answer.gained + answer.lost === 0
              ? "No difference."
              : `Only ${one.name}: ${count(answer.lost, "right")}. Only ${other.name}: ${count(answer.gained, "right")}.`}
          </p>
          {answer.areas.length > 0 && (
            <>
              <AreaTable
                areas={answer.areas}
                words={{
                  gained: `Only ${firstName(other.name)}`,
                  lost: `Only ${firstName(one.name)}`,
                }}
                onPoint={setArea}
              />
              <p className="note">An outlined petal marks what only that side has.</p>
            </>
          )}
        </div>
      </div>
      <RightDifferences
        lines={answer.lines}
        words={{ gained: `only ${other.name} on`, lost: `only ${one.name} on` }}
        question={(it) => whyQuestion(it.gained > 0, answer, asked)}
      />
      <AnswerExports address={differAddress(asked)} />
    </>
  );
}

/** Why one side has it: about the holder, or else about the person without it. */
function whyQuestion(
  gained: boolean,
  { one, other }: DifferenceAnswer,
  asked: DifferAsked,
): Question | undefined {
  const holder = gained ? other : one;
  const person = holder.kind === "person" ? holder : gained ? one : other;
  if (person.kind !== "person") return undefined;
  const second = person === other;
  const revision = second ? asked.otherRevision : asked.revision;
  const draft = second ? asked.otherDraft : asked.draft;
  return questionAbout(person.key, {
    at: (second ? asked.otherAt : asked.at) ?? "",
    ...(revision && { revision }),
    ...(draft && { draft }),
  });
}
