import { lazy, Suspense, useEffect, useRef, useState } from "react";
import { Alert, Progress } from "antd";
import { useParams } from "react-router";
import { DecisionBar } from "@/entities/decision/DecisionBar";
import { Evidence } from "@/entities/decision/Evidence";
import { isLeft, nextLeft, subjectsOf } from "@/entities/decision/model";
import { useItem, useMyItems } from "@/entities/decision/queries";
import { useAccounts } from "@/entities/account/queries";
import { count, dayOf } from "@/shared/lib/words";
import { useAddress } from "@/shared/lib/useAddress";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Counted } from "../components/Counted";
import { AlikeItems } from "../components/AlikeItems";
import { OtherItems } from "../components/OtherItems";
import { SubjectList } from "../components/SubjectList";
import { Together } from "../components/Together";
import styles from "./DecidePage.module.css";

const ItemHistory = lazy(async () => ({
  default: (await import("../components/ItemHistory")).ItemHistory,
}));

/** One reviewer's items of a round, with the evidence, one decision after the other. */
export function DecidePage() {
  const round = Number(useParams()["round"]);
  const mine = useMyItems(round);
  const [params, set] = useAddress();
  const accounts = useAccounts();
  const [announced, setAnnounced] = useState("");
  const head = useRef<HTMLDivElement>(null);
  const subjects = subjectsOf(mine.data?.items ?? []);
  const all = subjects.flatMap((it) => it.items);
  const asked = Number(params.get("item"));
  const [begun, setBegun] = useState<number>();
  const looked = asked || begun;
  const shown = all.find((it) => it.number === looked) ?? all.find(isLeft) ?? all[0];
  if (looked === undefined && shown) setBegun(shown.number);
  const gone = shown !== undefined && looked !== undefined && shown.number !== looked;
  const open = mine.data?.state === "open" && shown?.state !== "done";
  const item = useItem(round, open ? shown?.number : undefined);
  useEffect(() => {
    if (asked) head.current?.scrollIntoView({ block: "nearest" });
  }, [asked]);
  if (mine.isPending) return <Loading what="your items" rows={10} />;
  if (mine.isError) {
    return <ProblemAlert problem={mine.error} onRetry={() => void mine.refetch()} />;
  }
  const show = (number: number | undefined) =>
    set({ item: number === undefined ? undefined : String(number) });
  const left = all.filter(isLeft).length;
  const subject = subjects.find((it) => it.items.some((each) => each.number === shown?.number));
  const move = (by: 1 | -1) => {
    const here = all.findIndex((it) => it.number === shown?.number);
    show(all[(here + by + all.length) % all.length]?.number);
  };
  const decided = () => {
    setAnnounced(`${left - 1 > 0 ? count(left - 1, "decision") : "No decision"} left`);
    show(nextLeft(subjects, shown?.number) ?? shown?.number);
  };
  return (
    <>
      <PageHead
        path={[{ name: "Reviews", to: "/reviews" }, { name: mine.data.title }]}
        title={left > 0 ? `${left} of ${count(all.length, "decision")} left` : "All decided"}
        facts={[
          `ends ${dayOf(mine.data.ends)}`,
          shown && mine.data.stages > 1 && `step ${shown.stage + 1} of ${mine.data.stages}`,
          mine.data.state !== "open" && `this round is ${mine.data.state}`,
        ]}
      />
      <Progress
        percent={Math.round((100 * (all.length - left)) / Math.max(1, all.length))}
        showInfo={false}
        size="small"
        strokeColor="var(--administer-moderate)"
        aria-label="Decided"
      />
      <p className="hidden-text" role="status">
        {announced}
      </p>
      {all.length === 0 ? (
        <EmptyState title="Nothing is left here">
          What was yours in this round is gone from the model, or somebody else decides it.
        </EmptyState>
      ) : (
        <div className={styles["page"]}>
          <SubjectList subjects={subjects} shown={shown?.number} onShow={show} />
          <div ref={head} className={styles["item"]}>
            {gone && (
              <Alert
                type="info"
                showIcon
                style={{ marginBottom: 12 }}
                title="What you looked at is no longer yours: somebody else decides it, or the model no longer has it. Nothing of it was decided by you."
              />
            )}
            {open && item.isPending && <Loading what="the evidence" rows={8} />}
            {open && item.isError && (
              <ProblemAlert problem={item.error} onRetry={() => void item.refetch()} />
            )}
            {!open && shown && (
              <Counted round={round} item={shown} open={mine.data.state === "open"} />
            )}
            {open && shown?.remark && (
              <Alert
                type="warning"
                showIcon
                style={{ marginBottom: 12 }}
                title={`This came back: ${shown.remark}. Decide again.`}
              />
            )}
            {open && item.data && (
              <>
                <Evidence item={item.data} links={accounts.data?.people === true} />
                <DecisionBar
                  key={item.data.row.number}
                  round={round}
                  item={item.data}
                  targets={mine.data.passTo}
                  onDecided={decided}
                  onMove={move}
                />
                {item.data.history.length > 0 && (
                  <Suspense>
                    <ItemHistory item={item.data} />
                  </Suspense>
                )}
              </>
            )}
            {subject && <OtherItems subject={subject} shown={shown?.number} onShow={show} />}
            {open && shown && <AlikeItems round={round} items={all} like={shown} />}
          </div>
        </div>
      )}
      <Together round={round} items={all} open={mine.data.state === "open"} />
    </>
  );
}
