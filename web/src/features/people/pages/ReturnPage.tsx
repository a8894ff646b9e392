import { useState } from "react";
import { Button } from "antd";
import { useNavigate, useParams } from "react-router";
import { PersonField } from "@/entities/subject/PersonField";
import { useThingName } from "@/entities/thing/ThingName";
import { dateOf } from "@/shared/lib/words";
import { DataTable } from "@/shared/ui/DataTable";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Keep, Sentence } from "@/shared/ui/Sentence";
import { SentenceInput } from "@/shared/ui/SentenceInput";
import { useHad, useReturn } from "../lifecycleQueries";

/** Invites somebody who left again, with as much of what they had as is chosen. */
export function ReturnPage() {
  const { key = "" } = useParams();
  const navigate = useNavigate();
  const name = useThingName("principals", key) || key;
  const had = useHad(key);
  const comeBack = useReturn(key);
  const [chosen, setChosen] = useState<string[]>([]);
  const [title, setTitle] = useState("");
  const [manager, setManager] = useState<string>();
  if (had.isPending) return <Loading what="what they had" rows={6} />;
  if (had.isError) return <ProblemAlert problem={had.error} />;
  return (
    <>
      <PageHead
        path={[
          { name: "People", to: "/people" },
          { name, to: `/people/${encodeURIComponent(key)}` },
        ]}
        title={`Invite ${name} again`}
      />
      <Sentence>
        {name} comes back as{" "}
        <Keep>
          <SentenceInput
            label="Job, if another"
            value={title}
            onChange={setTitle}
            placeholder="the same job"
          />
          ,
        </Keep>{" "}
        reporting to{" "}
        <PersonField
          label="Manager"
          value={manager ?? "the same manager"}
          {...(manager !== undefined && { current: manager })}
          not={key}
          onChoose={setManager}
        />
      </Sentence>
      <h2 className="part">
        What they had{had.data.left && ` when they left on ${dateOf(had.data.left)}`}
      </h2>
      {had.data.had.length === 0 ? (
        <EmptyState>
          Nothing that can be given again. Assign what they need once they are back.
        </EmptyState>
      ) : (
        <DataTable
          label="What they had"
          rows={had.data.had}
          rowKey={(it) => it.id}
          selection={{ chosen, onChange: setChosen, name: (it) => it.text }}
          columns={[
            { key: "what", title: "What they had", card: "title", render: (it) => it.text },
            {
              key: "account",
              title: "Account",
              quiet: true,
              render: (it) => it.accountName ?? "",
            },
          ]}
        />
      )}
      <p className="note">
        Nothing comes back by itself: choose what they need.
        {!had.data.fits && " What no longer exists is left out."}
      </p>
      <Button
        type="primary"
        loading={comeBack.isPending}
        onClick={() =>
          comeBack.mutate(
            {
              ties: chosen,
              ...(title.trim() !== "" && { title: title.trim() }),
              ...(manager !== undefined && { manager }),
            },
            { onSuccess: (it) => void navigate(`/drafts/${it.draft ?? ""}`) },
          )
        }
      >
        Add to draft
      </Button>
      {comeBack.isError && <ProblemAlert problem={comeBack.error} />}
    </>
  );
}
