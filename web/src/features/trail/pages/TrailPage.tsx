import { useDeferredValue, useState } from "react";
import { Button } from "antd";
import { useAddress } from "@/shared/lib/useAddress";
import { count } from "@/shared/lib/words";
import { DateField } from "@/shared/ui/DateField";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { RevisionHead } from "../components/RevisionHead";
import { RevisionList } from "../components/RevisionList";
import { TrailExports } from "../components/TrailExports";
import { TrailSentence } from "../components/TrailSentence";
import { TrailTable } from "../components/TrailTable";
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
      </div>
      <div className={styles["trail"]}>
        <div>
          {revision && <RevisionHead number={Number(revision)} />}
          {trail.isPending ? (
            <Loading what="the trail" rows={12} />
          ) : trail.isError ? (
            <ProblemAlert problem={trail.error} onRetry={() => void trail.refetch()} />
          ) : (
            <>
              <p className="quiet" role="status">
                {count(trail.data.total, "record")}
                {trail.data.limited && ", of the accounts whose trail you can read and your own"}
              </p>
              {trail.data.lines.length === 0 ? (
                <EmptyState>No records match. Clear a filter.</EmptyState>
              ) : (
                <TrailTable lines={trail.data.lines} />
              )}
              {trail.data.total > trail.data.lines.length && (
                <Button size="small" onClick={() => setLimit(limit + 4 * STEP)}>
                  Load older records
                </Button>
              )}
            </>
          )}
        </div>
        <RevisionList chosen={revision} onChoose={(it) => set({ revision: it })} />
      </div>
    </>
  );
}
