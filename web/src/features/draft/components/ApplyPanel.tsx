import { lazy, Suspense, useState } from "react";
import { Alert, Button, Form, Input, Segmented } from "antd";
import { Link, useNavigate } from "react-router";
import {
  useApply,
  useClearDraftDate,
  useDraftDate,
  useHandle,
  type DraftView,
} from "@/entities/draft/queries";
import { DemoCode, useWho } from "@/entities/session";
import { dateOf } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Term } from "@/shared/ui/Term";
import { obstaclesOf } from "../model";
import styles from "./ApplyPanel.module.css";
import { Answer } from "./Answer";
import { Proposal } from "./Proposal";
import { SecondPerson } from "./SecondPerson";

const MomentField = lazy(() =>
  import("@/shared/ui/MomentField").then((it) => ({ default: it.MomentField })),
);

/** What keeps a draft from being applied; else the form that applies it. */
export function ApplyPanel({ draft }: { draft: DraftView }) {
  if (draft.state === "applied") {
    return (
      <p>
        Applied as{" "}
        <Link to={`/trail?revision=${draft.appliedAs ?? ""}`}>
          revision {draft.appliedAs ?? ""}
        </Link>
        .
      </p>
    );
  }
  if (draft.state === "discarded") return <Discarded draft={draft} />;
  return (
    <section className={styles["apply"]} aria-label="Apply">
      {(draft.reasons.length > 0 || draft.requests.length > 0) && <SecondPerson draft={draft} />}
      <Dated draft={draft} />
      {draft.mine ? <Apply draft={draft} /> : draft.mayApprove && <Answer draft={draft} />}
      {draft.mine && <Proposal draft={draft} />}
      <p>
        <Link to={`/drafts/${draft.id}/read`}>Read the whole draft before applying</Link>
      </p>
    </section>
  );
}

function Discarded({ draft }: { draft: DraftView }) {
  const handle = useHandle(draft.id);
  return (
    <>
      <p>
        This draft was discarded on {dateOf(draft.changedAt)}.
        {!draft.restorable && " It can no longer be restored."}
      </p>
      {draft.restorable && (
        <Button loading={handle.isPending} onClick={() => handle.mutate({ state: "aside" })}>
          Restore
        </Button>
      )}
      {handle.isError && <ProblemAlert problem={handle.error} />}
    </>
  );
}

/** When the draft is applied by itself, or why it was not. */
function Dated({ draft }: { draft: DraftView }) {
  const clear = useClearDraftDate(draft.id);
  if (draft.due) {
    return (
      <p role="status">
        This draft is applied on {dateOf(draft.due)}, with the rights you have then.{" "}
        {draft.mine && (
          <Button size="small" loading={clear.isPending} onClick={() => clear.mutate()}>
            Remove date
          </Button>
        )}
        {clear.isError && <ProblemAlert problem={clear.error} />}
      </p>
    );
  }
  return draft.dueFault ? (
    <Alert type="warning" showIcon title="Not applied at its date" description={draft.dueFault} />
  ) : null;
}

function Apply({ draft }: { draft: DraftView }) {
  const who = useWho();
  const [form] = Form.useForm<{ proof: string }>();
  const [later, setLater] = useState(false);
  const [at, setAt] = useState("");
  const apply = useApply(draft.id);
  const date = useDraftDate(draft.id);
  const navigate = useNavigate();
  const obstacles = obstaclesOf(draft);
  const submit = (proof: string) => {
    const sent = { content: draft.content, proof: proof.trim() };
    if (later) {
      date.mutate({ ...sent, at }, { onSuccess: () => form.resetFields() });
    } else {
      apply.mutate(sent, {
        onSuccess: (it) => void navigate(`/trail?revision=${it.revision}`),
      });
    }
  };
  return (
    <>
      {obstacles.map((it) => (
        <p key={it} className="warning">
          {it}
        </p>
      ))}
      {obstacles.length === 0 && (
        <Form<{ proof: string }>
          form={form}
          layout="vertical"
          requiredMark={false}
          className={styles["form"] ?? ""}
          onFinish={({ proof }) => submit(proof)}
        >
          <Form.Item label="When" className={styles["when"] ?? ""}>
            <Segmented
              aria-label="When"
              size="small"
              value={later ? "later" : "now"}
              options={[
                { value: "now", label: "Now" },
                { value: "later", label: "At a date" },
              ]}
              onChange={(value) => setLater(value === "later")}
            />
            {later && (
              <div className={styles["date"]}>
                <Suspense fallback={null}>
                  <MomentField
                    label="Date"
                    value={at}
                    edge="first"
                    placeholder="choose a day"
                    onChange={setAt}
                  />
                </Suspense>
              </div>
            )}
          </Form.Item>
          <Form.Item
            name="proof"
            label={who.enrolled ? "Code of your second factor" : "Your password"}
            rules={[{ required: true, message: "Enter it to apply the draft." }]}
            extra={<DemoCode onUse={(proof) => form.setFieldsValue({ proof })} />}
          >
            <Input
              type={who.enrolled ? "text" : "password"}
              inputMode={who.enrolled ? "numeric" : undefined}
              autoComplete={who.enrolled ? "one-time-code" : "current-password"}
            />
          </Form.Item>
          <Button
            type="primary"
            htmlType="submit"
            disabled={later && at === ""}
            loading={apply.isPending || date.isPending}
          >
            {later ? "Set date" : "Apply"}
          </Button>
          <p className="note">
            {later
              ? "Mandala applies it then if you still have the rights; otherwise it waits for you and says why."
              : "All changes become one "}
            {!later && (
              <>
                <Term word="revision" />, which you can revert.
              </>
            )}
          </p>
        </Form>
      )}
      {apply.isError && <ProblemAlert problem={apply.error} />}
      {date.isError && <ProblemAlert problem={date.error} />}
    </>
  );
}
