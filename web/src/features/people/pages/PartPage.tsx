import { useState } from "react";
import { Button, Space } from "antd";
import { useNavigate, useParams } from "react-router";
import { PersonField } from "@/entities/subject/PersonField";
import type { Schemas } from "@/shared/api/client";
import { count } from "@/shared/lib/words";
import { DateField } from "@/shared/ui/DateField";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { BecomesChoice } from "../components/BecomesChoice";
import { TieTable } from "../components/TieTable";
import { WaitingWork } from "../components/WaitingWork";
import { fatesOf, instantOf, isComplete } from "../lifecycle";
import { usePart, useStanding, useTies } from "../lifecycleQueries";

/** Parts with somebody: what they have ends, what they answer for is handed over. */
export function PartPage() {
  const { key = "" } = useParams();
  const navigate = useNavigate();
  const ties = useTies(key, { act: "part" });
  const standing = useStanding(key);
  const part = usePart(key);
  const [chosen, setChosen] = useState<Record<string, Schemas["FateOrder"]>>({});
  const [day, setDay] = useState("");
  if (ties.isPending || standing.isPending) return <Loading what="what they have" rows={8} />;
  if (ties.isError) return <ProblemAlert problem={ties.error} />;
  if (standing.isError) return <ProblemAlert problem={standing.error} />;
  const duties = ties.data.ties.filter((it) => it.sort === "duty");
  const rest = ties.data.ties.filter((it) => it.sort !== "duty");
  const fates = fatesOf(duties, chosen);
  const alone = Object.values(fates).filter((it) => it.becomes === "end").length;
  const at = instantOf(day);
  const handAll = (to: string) =>
    setChosen(
      Object.fromEntries(
        duties
          .filter((it) => it.cannot === undefined)
          .map((it) => [it.id, { becomes: "hand" as const, to }]),
      ),
    );
  return (
    <>
      <PageHead
        path={[
          { name: "People", to: "/people" },
          { name: ties.data.name, to: `/people/${encodeURIComponent(key)}` },
        ]}
        title={`Part with ${ties.data.name}`}
      />
      <p>
        They are marked as left. All their access ends, and they can no longer sign in. Their
        history stays readable, and you can invite them again later.
      </p>
      <WaitingWork person={key} standing={standing.data} />
      <h2 className="part">What they answer for</h2>
      {duties.length === 0 ? (
        <p className="quiet">They own nothing, and no one reports to them.</p>
      ) : (
        <>
          <Space style={{ marginBottom: 8 }}>
            Hand all of it over to
            <PersonField
              label="Who takes over everything"
              look="button"
              value="choose a person"
              not={key}
              onChoose={handAll}
            />
          </Space>
          <TieTable
            label="What they answer for"
            ties={duties}
            becomes={(tie) => (
              <BecomesChoice
                tie={tie}
                grace={false}
                not={key}
                fate={fates[tie.id] ?? { becomes: "end" }}
                onChange={(fate) => setChosen({ ...chosen, [tie.id]: fate })}
              />
            )}
          />
        </>
      )}
      <h2 className="part">What ends</h2>
      {rest.length === 0 ? (
        <p className="quiet">They have nothing of their own; what their job gives ends too.</p>
      ) : (
        <TieTable label="What ends" ties={rest} />
      )}
      {ties.data.elsewhere && (
        <p className="note">They have more in accounts that you can't see. That ends too.</p>
      )}
      <Space wrap style={{ marginTop: 16 }}>
        <span>They leave on</span>
        <DateField
          label="Day they leave"
          placeholder="with the draft"
          value={day}
          onChange={setDay}
        />
        <Button
          type="primary"
          disabled={!isComplete(fates)}
          loading={part.isPending}
          onClick={() =>
            part.mutate(
              { fates, ...(at !== undefined && { at }) },
              {
                onSuccess: (it) =>
                  void navigate(it.draft ? `/drafts/${it.draft}` : `/people/${key}`),
              },
            )
          }
        >
          {at === undefined ? "Add to draft" : "Plan parting"}
        </Button>
        {!isComplete(fates) && (
          <span className="quiet">Choose who takes over what is handed over.</span>
        )}
        {alone > 0 && (
          <span className="quiet">{count(alone, "duty", "duties")} will have no one.</span>
        )}
      </Space>
      {part.isError && <ProblemAlert problem={part.error} />}
    </>
  );
}
