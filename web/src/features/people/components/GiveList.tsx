import { useDeferredValue, useState } from "react";
import { Button, Popconfirm } from "antd";
import { useNavigate } from "react-router";
import { whenDone } from "@/shared/lib/whenDone";
import { count } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import {
  useGiveList,
  usePersonnelPreview,
  type PersonnelOrder,
  type PersonnelSource,
} from "../personnel";
import { ColumnMapping } from "./ColumnMapping";
import { ListInput } from "./ListInput";
import { PersonnelLines } from "./PersonnelLines";

interface Props {
  order: PersonnelOrder;
  onColumns: (columns: Record<string, string>) => void;
  /** Saves how the list is read. */
  onKeep: (order: PersonnelOrder) => Promise<PersonnelSource>;
}

/** A personnel list that is given by hand: what it does, before it becomes a draft. */
export function GiveList({ order, onColumns, onKeep }: Props) {
  const navigate = useNavigate();
  const [list, setList] = useState("");
  const read = useDeferredValue(list);
  const preview = usePersonnelPreview(order, read);
  const give = useGiveList();
  const seen = read.trim() === "" ? undefined : preview.data;
  const leaves = seen?.leaves ?? 0;
  const changes = seen && leaves + seen.joins + seen.changes + seen.returns > 0;
  const taken = async () => {
    const { number } = await onKeep(order);
    void navigate(`/personnel/${number}`, { replace: true }); // what was pasted stays
    return give.mutateAsync({ source: number, list, leaves });
  };
  const add = () =>
    whenDone(taken(), ({ draft }) => {
      if (draft !== undefined) void navigate(`/drafts/${draft}`);
    });
  const button = (onClick?: () => void) => (
    <Button
      type="primary"
      loading={give.isPending}
      {...(onClick && { onClick })}
      disabled={!changes || order.title.trim() === ""}
    >
      Add to draft
    </Button>
  );
  return (
    <section aria-label="Give a list">
      <h2 className="part">Give a list</h2>
      <p className="note">
        Paste a table with a line of column names, or choose a CSV file. Nothing changes until the
        draft is applied.
      </p>
      <ListInput
        label="The list"
        placeholder={"Personnel number,Name,E-mail,Job title,Unit,Reports to"}
        list={list}
        onChange={setList}
      />
      {preview.isError && read.trim() !== "" && <ProblemAlert problem={preview.error} />}
      {seen && (
        <>
          <ColumnMapping
            columns={seen.columns}
            facts={seen.facts}
            mapping={seen.mapping}
            onChange={onColumns}
          />
          <PersonnelLines preview={seen} />
          {seen.tooMany ? (
            <Popconfirm
              title={`Take a list by which ${count(leaves, "person leaves", "people leave")}?`}
              description="It becomes a draft of yours. Nothing changes until you apply it."
              okText="Add to draft"
              cancelText="Back"
              onConfirm={add}
            >
              {button()}
            </Popconfirm>
          ) : (
            button(() => void add())
          )}
        </>
      )}
      {give.isError && <ProblemAlert problem={give.error} />}
    </section>
  );
}
