import { useState } from "react";
import { Button, Popconfirm, Space } from "antd";
import { Link, useNavigate } from "react-router";
import { whenDone } from "@/shared/lib/whenDone";
import { count, dateOf } from "@/shared/lib/words";
import { DataTable } from "@/shared/ui/DataTable";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import {
  numbersInWords,
  stateInWords,
  useDismissList,
  useStoppedList,
  useTakeAnyway,
  type PersonnelSource,
  type PersonnelTaken,
} from "../personnel";
import { PersonnelLines } from "./PersonnelLines";

/** What was taken of a personnel list, and what waits. */
export function PersonnelTakenList({ source }: { source: PersonnelSource }) {
  const [open, setOpen] = useState<number>();
  const dismiss = useDismissList();
  const stopped = source.taken.find((it) => it.number === open && it.state === "stopped");
  return (
    <section aria-label="What was taken">
      <h2 className="part">What was taken</h2>
      <DataTable<PersonnelTaken>
        label="What was taken"
        rows={source.taken}
        rowKey={(it) => String(it.number)}
        empty="No list was taken so far."
        columns={[
          { key: "at", title: "when", card: "title", width: 120, render: (it) => dateOf(it.at) },
          {
            key: "by",
            title: "from",
            width: 150,
            render: (it) => it.byName ?? source.order.file ?? "the folder",
          },
          { key: "what", title: "what it says", render: numbersInWords },
          {
            key: "state",
            title: "state",
            render: (it) => (
              <>
                {stateInWords(it)}
                {it.revision !== undefined && (
                  <>
                    {" in "}
                    <Link to={`/trail?revision=${it.revision}`}>revision {it.revision}</Link>
                  </>
                )}
              </>
            ),
          },
          {
            key: "acts",
            title: "acts",
            quietTitle: true,
            width: 190,
            render: (it) => (
              <Space>
                {it.draft !== undefined && <Link to={`/drafts/${it.draft}`}>Open draft</Link>}
                {it.state === "stopped" && (
                  <Button size="small" onClick={() => setOpen(it.number)}>
                    Look at it
                  </Button>
                )}
                {(it.state === "stopped" || it.state === "waits") && (
                  <Button
                    size="small"
                    onClick={() => dismiss.mutate({ source: source.number, list: it.number })}
                  >
                    Dismiss
                  </Button>
                )}
              </Space>
            ),
          },
        ]}
      />
      {dismiss.isError && <ProblemAlert problem={dismiss.error} />}
      {stopped && <Stopped key={stopped.number} source={source.number} list={stopped.number} />}
    </section>
  );
}

function Stopped({ source, list }: { source: number; list: number }) {
  const navigate = useNavigate();
  const preview = useStoppedList(source, list);
  const take = useTakeAnyway();
  if (preview.isPending) return <Loading what="the list" />;
  if (preview.isError) return <ProblemAlert problem={preview.error} />;
  const { leaves } = preview.data;
  return (
    <>
      <PersonnelLines preview={preview.data} />
      <Popconfirm
        title={`Take a list by which ${count(leaves, "person leaves", "people leave")}?`}
        description="It becomes a draft of yours. Nothing changes until you apply it."
        okText="Take list"
        cancelText="Back"
        onConfirm={() =>
          whenDone(take.mutateAsync({ source, list, leaves }), ({ draft }) => {
            if (draft !== undefined) void navigate(`/drafts/${draft}`);
          })
        }
      >
        <Button loading={take.isPending}>Take it all the same</Button>
      </Popconfirm>
      {take.isError && <ProblemAlert problem={take.error} />}
    </>
  );
}
