import { lazy, Suspense, useCallback, useDeferredValue, useEffect, useState } from "react";
import { Alert } from "antd";
import { useAccount, useAccounts } from "@/entities/account/queries";
import { SUBJECT_TABS } from "@/entities/subject/tabs";
import { SavedViews } from "@/entities/view/SavedViews";
import { useAddress } from "@/shared/lib/useAddress";
import { count } from "@/shared/lib/words";
import { EmptyState } from "@/shared/ui/EmptyState";
import { ColumnChoice } from "@/shared/ui/ListTools";
import { useListView } from "@/shared/ui/useListView";
import { FileButtons } from "@/shared/ui/FileButtons";
import { Loading } from "@/shared/ui/Loading";
import { NoAccess } from "@/shared/ui/NoAccess";
import { PageTabs } from "@/shared/ui/PageTabs";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { NewPerson } from "../components/NewPerson";
import { CHOOSABLE, USUALLY_HIDDEN } from "../components/columns";
import { PasteList } from "../components/PasteList";
import { PeopleList } from "../components/PeopleList";
import { PeopleSentence } from "../components/PeopleSentence";
import { fileOf, filterOf, MOST_AT_ONCE, type Selected } from "../model";
import { useEverybody, usePeople } from "../queries";
import styles from "./PeoplePage.module.css";

/** Loaded when somebody is selected, or groups are wanted: they have components of their own. */
const SelectionBar = lazy(() =>
  import("../components/SelectionBar").then((it) => ({ default: it.SelectionBar })),
);
const PeopleGroups = lazy(() =>
  import("../components/PeopleGroups").then((it) => ({ default: it.PeopleGroups })),
);

/** Who is there: a sentence that filters, and a list of any length. */
export function PeoplePage() {
  const accounts = useAccounts();
  const [account] = useAccount();
  const [params, set] = useAddress();
  const [typed, setTyped] = useState(params.get("text") ?? "");
  const text = useDeferredValue(typed);
  const filter = { ...filterOf(params, account?.key ?? ""), text };
  const people = usePeople(filter);
  const view = useListView("people", USUALLY_HIDDEN);
  const everybody = useEverybody();
  const [chosen, setChosen] = useState<Map<string, Selected>>(new Map());
  const [tooMany, setTooMany] = useState(false);

  // The field keeps what is typed, so that no letter is lost; the address follows.
  useEffect(() => {
    set({ text }, { replace: true });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- set changes with each address
  }, [text]);

  const choose = useCallback((rows: Selected[], is: boolean) => {
    setChosen((before) => {
      const next = new Map(before);
      for (const row of rows) {
        if (is) next.set(row.key, row);
        else next.delete(row.key);
      }
      return next;
    });
  }, []);

  async function chooseAll() {
    const total = people.data?.total ?? 0;
    setTooMany(total > MOST_AT_ONCE);
    if (total <= MOST_AT_ONCE) {
      const rows = await everybody(filter, total);
      setChosen(new Map(rows.map((it) => [it.key, it])));
    }
  }

  if (accounts.data && !accounts.data.people) {
    return (
      <NoAccess what="other people">
        Here are the people and services of an account, with what they can do.
      </NoAccess>
    );
  }
  return (
    <>
      <PageTabs
        label="People and groups"
        tabs={SUBJECT_TABS}
        extra={<NewPerson account={filter.account} />}
      />
      <PeopleSentence
        filter={filter}
        titles={people.data?.titles ?? []}
        typed={typed}
        onType={setTyped}
      />
      {people.isError ? (
        <ProblemAlert problem={people.error} onRetry={() => void people.refetch()} />
      ) : people.isPending ? (
        <Loading what="people" rows={12} />
      ) : (
        <>
          <div className={styles["tools"]}>
            <p className="quiet" role="status">
              {count(people.data.persons, "person", "people")} ·{" "}
              {count(people.data.services, "service")}
            </p>
            <ColumnChoice columns={CHOOSABLE} hidden={view.hidden} onHide={view.setHidden} />
            <PasteList onSelect={(them) => choose(them, true)} />
            <FileButtons of={(format) => fileOf(filter, format)} />
            <SavedViews />
          </div>
          {chosen.size > 0 && (
            <Suspense fallback={null}>
              <SelectionBar
                chosen={[...chosen.values()]}
                total={people.data.total}
                onAll={() => void chooseAll()}
                onClear={() => setChosen(new Map())}
              />
            </Suspense>
          )}
          {tooMany && (
            <Alert
              type="warning"
              role="alert"
              title={`You can select up to ${MOST_AT_ONCE.toLocaleString("en")} people at once. Add a filter.`}
            />
          )}
          {people.data.total === 0 ? (
            <EmptyState>No one matches these filters. Change or clear one of them.</EmptyState>
          ) : filter.by !== "" ? (
            <Suspense fallback={<Loading what="groups" rows={8} />}>
              <PeopleGroups filter={filter} chosen={chosen} onChoose={choose} view={view} />
            </Suspense>
          ) : (
            <PeopleList
              filter={filter}
              total={people.data.total}
              chosen={chosen}
              onChoose={choose}
              view={view}
            />
          )}
        </>
      )}
    </>
  );
}
