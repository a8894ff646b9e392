import { useState } from "react";
import { Alert, Button } from "antd";
import { useNavigate, useParams } from "react-router";
import { Mandala } from "@/entities/access/Mandala";
import { PersonField } from "@/entities/subject/PersonField";
import { ThingField } from "@/entities/thing/ThingField";
import { count } from "@/shared/lib/words";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Keep, Sentence } from "@/shared/ui/Sentence";
import { SentenceInput } from "@/shared/ui/SentenceInput";
import { TieTable } from "../components/TieTable";
import { copyable, usualCopy } from "../lifecycle";
import { useCopy, useCopyPreview, useTies } from "../lifecycleQueries";
import styles from "./lifecycle.module.css";

/** Brings somebody in who begins with what a colleague has. */
export function CopyPage() {
  const { key = "" } = useParams();
  const navigate = useNavigate();
  const ties = useTies(key, { act: "copy" });
  const [name, setName] = useState("");
  const [email, setEmail] = useState("");
  const [title, setTitle] = useState("");
  const [unit, setUnit] = useState<{ key: string; name: string }>();
  const [manager, setManager] = useState<string>();
  const [chosen, setChosen] = useState<string[]>();
  const copy = useCopy(key);
  const all = copyable(ties.data?.ties ?? []);
  const picked = chosen ?? usualCopy(all);
  const order = {
    newcomer: {
      name: name.trim() === "" ? "New person" : name.trim(),
      ...(email.trim() !== "" && { email: email.trim() }),
      ...(title.trim() !== "" && { title: title.trim() }),
      ...(unit && { unit: unit.key }),
      ...(manager !== undefined && { manager }),
    },
    ties: picked,
  };
  const preview = useCopyPreview(
    key,
    { newcomer: { name: "New person", ...(unit && { unit: unit.key }) }, ties: picked },
    ties.isSuccess,
  ).data;
  if (ties.isPending) return <Loading what="what they have" rows={8} />;
  if (ties.isError) return <ProblemAlert problem={ties.error} />;
  return (
    <>
      <PageHead
        path={[
          { name: "People", to: "/people" },
          { name: ties.data.name, to: `/people/${encodeURIComponent(key)}` },
        ]}
        title={`Copy ${ties.data.name}`}
      />
      <div className={styles["beside"]}>
        <div>
          <Sentence>
            Bring in{" "}
            <Keep>
              <SentenceInput label="Name" value={name} onChange={setName} placeholder="a name" />,
            </Keep>{" "}
            invited at{" "}
            <Keep>
              <SentenceInput
                label="E-mail address"
                value={email}
                onChange={setEmail}
                placeholder="an address"
              />
              ,
            </Keep>{" "}
            as{" "}
            <Keep>
              <SentenceInput
                label="Job, if another"
                value={title}
                onChange={setTitle}
                placeholder="the same job"
              />
            </Keep>{" "}
            in{" "}
            <ThingField
              label="Unit"
              value={unit?.name ?? "the same unit"}
              kind="units"
              onChoose={(it, called) => setUnit({ key: it, name: called })}
            />
            , reporting to{" "}
            <PersonField
              label="Manager"
              value={manager ?? "the same manager"}
              {...(manager !== undefined && { current: manager })}
              onChoose={setManager}
            />
          </Sentence>
          <p className="note">
            They are invited when the draft is applied, and active once they choose a password.
          </p>
        </div>
        {preview?.newcomer && preview.colleague && (
          <div className={styles["pair"]} aria-label="What they would be able to do">
            {[
              { label: ties.data.name, figure: preview.colleague },
              { label: name.trim() || "New person", figure: preview.newcomer },
            ].map((it) => (
              <figure key={it.label}>
                <Mandala
                  figure={it.figure}
                  size={120}
                  label={`${it.label}: ${count(it.figure.rights, "right")}`}
                />
                <figcaption>
                  {it.label}
                  <br />
                  {count(it.figure.rights, "right")}
                </figcaption>
              </figure>
            ))}
          </div>
        )}
      </div>
      <TieTable
        label="What the new person gets"
        ties={all}
        colleagues="now"
        selection={{ chosen: picked, onChange: setChosen }}
      />
      <p className="note">
        What they have by job, unit or account comes by itself.
        {ties.data.elsewhere && " They have more in accounts that you can't see."}
      </p>
      <div className="acts">
        <Button
          type="primary"
          disabled={name.trim() === ""}
          loading={copy.isPending}
          onClick={() =>
            copy.mutate(order, { onSuccess: (it) => void navigate(`/drafts/${it.draft ?? ""}`) })
          }
        >
          Add to draft
        </Button>
        {name.trim() === "" && <span className="quiet">Enter a name first.</span>}
      </div>
      {email.trim() === "" && name.trim() !== "" && (
        <Alert
          type="info"
          title="Without an address no invitation is sent. You can make a first password later."
        />
      )}
      {copy.isError && <ProblemAlert problem={copy.error} />}
    </>
  );
}
