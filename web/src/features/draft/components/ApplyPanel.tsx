import { Button, Form, Input } from "antd";
import { Link, useNavigate } from "react-router";
import { useApply, useHandle, type DraftView } from "@/entities/draft/queries";
import { DemoCode, useWho } from "@/entities/session";
import { dateOf } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Term } from "@/shared/ui/Term";
import { obstaclesOf } from "../model";
import styles from "./ApplyPanel.module.css";
import { Answer } from "./Answer";
import { Proposal } from "./Proposal";
import { SecondPerson } from "./SecondPerson";

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

function Apply({ draft }: { draft: DraftView }) {
  const who = useWho();
  const [form] = Form.useForm<{ proof: string }>();
  const apply = useApply(draft.id);
  const navigate = useNavigate();
  const obstacles = obstaclesOf(draft);
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
          onFinish={({ proof }) =>
            apply.mutate(
              { content: draft.content, proof: proof.trim() },
              { onSuccess: (it) => void navigate(`/trail?revision=${it.revision}`) },
            )
          }
        >
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
          <Button type="primary" htmlType="submit" loading={apply.isPending}>
            Apply
          </Button>
          <p className="note">
            All changes become one <Term word="revision" />, which you can revert.
          </p>
        </Form>
      )}
      {apply.isError && <ProblemAlert problem={apply.error} />}
    </>
  );
}
