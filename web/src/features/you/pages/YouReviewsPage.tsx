import { useState } from "react";
import { Button, Input, Space } from "antd";
import { Link } from "react-router";
import { NamePicker } from "@/entities/thing/NamePicker";
import { useWho } from "@/entities/session";
import { dateOf, dayOf } from "@/shared/lib/words";
import { DateField } from "@/shared/ui/DateField";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { YouTabs } from "../components/YouTabs";
import {
  useAnswer,
  useDeputy,
  useEndDeputy,
  useNameDeputy,
  useQuestions,
  type AskedAbout,
} from "../reviews";

/** What reviewers ask about one's access, and who decides while one is away. */
export function YouReviewsPage() {
  const asked = useQuestions();
  return (
    <>
      <YouTabs active="/you/reviews" />
      <PageHead title="Reviews of your access" />
      <section aria-label="Questions">
        <h2 className="part">Reviewers ask you</h2>
        {asked.isPending && <Loading what="the questions" />}
        {asked.isError && (
          <ProblemAlert problem={asked.error} onRetry={() => void asked.refetch()} />
        )}
        {asked.data?.asked.length === 0 && (
          <p className="note">Nobody asks you anything about your access.</p>
        )}
        {asked.data?.asked.map((it) => (
          <Question key={`${it.round} ${it.item}`} asked={it} />
        ))}
      </section>
      <section aria-label="Deputy">
        <h2 className="part">While you are away</h2>
        <p className="note">
          What waits for your decision goes to your deputy, never what is about them.{" "}
          <Link to="/reviews">See what waits for you</Link>
        </p>
        <Deputy />
      </section>
    </>
  );
}

function Question({ asked }: { asked: AskedAbout }) {
  const [said, setSaid] = useState("");
  const answer = useAnswer();
  return (
    <div>
      <p>
        {asked.byName} asks about <strong>{asked.what}</strong>: “{asked.question}”{" "}
        <span className="note">{dateOf(asked.at)}</span>
      </p>
      <Space.Compact style={{ width: "100%", maxWidth: 640 }}>
        <Input
          aria-label={`Answer to ${asked.byName}`}
          placeholder="Your answer"
          maxLength={1000}
          value={said}
          onChange={(event) => setSaid(event.target.value)}
        />
        <Button
          type="primary"
          disabled={said.trim() === ""}
          loading={answer.isPending}
          onClick={() => answer.mutate({ round: asked.round, item: asked.item, said })}
        >
          Answer
        </Button>
      </Space.Compact>
      {answer.isError && <ProblemAlert problem={answer.error} />}
    </div>
  );
}

function Deputy() {
  const who = useWho();
  const deputy = useDeputy();
  const end = useEndDeputy();
  const name = useNameDeputy();
  const [chosen, setChosen] = useState("");
  const [from, setFrom] = useState("");
  const [until, setUntil] = useState("");
  if (deputy.isPending) return <Loading what="your deputy" />;
  if (deputy.isError) return <ProblemAlert problem={deputy.error} />;
  const now = deputy.data.deputy;
  if (now) {
    return (
      <p>
        <strong>{now.name}</strong> decides for you from {dayOf(now.begins)} until {dayOf(now.ends)}
        .{" "}
        <Button size="small" loading={end.isPending} onClick={() => end.mutate(null)}>
          End deputy
        </Button>
        {end.isError && <ProblemAlert problem={end.error} />}
      </p>
    );
  }
  return (
    <>
      <Space wrap align="start">
        <NamePicker
          label="Deputy"
          kinds={["principals"]}
          fixed={deputy.data.known.map((it) => ({ value: it.key, label: it.name }))}
          value={chosen === "" ? undefined : chosen}
          without={[who.key]}
          onChoose={(it) => setChosen(it.key)}
        />
        <DateField label="From" value={from} onChange={setFrom} placeholder="From" />
        <DateField label="Until" value={until} onChange={setUntil} placeholder="Until" />
        <Button
          disabled={chosen === "" || from === "" || until === ""}
          loading={name.isPending}
          onClick={() =>
            name.mutate({
              who: chosen,
              begins: `${from}T00:00:00Z`,
              ends: `${until}T00:00:00Z`,
            })
          }
        >
          Name deputy
        </Button>
      </Space>
      {name.isError && <ProblemAlert problem={name.error} />}
    </>
  );
}
