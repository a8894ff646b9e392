import { useState } from "react";
import { Alert, Button, Input, Modal, Tag } from "antd";
import { Link, useParams } from "react-router";
import { count, dayOf } from "@/shared/lib/words";
import { DataTable, type Column } from "@/shared/ui/DataTable";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { GiveDialog } from "../components/GiveDialog";
import { RoundEffects } from "../components/RoundEffects";
import { contentsInWords, isHasty, paceInWords, RISK_WORDS } from "../model";
import { useCancelRound, useRound, type Reviewer } from "../queries";

/** How a round goes: who has decided how much, how, and how fast. */
export function RoundPage() {
  const round = Number(useParams()["round"]);
  const detail = useRound(round);
  const [giving, setGiving] = useState<Reviewer>();
  const [cancelling, setCancelling] = useState(false);
  if (detail.isPending) return <Loading what="the review" />;
  if (detail.isError) {
    return <ProblemAlert problem={detail.error} onRetry={() => void detail.refetch()} />;
  }
  const { round: it, reviewers } = detail.data;
  const running = it.state === "open" || it.state === "planned";
  return (
    <>
      <PageHead
        path={[{ name: "Reviews", to: "/reviews" }, { name: it.title }]}
        title={it.title}
        facts={[
          `${RISK_WORDS[it.order.risk]} of ${contentsInWords(it.order.contents)}`,
          `${dayOf(it.begins)} – ${dayOf(it.ends)}`,
          it.late ? "closing" : it.state,
          it.items > 0 && `${it.finished} of ${count(it.items, "item")} decided`,
          it.revision !== undefined && (
            <Link to={`/trail?revision=${it.revision}`}>revision {it.revision}</Link>
          ),
          it.cause && `made because ${it.cause}`,
          `run by ${it.ownerName}`,
        ]}
        actions={
          running ? (
            <Button onClick={() => setCancelling(true)}>Cancel review</Button>
          ) : (
            it.state === "closed" && <Link to={`/reviews/${round}/report`}>Report</Link>
          )
        }
      />
      {it.heldUp && (
        <Alert type="warning" showIcon title={`It waits: ${it.heldUp.replace(/\.$/, "")}.`} />
      )}
      {it.reason && <p>Cancelled: {it.reason}</p>}
      <RoundEffects round={it} />
      <h2 className="part">Reviewers</h2>
      <DataTable<Reviewer>
        label="Reviewers"
        rows={reviewers}
        rowKey={(row) => row.who ?? row.name}
        columns={columns(it.state === "open" ? setGiving : undefined)}
        empty="No one has anything to decide yet."
      />
      {giving && (
        <GiveDialog round={round} reviewer={giving} onClose={() => setGiving(undefined)} />
      )}
      {cancelling && <CancelDialog round={round} onClose={() => setCancelling(false)} />}
    </>
  );
}

function columns(onGive: ((it: Reviewer) => void) | undefined): Column<Reviewer>[] {
  const number = (key: "items" | "left" | "kept" | "reduced" | "removed"): Column<Reviewer> => ({
    key,
    title: key,
    numeric: true,
    width: 90,
    render: (it) => it[key].toLocaleString("en"),
    order: (it) => it[key],
  });
  return [
    {
      key: "name",
      title: "reviewer",
      render: (it) => (
        <>
          {it.name} {isHasty(it) && <Tag color="warning">look closer</Tag>}
        </>
      ),
    },
    number("items"),
    number("left"),
    number("kept"),
    number("reduced"),
    number("removed"),
    {
      key: "keeps",
      title: "share kept",
      numeric: true,
      width: 110,
      render: (it) => (it.keeps === undefined ? "" : `${Math.round(100 * it.keeps)} %`),
      order: (it) => it.keeps ?? -1,
    },
    {
      key: "pace",
      title: "between two",
      numeric: true,
      width: 110,
      render: (it) => paceInWords(it.pace),
      order: (it) => it.pace ?? -1,
    },
    {
      key: "controls",
      title: "known wrong kept",
      numeric: true,
      width: 140,
      render: (it) => (it.controls === 0 ? "" : `${it.controlsKept} of ${it.controls}`),
    },
    {
      key: "act",
      title: "act",
      quietTitle: true,
      width: 120,
      render: (it) =>
        onGive &&
        it.left > 0 &&
        (it.who !== undefined || it.name === "No one") && (
          <Button size="small" onClick={() => onGive(it)}>
            Give to…
          </Button>
        ),
    },
  ];
}

function CancelDialog({ round, onClose }: { round: number; onClose: () => void }) {
  const [reason, setReason] = useState("");
  const cancel = useCancelRound(round);
  return (
    <Modal
      open
      title="Cancel this review"
      okText="Cancel review"
      cancelText="Back"
      okButtonProps={{ disabled: reason.trim() === "", loading: cancel.isPending, danger: true }}
      onOk={() => cancel.mutate(reason, { onSuccess: onClose })}
      onCancel={onClose}
    >
      <p>Decisions that were finished stay in its history. Nobody can decide after this.</p>
      <Input.TextArea
        aria-label="Reason"
        placeholder="Reason"
        rows={3}
        maxLength={500}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      {cancel.isError && <ProblemAlert problem={cancel.error} />}
    </Modal>
  );
}
