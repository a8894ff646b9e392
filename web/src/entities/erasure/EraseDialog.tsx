import { useState } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { Alert, Flex, Modal, Result } from "antd";
import { Link } from "react-router";
import { isProven, ProvenReason } from "@/entities/session/ProvenReason";
import { dateOf } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useErase, type Outlook } from "./queries";

interface Props {
  person: string;
  outlook: Outlook;
  onClose: (erased: boolean) => void;
}

/** Blots the personal facts of somebody who left long ago out of all that is kept. */
export function EraseDialog({ person, outlook, onClose }: Props) {
  const { name, left, earliest } = outlook;
  const [proven, setProven] = useState({ reason: "", proof: "" });
  const erase = useErase(person);
  const known = useQueryClient();
  const close = () => {
    onClose(erase.isSuccess);
    if (erase.isSuccess) void known.invalidateQueries();
  };
  const early = earliest !== undefined && new Date(earliest) > new Date();
  const title = `Erase the personal facts of ${name}`;
  if (erase.isSuccess || outlook.ordered) {
    return (
      <Modal open title={title} onCancel={close} footer={null}>
        <Result
          status="success"
          title="They will be erased within minutes"
          subTitle={
            <>
              Their record is gone from the model. <Link to="/trail?act=erased">The trail</Link>{" "}
              says when the rest is done.
            </>
          }
        />
      </Modal>
    );
  }
  if (early) {
    return (
      <Modal open title={title} onCancel={close} footer={null}>
        <p>
          {name} left on {dateOf(left ?? "")}. Who did what stays known for a while: they can be
          erased from {dateOf(earliest)}.
        </p>
      </Modal>
    );
  }
  return (
    <Modal
      open
      title={title}
      okText="Erase"
      okButtonProps={{ danger: true, disabled: !isProven(proven) }}
      confirmLoading={erase.isPending}
      onOk={() => erase.mutate({ reason: proven.reason.trim(), proof: proven.proof.trim() })}
      onCancel={close}
    >
      <Flex vertical gap="middle">
        <p>
          Their record goes from the model at once. Within minutes their names, addresses, numbers
          and fields are blotted out of the trail, of past revisions, of drafts, reviews and
          messages; a random key replaces theirs. What they could do and did remains, and the trail
          still verifies.
        </p>
        <Alert
          type="warning"
          showIcon
          title="This can’t be taken back. Signed reports and files that went out keep their name."
        />
        <ProvenReason value={proven} onChange={setProven} />
        {erase.isError && <ProblemAlert problem={erase.error} />}
      </Flex>
    </Modal>
  );
}
