import { useDeferredValue, useState } from "react";
import { Button } from "antd";
import { EraseButton } from "@/entities/erasure/EraseButton";
import { useAddress } from "@/shared/lib/useAddress";
import { DateField } from "@/shared/ui/DateField";
import { RevisionHead } from "../components/RevisionHead";
import { RevisionList } from "../components/RevisionList";
import { TrailExports } from "../components/TrailExports";
import { TrailLines } from "../components/TrailLines";
import { TrailSentence } from "../components/TrailSentence";
import { filterOf, STEP } from "../model";
import { useTrail } from "../queries";
import styles from "./TrailPage.module.css";

const NOTHING = { who: "", act: "", place: "", from: "", until: "", revision: "", text: "" };

/** Who did what, when and from where. */
export function TrailPage() {
  const [params, setAddress] = useAddress();
  const [limit, setLimit] = useState(STEP);
  const [typed, setTyped] = useState(params.get("text") ?? "");
  const text = useDeferredValue(typed);
  const revision = params.get("revision");
  const filter = filterOf(params, text);
  const trail = useTrail(filter, limit);
  const thing = filter.kind === "principals" ? filter.thing : undefined;
  const filtered = Object.keys(filter).length > 0;

  function set(changes: Record<string, string>) {
    setAddress(changes);
    setLimit(STEP);
  }

  return (
    <>
      <TrailSentence params={params} typed={typed} onType={setTyped} onChange={set} />
      <div className="acts">
        <span>
          From{" "}
          <DateField
            label="From"
            value={params.get("from") ?? ""}
            onChange={(from) => set({ from })}
          />
        </span>
        <span>
          until{" "}
          <DateField
            label="Until"
            value={params.get("until") ?? ""}
            onChange={(until) => set({ until })}
          />
        </span>
        {filtered && (
          <Button
            size="small"
            onClick={() => {
              setTyped("");
              set(NOTHING);
            }}
          >
            Clear filters
          </Button>
        )}
        <TrailExports filter={filter} />
        {thing && <EraseButton person={thing} />}
      </div>
      <div className={styles["trail"]}>
        <div>
          {revision && <RevisionHead number={Number(revision)} />}
          <TrailLines
            trail={trail}
            what="the trail"
            none="No records match. Clear a filter."
            onMore={() => setLimit(limit + 4 * STEP)}
          />
        </div>
        <RevisionList chosen={revision} onChoose={(it) => set({ revision: it })} />
      </div>
    </>
  );
}
