import { Alert, Space } from "antd";
import { PersonField } from "@/entities/subject/PersonField";
import { useThingName } from "@/entities/thing/ThingName";
import type { Schemas } from "@/shared/api/client";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { handedInWords, standingInWords } from "../lifecycle";
import { useHandWork } from "../lifecycleQueries";
import styles from "../pages/lifecycle.module.css";

interface Props {
  person: string;
  standing: Schemas["StandingView"];
}

/** What else somebody has who leaves, and to whom their drafts and reviews go. */
export function WaitingWork({ person, standing }: Props) {
  const hand = useHandWork(person);
  const to = useThingName("principals", hand.variables ?? "");
  const facts = standingInWords(standing);
  const waits = standing.drafts + standing.rounds + standing.items > 0;
  return (
    <>
      {facts.length > 0 && (
        <ul className={styles["facts"]} aria-label="What else they have">
          {facts.map((it) => (
            <li key={it}>{it}</li>
          ))}
        </ul>
      )}
      {waits && (
        <Space wrap style={{ marginBottom: 8 }}>
          Hand drafts and reviews over to
          <PersonField
            label="Who takes over drafts and reviews"
            look="button"
            value="choose a person"
            not={person}
            onChoose={(key) => hand.mutate(key)}
          />
          <span className="quiet">takes effect at once</span>
        </Space>
      )}
      {hand.isSuccess && (
        <Alert
          type="info"
          title={handedInWords(hand.data, to).join(" ") || "Nothing was left to hand over."}
        />
      )}
      {hand.isError && <ProblemAlert problem={hand.error} />}
    </>
  );
}
