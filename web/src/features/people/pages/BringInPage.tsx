import { useDeferredValue, useState } from "react";
import { Button } from "antd";
import { useNavigate } from "react-router";
import { useAccount, useAccounts } from "@/entities/account/queries";
import { download } from "@/shared/lib/download";
import { count } from "@/shared/lib/words";
import { ChoiceWord } from "@/shared/ui/ChoiceWord";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Sentence } from "@/shared/ui/Sentence";
import { ArrivalTable } from "../components/ArrivalTable";
import { ColumnMapping } from "../components/ColumnMapping";
import { ListInput } from "../components/ListInput";
import { keptMapping, keepMapping } from "../arrivals";
import { useBringIn, useLookAtArrivals } from "../lifecycleQueries";

/** Brings many people in from a list or a table. */
export function BringInPage() {
  const navigate = useNavigate();
  const accounts = useAccounts().data?.accounts ?? [];
  const [work] = useAccount();
  const [account, setAccount] = useState<string>();
  const [list, setList] = useState("");
  const [columns, setColumns] = useState<Record<string, string>>();
  const home = account ?? work?.key ?? "";
  const read = useDeferredValue(list);
  const head = read.split("\n", 1)[0] ?? "";
  const mapping = columns ?? keptMapping(head);
  const look = useLookAtArrivals({ account: home, list: read, columns: mapping }, read !== "");
  const bring = useBringIn();
  const seen = read === "" ? undefined : look.data;
  const done = bring.data;
  return (
    <>
      <PageHead path={[{ name: "People", to: "/people" }]} title="Bring people in" />
      <Sentence>
        Bring people into{" "}
        <ChoiceWord
          label="Account"
          value={home}
          otherwise="an account"
          options={accounts.map((it) => ({ value: it.key, label: it.name, depth: it.depth }))}
          onChoose={(key) => setAccount(key)}
        />
      </Sentence>
      <p className="note">
        Paste e-mail addresses, or a table with a line of column names: CSV, or copied from a
        spreadsheet. Nothing changes until the draft is applied.
      </p>
      <ListInput
        label="Addresses or a table"
        placeholder={"Juno Teasel <juno@example.org>, ivo.hart@example.org"}
        list={list}
        onChange={setList}
      />
      {look.isError && read !== "" && <ProblemAlert problem={look.error} />}
      {seen && (
        <>
          {seen.columns.length > 0 && (
            <ColumnMapping
              columns={seen.columns}
              facts={seen.facts}
              labels={seen.labels}
              mapping={seen.mapping}
              onChange={(next) => {
                setColumns(next);
                keepMapping(head, next);
              }}
            />
          )}
          <p role="status">
            {count(seen.fresh, "new person", "new people")} · {seen.known} already here ·{" "}
            {count(seen.faulty, "row")} with errors
          </p>
          <ArrivalTable rows={seen.rows} total={seen.fresh + seen.known + seen.faulty} />
          <div className="acts">
            <Button
              type="primary"
              disabled={seen.fresh === 0}
              loading={bring.isPending}
              onClick={() =>
                bring.mutate(
                  { account: home, list, columns: mapping },
                  {
                    onSuccess: (it) => {
                      if (it.left === undefined) void navigate(`/drafts/${it.draft ?? ""}`);
                    },
                  },
                )
              }
            >
              Add {count(seen.fresh, "person", "people")} to draft
            </Button>
            {seen.faulty > 0 && (
              <span className="quiet">Rows with errors are left out; you get them as a file.</span>
            )}
          </div>
        </>
      )}
      {done && done.left !== undefined && (
        <div className="acts" role="status">
          {count(done.fresh, "person", "people")} added to your draft.
          <Button size="small" onClick={() => download("not-taken.csv", done.left ?? "")}>
            Export the {count(done.known + done.faulty, "other row")}
          </Button>
          {done.draft !== undefined && (
            <Button size="small" onClick={() => void navigate(`/drafts/${done.draft ?? ""}`)}>
              Open the draft
            </Button>
          )}
        </div>
      )}
      {bring.isError && <ProblemAlert problem={bring.error} />}
    </>
  );
}
