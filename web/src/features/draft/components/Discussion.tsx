import { Button, Form, Input } from "antd";
import { useComment, type DraftView } from "@/entities/draft/queries";
import { ago, dateOf } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";

/** Comments on a draft. */
export function Discussion({ draft }: { draft: DraftView }) {
  const comment = useComment(draft.id);
  const [form] = Form.useForm<{ text: string }>();
  return (
    <section aria-label="Comments">
      <h2 className="part">Comments</h2>
      {draft.comments.map((it, i) => (
        <p key={i}>
          <strong>{it.who.name}</strong>{" "}
          <small title={dateOf(it.at)}>{ago(it.at, new Date())}</small>
          <br />
          {it.said}
        </p>
      ))}
      <Form
        form={form}
        onFinish={({ text }) => {
          if (text.trim())
            comment.mutate(text.trim(), { onSuccess: () => form.setFieldsValue({ text: "" }) });
        }}
      >
        <Form.Item name="text">
          <Input.TextArea
            aria-label="Comment"
            placeholder="Write a comment"
            autoSize={{ minRows: 1, maxRows: 6 }}
            maxLength={4000}
          />
        </Form.Item>
        <Button htmlType="submit" size="small" loading={comment.isPending}>
          Add comment
        </Button>
      </Form>
      {comment.isError && <ProblemAlert problem={comment.error} />}
    </section>
  );
}
