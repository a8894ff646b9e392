import { useState, type FormEvent } from "react";
import { Button, Input } from "antd";
import { ago } from "../../../lib/words";
import { useComment, type DraftView } from "../queries";

/** What people say of a draft. */
export function Discussion({ draft }: { draft: DraftView }) {
  const [said, setSaid] = useState("");
  const comment = useComment(draft.id);
  function submit(event: FormEvent) {
    event.preventDefault();
    if (said.trim()) comment.mutate(said.trim(), { onSuccess: () => setSaid("") });
  }
  return (
    <section className="discussion" aria-label="Discussion">
      <h2>Discussion</h2>
      {draft.comments.map((it, i) => (
        <p key={i}>
          <strong>{it.who.name}</strong> <small>{ago(it.at, new Date())}</small>
          <br />
          {it.said}
        </p>
      ))}
      <form onSubmit={submit}>
        <Input.TextArea
          aria-label="Say something about this draft"
          placeholder="Say something about this draft"
          value={said}
          onChange={(event) => setSaid(event.target.value)}
          autoSize={{ minRows: 1, maxRows: 6 }}
          maxLength={4000}
        />
        <Button htmlType="submit" size="small" loading={comment.isPending} disabled={!said.trim()}>
          Say it
        </Button>
      </form>
    </section>
  );
}
