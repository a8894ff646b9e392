import { useState } from "react";
import { Button, Input, Select, Space } from "antd";
import { useNavigate, useParams } from "react-router";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { TieTable } from "../components/TieTable";
import { copyable } from "../lifecycle";
import { useSplit, useTies } from "../lifecycleQueries";

interface Part {
  name: string;
  email: string;
  ties: string[];
}

const EMPTY: Part = { name: "", email: "", ties: [] };

/** Gives each of those who shared a sign-in their own. */
export function SplitPage() {
  const { key = "" } = useParams();
  const navigate = useNavigate();
  const ties = useTies(key, { act: "copy" });
  const split = useSplit(key);
  const [parts, setParts] = useState<Part[]>([EMPTY, EMPTY]);
  const [heir, setHeir] = useState(0);
  if (ties.isPending) return <Loading what="what they have" rows={8} />;
  if (ties.isError) return <ProblemAlert problem={ties.error} />;
  const access = copyable(ties.data.ties);
  const duties = ties.data.ties.filter((it) => it.sort === "duty");
  const ready = parts.every((it) => it.name.trim() !== "");
  const change = (at: number, some: Partial<Part>) =>
    setParts(parts.map((it, i) => (i === at ? { ...it, ...some } : it)));
  return (
    <>
      <PageHead
        path={[
          { name: "People", to: "/people" },
          { name: ties.data.name, to: `/people/${encodeURIComponent(key)}` },
        ]}
        title={`Split ${ties.data.name}`}
      />
      <p>
        Each person who shares this sign-in gets their own. The shared one is marked as left, and
        its history stays readable.
      </p>
      {parts.map((part, at) => (
        <section key={at} aria-label={`Person ${at + 1}`}>
          <h2 className="part">Person {at + 1}</h2>
          <Space wrap style={{ marginBottom: 8 }}>
            <Input
              aria-label={`Name of person ${at + 1}`}
              placeholder="Name"
              value={part.name}
              onChange={(event) => change(at, { name: event.target.value })}
            />
            <Input
              aria-label={`E-mail address of person ${at + 1}`}
              placeholder="E-mail address"
              value={part.email}
              onChange={(event) => change(at, { email: event.target.value })}
            />
            {parts.length > 2 && (
              <LinkButton onClick={() => setParts(parts.filter((_, i) => i !== at))}>
                Remove person {at + 1}
              </LinkButton>
            )}
          </Space>
          <TieTable
            label={`What person ${at + 1} gets`}
            ties={access}
            selection={{ chosen: part.ties, onChange: (ids) => change(at, { ties: ids }) }}
          />
        </section>
      ))}
      <Space wrap style={{ marginTop: 16 }}>
        <Button onClick={() => setParts([...parts, EMPTY])} disabled={parts.length >= 20}>
          Add a person
        </Button>
        {duties.length > 0 && (
          <Select
            aria-label="Who takes over what it answers for"
            value={heir}
            popupMatchSelectWidth={false}
            onChange={setHeir}
            options={parts.map((it, at) => ({
              value: at,
              label: `Duties go to ${it.name.trim() || `person ${at + 1}`}`,
            }))}
          />
        )}
        <Button
          type="primary"
          disabled={!ready}
          loading={split.isPending}
          onClick={() =>
            split.mutate(
              {
                parts: parts.map((it) => ({
                  newcomer: {
                    name: it.name.trim(),
                    ...(it.email.trim() !== "" && { email: it.email.trim() }),
                  },
                  ties: it.ties,
                })),
                duties: Object.fromEntries(
                  duties.map((it) => [it.id, Math.min(heir, parts.length - 1)]),
                ),
              },
              { onSuccess: (it) => void navigate(`/drafts/${it.draft ?? ""}`) },
            )
          }
        >
          Add to draft
        </Button>
        {!ready && <span className="quiet">Enter each name first.</span>}
      </Space>
      {split.isError && <ProblemAlert problem={split.error} />}
    </>
  );
}
