import { useDeferredValue, useEffect, useState } from "react";
import { NavLink, useSearchParams } from "react-router";
import { Choose } from "../../../components/Choose";
import { Field } from "../../../components/Field";
import { ProblemNote } from "../../../components/ProblemNote";
import { Waiting } from "../../../components/Waiting";
import { useAccount, useAccounts } from "../../../app/account";
import { count } from "../../../lib/words";
import { PeopleList } from "../components/PeopleList";
import { Chosen } from "../components/Chosen";
import { filterOf, MOST_AT_ONCE, statesInWords, STATES } from "../model";
import { useEverybody, usePeople, type Row } from "../queries";

/** Who is there: a sentence that filters, and a list that scrolls as far as it must. */
export function PeoplePage() {
  const accounts = useAccounts();
  const [account, work] = useAccount();
  const [params, setParams] = useSearchParams();
  const [typed, setTyped] = useState(params.get("text") ?? "");
  const text = useDeferredValue(typed);
  const filter = { ...filterOf(params, account?.key ?? ""), text };
  const people = usePeople(filter);
  const everybody = useEverybody();
  const [chosen, setChosen] = useState<Map<string, Row>>(new Map());
  const [tooMany, setTooMany] = useState(false);
  const all = accounts.data?.accounts ?? [];
  const place = all.find((it) => it.key === filter.account);

  // typing is kept here, so that no letter is lost; the address follows
  useEffect(() => {
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        if (text) next.set("text", text);
        else next.delete("text");
        return next;
      },
      { replace: true },
    );
  }, [text, setParams]);

  function set(name: string, value: string) {
    const next = new URLSearchParams(params);
    if (value) next.set(name, value);
    else next.delete(name);
    setParams(next);
  }

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
      <div className="empty">
        <h1>Your access does not cover other people</h1>
        <p>You can see your own access under “You”. Ask a security administrator for more.</p>
      </div>
    );
  }
  return (
    <>
      <nav className="parts" aria-label="People">
        <NavLink to="/people">People</NavLink>
        <NavLink to="/groups">Groups</NavLink>
      </nav>
      <h1 className="sentence">
        People of{" "}
        <Field
          label="Account"
          value={place?.name ?? "every account"}
          picker={(close) => (
            <Choose
              label="Account"
              value={filter.account}
              options={all.map((it) => ({ value: it.key, label: it.name, depth: it.depth }))}
              onChoose={(key) => {
                work(key);
                set("in", key);
                close();
              }}
            />
          )}
        />{" "}
        who are{" "}
        <Field
          label="State"
          value={statesInWords(filter.states)}
          picker={() => (
            <fieldset className="checks">
              <legend>State</legend>
              {STATES.map((state) => (
                <label key={state}>
                  <input
                    type="checkbox"
                    checked={filter.states.includes(state)}
                    onChange={(event) =>
                      set(
                        "state",
                        STATES.filter((it) =>
                          it === state ? event.target.checked : filter.states.includes(it),
                        ).join(",") || STATES.join(","),
                      )
                    }
                  />{" "}
                  {state}
                </label>
              ))}
            </fieldset>
          )}
        />
        , working as{" "}
        <Field
          label="Job"
          value={filter.title || "anything"}
          picker={(close) => (
            <Choose
              label="Job"
              value={filter.title}
              options={[
                { value: "", label: "anything" },
                ...(people.data?.titles ?? []).map((it) => ({ value: it, label: it })),
              ]}
              onChoose={(title) => {
                set("job", title);
                close();
              }}
            />
          )}
        />
        , whose name has{" "}
        <input
          className="field-input"
          aria-label="Part of the name"
          placeholder="any letters"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      </h1>
      {people.isError ? (
        <ProblemNote problem={people.error} onRetry={() => void people.refetch()} />
      ) : people.isPending ? (
        <Waiting what="people" />
      ) : (
        <>
          <p className="count" role="status">
            {count(people.data.persons, "person", "people")} ·{" "}
            {count(people.data.services, "service")}
          </p>
          {people.data.total === 0 ? (
            <div className="empty">
              <p>Nobody fits. Loosen a word of the sentence.</p>
            </div>
          ) : (
            <>
              {chosen.size > 0 && (
                <Chosen
                  chosen={[...chosen.values()]}
                  total={people.data.total}
                  onAll={() => void chooseAll()}
                  onClear={() => setChosen(new Map())}
                />
              )}
              {tooMany && (
                <p className="note" role="alert">
                  No more than {MOST_AT_ONCE} can be chosen at once. Narrow the sentence.
                </p>
              )}
              <PeopleList
                filter={filter}
                total={people.data.total}
                chosen={chosen}
                onChoose={(row, is) => {
                  const next = new Map(chosen);
                  if (is) next.set(row.key, row);
                  else next.delete(row.key);
                  setChosen(next);
                }}
              />
            </>
          )}
        </>
      )}
    </>
  );
}
