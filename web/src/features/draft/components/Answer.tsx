import { useState } from "react";
import { Button, Form, Input, Modal } from "antd";
import { useApprove, useDecline, type DraftView } from "@/entities/draft/queries";
import { useWho } from "@/entities/session";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";

/** A second person's answer: approve exactly this, or decline it with a reason. */
export function Answer({ draft }: { draft: DraftView }) {
  const who = useWho();
  const [declining, setDeclining] = useState(false);
  const approve = useApprove(draft.id);
  const mine = draft.requests.find((it) => it.who.key === who.key);
  return (
    <>
      <div className="acts">
        <Button
          type="primary"
          loading={approve.isPending}
          disabled={draft.approvals.some((it) => it.counts && it.who.key === who.key)}
          onClick={() => approve.mutate(draft.content)}
        >
          Approve this draft
        </Button>
        <Button disabled={mine?.state === "declined"} onClick={() => setDeclining(true)}>
          Decline
        </Button>
      </div>
      {approve.isError && <ProblemAlert problem={approve.error} />}
      {declining && <Decline draft={draft} onClose={() => setDeclining(false)} />}
    </>
  );
}

function Decline({ draft, onClose }: { draft: DraftView; onClose: () => void }) {
  const decline = useDecline(draft.id);
  const [form] = Form.useForm<{ reason: string }>();
  return (
    <Modal
      open
      title="Decline this draft"
      okText="Decline"
      confirmLoading={decline.isPending}
      onOk={() => form.submit()}
      onCancel={onClose}
    >
      <Form
        form={form}
        layout="vertical"
        requiredMark={false}
        onFinish={({ reason }) =>
          decline.mutate({ content: draft.content, reason }, { onSuccess: onClose })
        }
      >
        <Form.Item
          name="reason"
          label={`Tell ${draft.owner.name} why`}
          rules={[{ required: true, whitespace: true, message: "Enter a reason." }]}
        >
          <Input.TextArea autoFocus autoSize={{ minRows: 2, maxRows: 8 }} maxLength={2000} />
        </Form.Item>
      </Form>
      {decline.isError && <ProblemAlert problem={decline.error} />}
    </Modal>
  );
}
