import { useState } from "react";
import { Button, Checkbox } from "antd";
import { useNavigate, useParams } from "react-router";
import { usePersonPage } from "@/entities/thing/queries";
import type { Schemas } from "@/shared/api/client";
import { textOf, thingFrom } from "@/shared/lib/thing";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { LendSentence, type LoanChoice } from "../components/LendSentence";
import { instantOf, shareInWords } from "../lifecycle";
import { useLend, useTies } from "../lifecycleQueries";

/** Lends somebody to another account for a time, and into some of its groups. */
export function LendPage() {
  const { key = "" } = useParams();
  const page = usePersonPage(key);
  if (page.isPending) return <Loading what="the person" rows={8} />;
  if (page.isError) return <ProblemAlert problem={page.error} />;
  return <Lend key={key} page={page.data} />;
}

function Lend({ page }: { page: Schemas["PersonPage"] }) {
  const key = page.person.key ?? "";
  const navigate = useNavigate();
  const [loan, setLoan] = useState<LoanChoice>({
    account: "",
    sponsor: "",
    from: "",
    until: "",
  });
  const [joins, setJoins] = useState<string[]>([]);
  const title = textOf(thingFrom(page.person.thing)["attributes"], "title");
  const there = useTies(
    key,
    { act: "move", account: loan.account, title },
    loan.account !== "" && loan.account !== page.account?.key,
  );
  const lend = useLend(key);
  const groups = loan.account === "" ? [] : (there.data?.groups ?? []);
  const from = instantOf(loan.from);
  const until = instantOf(loan.until);
  const ready = loan.account !== "" && loan.sponsor !== "" && until !== undefined;
  return (
    <>
      <PageHead
        path={[
          { name: "People", to: "/people" },
          { name: page.person.name, to: `/people/${encodeURIComponent(key)}` },
        ]}
        title={`Lend ${page.person.name} to another account`}
      />
      <LendSentence
        name={page.person.name}
        self={key}
        home={page.account?.key ?? ""}
        loan={loan}
        onChange={(it) => {
          if (it.account !== loan.account) setJoins([]);
          setLoan(it);
        }}
      />
      {there.isError && <ProblemAlert problem={there.error} />}
      {groups.length > 0 && (
        <section aria-label="Groups for that time">
          <h2 className="part">Groups that most with their job are in there</h2>
          <Checkbox.Group
            value={joins}
            onChange={setJoins}
            options={groups.map((it) => ({
              value: it.key,
              label: `${it.name} (${shareInWords(it.colleagues)})`,
            }))}
          />
        </section>
      )}
      <p className="note">
        They stay at home in {page.account?.name ?? "their account"} and keep all they have. At the
        end they leave the account and these groups by themselves.
      </p>
      <div className="acts">
        <Button
          type="primary"
          disabled={!ready}
          loading={lend.isPending}
          onClick={() =>
            until !== undefined &&
            lend.mutate(
              {
                account: loan.account,
                sponsor: loan.sponsor,
                until,
                ...(from !== undefined && { from }),
                joins,
              },
              { onSuccess: (it) => void navigate(`/drafts/${it.draft}`) },
            )
          }
        >
          Add to draft
        </Button>
        {!ready && (
          <span className="quiet">Choose an account, an end, and who answers for them.</span>
        )}
      </div>
      {lend.isError && <ProblemAlert problem={lend.error} />}
    </>
  );
}
