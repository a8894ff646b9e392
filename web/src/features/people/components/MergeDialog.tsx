import { useState } from "react";
import { Modal } from "antd";
import { useNavigate } from "react-router";
import { PersonPicker } from "@/entities/subject/PersonPicker";
import { useThingName } from "@/entities/thing/ThingName";
import type { Schemas } from "@/shared/api/client";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useMergePerson } from "../lifecycleQueries";

interface Props {
  page: Schemas["PersonPage"];
  onClose: () => void;
}

/** Merges a record into another one of the same person. */
export function MergeDialog({ page, onClose }: Props) {
  const { name, key = "" } = page.person;
  const navigate = useNavigate();
  const [into, setInto] = useState<string>();
  const kept = useThingName("principals", into ?? "");
  const merge = useMergePerson(key);
  return (
    <Modal
      open
      title={`Merge ${name} into another record`}
      okText="Add to draft"
      okButtonProps={{ disabled: into === undefined }}
      confirmLoading={merge.isPending}
      onOk={() =>
        into !== undefined &&
        // the page of who is merged is gone with the draft, and this dialog with it
        void merge.mutateAsync(into).then(
          (it) => navigate(`/drafts/${it.draft ?? ""}`),
          () => undefined,
        )
      }
      onCancel={onClose}
    >
      <p>
        Use this when two records are one person. {into ? kept : "The other record"} stays, with the
        memberships, assignments and duties of both. The record {name} ({key}) is removed; its
        history stays in the trail.
      </p>
      <PersonPicker label="The record that stays" value={into} not={key} onChoose={setInto} />
      {merge.isError && <ProblemAlert problem={merge.error} />}
    </Modal>
  );
}
