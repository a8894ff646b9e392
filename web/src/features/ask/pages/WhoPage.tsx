import { useState } from "react";
import { Segmented } from "antd";
import { Link, useSearchParams } from "react-router";
import { useAccount } from "../../../app/account";
import { Choose } from "../../../components/Choose";
import { Field } from "../../../components/Field";
import { ProblemNote } from "../../../components/ProblemNote";
import { ThingPicker } from "../../../components/ThingPicker";
import { Waiting } from "../../../components/Waiting";
import { count } from "../../../lib/words";
import { PlacePicker } from "../../places/components/PlacePicker";
import { AskParts } from "../components/AskParts";
import { RoutesPanel } from "../components/RoutesPanel";
import { FactorField, WhenField } from "../components/SessionFields";
import { Exports } from "../components/Exports";
import { chainsPage, whoAddress, type ChainsAsked, type WhoAsked } from "../model";
import { useClimbers, useWho, type WhoAnswer } from "../queries";

const NAMES = ["permission", "accessClass", "risk", "on", "below", "collection", "at"] as const;

/** Who can do this there: the sentence and the people, all from the address. */
export function WhoPage() {
  const [params, setParams] = useSearchParams();
  const [account] = useAccount();
  const asked: WhoAsked = { secondFactor: params.get("factor") !== "0" };
  for (const name of NAMES) {
    const value = params.get(name);
    if (value) asked[name] = value;
  }
  if (!asked.on && !asked.below && !asked.collection && account) {
    asked.below = `account:${account.key}`;
  }
  const whole = !!(asked.permission || asked.accessClass || asked.risk);
  const answer = useWho(asked, whole);

  function set(drop: string[], changes: Record<string, string>) {
    const next = new URLSearchParams(params);
    drop.forEach((it) => next.delete(it));
    for (const [name, value] of Object.entries(changes)) {
      if (value) next.set(name, value);
      else next.delete(name);
    }
    setParams(next);
  }

  return (
    <>
      <AskParts />
      <h1 className="sentence">
        Who can{" "}
        <Field
          label="What"
          value={answer.data?.what ?? (whole ? "…" : "do what")}
          picker={(close) => (
            <WhatPicker
              onChoose={(name, value) => {
                set(["permission", "accessClass", "risk"], { [name]: value });
                close();
              }}
            />
          )}
        />{" "}
        on{" "}
        <Field
          label="Where"
          value={
            answer.data?.where ??
            (asked.below && account ? account.name + " and all below it" : "…")
          }
          picker={(close) => (
            <WherePicker
              onChoose={(name, value) => {
                set(["on", "below", "collection"], { [name]: value });
                close();
              }}
            />
          )}
        />{" "}
        on{" "}
        <span className="keep">
          <WhenField at={asked.at ?? ""} onChoose={(at) => set([], { at })} />,
        </span>{" "}
        signed in{" "}
        <span className="keep">
          <FactorField
            factor={asked.secondFactor}
            onChoose={(it) => set([], { factor: it ? "" : "0" })}
          />
          ?
        </span>
      </h1>
      {!whole ? (
        <div className="empty">
          <p>Choose what: a permission, a class, or a risk.</p>
        </div>
      ) : answer.isError ? (
        <ProblemNote problem={answer.error} onRetry={() => void answer.refetch()} />
      ) : !answer.data ? (
        <Waiting what="who can" />
      ) : (
        <div className={answer.isPlaceholderData ? "stale" : ""} aria-live="polite">
          <WhoView answer={answer.data} asked={asked} />
        </div>
      )}
    </>
  );
}

const WHATS = [
  { value: "permissions", label: "a permission" },
  { value: "accessClass=view", label: "view anything" },
  { value: "accessClass=change", label: "change anything" },
  { value: "accessClass=administer", label: "administer anything" },
  { value: "risk=critical", label: "do anything critical" },
  { value: "risk=high", label: "do anything of high risk" },
];

function WhatPicker({ onChoose }: { onChoose: (name: string, value: string) => void }) {
  const [one, setOne] = useState(false);
  return one ? (
    <ThingPicker
      kind="permissions"
      label="Permission"
      onChoose={(key) => onChoose("permission", key)}
    />
  ) : (
    <Choose
      label="What"
      options={WHATS}
      onChoose={(value) => {
        const [name = "", fixed] = value.split("=");
        if (fixed) onChoose(name, fixed);
        else setOne(true);
      }}
    />
  );
}

const WHERES = [
  { value: "on", label: "one place alone" },
  { value: "below", label: "a place and all below it" },
  { value: "collection", label: "a collection" },
];

function WherePicker({ onChoose }: { onChoose: (name: string, value: string) => void }) {
  const [kind, setKind] = useState("");
  if (kind === "") return <Choose label="Where" options={WHERES} onChoose={setKind} />;
  if (kind === "collection") {
    return (
      <ThingPicker
        kind="collections"
        label="Collection"
        onChoose={(key) => onChoose("collection", key)}
      />
    );
  }
  return <PlacePicker label="Place" onChoose={(key) => onChoose(kind, key)} />;
}

const HOW: Record<string, string> = {
  "second-factor": "with a second factor",
  "switching-on": "by switching on what is just-in-time",
};

function WhoView({ answer, asked }: { answer: WhoAnswer; asked: WhoAsked }) {
  const one = asked.on && asked.permission ? asked.on : undefined;
  const [open, setOpen] = useState<string>();
  const [byRoute, setByRoute] = useState(false);
  return (
    <>
      <p className="impact-summary" role="status">
        {answer.pairs === 0
          ? "That does not apply there: it is no action on such a place."
          : answer.allowed.length === 0
            ? "Nobody can."
            : `${count(answer.allowed.length, "principal")} can` +
              (answer.pairs > 1
                ? `, of ${count(answer.pairs, "pair")} of permission and place.`
                : ".")}
        {answer.anonymous && " Anybody can, even without signing in."}
        {answer.elsewhere && " Others in accounts you can't see can, too."}
      </p>
      {answer.routes.length > 0 && (
        <Segmented
          aria-label="Show"
          size="small"
          value={byRoute ? "routes" : "people"}
          options={[
            { value: "people", label: "one by one" },
            { value: "routes", label: "by route" },
          ]}
          onChange={(value) => setByRoute(value === "routes")}
        />
      )}
      {byRoute && answer.routes.length > 0 ? (
        <ByRoute answer={answer} />
      ) : (
        answer.allowed.length > 0 && (
          <table className="plain">
            <thead>
              <tr>
                <th scope="col">who</th>
                <th scope="col">what they are</th>
                <th scope="col">at home in</th>
                <th scope="col" className="right">
                  of {answer.pairs.toLocaleString("en")}
                </th>
                {one && <th scope="col" aria-label="Why" />}
              </tr>
            </thead>
            <tbody>
              {answer.allowed.map((it) => (
                <WhoRow
                  key={it.key}
                  it={it}
                  one={one}
                  asked={asked}
                  open={open === it.key}
                  onOpen={() => setOpen(open === it.key ? undefined : it.key)}
                />
              ))}
            </tbody>
          </table>
        )
      )}
      <Others
        title="Can for another"
        lines={answer.delegates.map((it) => `${it.actorName}, acting for ${it.actedForName}`)}
      />
      <Others
        title="Could"
        lines={answer.could.map((it) => `${it.holder.name}, ${HOW[it.how] ?? it.how}`)}
      />
      {one && asked.permission && (
        <ByOwnRights asked={{ permission: asked.permission, on: one, at: asked.at }} />
      )}
      <Others
        title="Are given it, but lack a gate"
        lines={answer.blocked.map((it) => `${it.name}, ${it.account}`)}
      />
      <Others
        title="Are denied it"
        lines={answer.denied.map((it) => `${it.name}, ${it.account}`)}
      />
      <Exports address={whoAddress(asked)} />
    </>
  );
}

/** Who can, by what gives it to them; who has it twice stands in both. */
function ByRoute({ answer }: { answer: WhoAnswer }) {
  const names = new Map(answer.allowed.map((it) => [it.key, it.name]));
  return (
    <ul className="by-route">
      {answer.routes.map((it) => (
        <li key={`${it.subject} ${it.source} ${it.said}`}>
          <h2>
            {it.subject} <small>{it.said}</small>
          </h2>
          <p>
            {it.people.map((key, at) => (
              <span key={key}>
                {at > 0 && ", "}
                <Link to={`/ask?who=${encodeURIComponent(key)}`}>{names.get(key) ?? key}</Link>
              </span>
            ))}
          </p>
        </li>
      ))}
    </ul>
  );
}

/** Who could give it to themselves by one change, and the way to longer chains. */
function ByOwnRights({ asked }: { asked: ChainsAsked }) {
  const climbers = useClimbers({ ...asked, changes: "1" }, true);
  const people = climbers.data?.people ?? [];
  return (
    <>
      <Others
        title="Could give it to themselves"
        lines={people.map(
          (it) =>
            `${it.name}, ${it.account}: ${it.chain.links.flatMap((link) => link.said).join("; ")}`,
        )}
      />
      <p className="note">
        {climbers.isPending && "Looking who could give it to themselves … "}
        {climbers.isError && "Who could give it to themselves could not be told. "}
        <Link to={chainsPage(asked)}>Who could come to it by several changes?</Link>
      </p>
    </>
  );
}

interface RowProps {
  it: WhoAnswer["allowed"][number];
  one: string | undefined;
  asked: WhoAsked;
  open: boolean;
  onOpen: () => void;
}

function WhoRow({ it, one, asked, open, onOpen }: RowProps) {
  return (
    <>
      <tr>
        <th scope="row">
          <Link to={`/ask?who=${encodeURIComponent(it.key)}`}>{it.name}</Link>
        </th>
        <td className="quiet">{it.title ?? it.kind}</td>
        <td>{it.account}</td>
        <td className="right">{it.rights.toLocaleString("en")}</td>
        {one && (
          <td>
            <button type="button" className="link" aria-expanded={open} onClick={onOpen}>
              why
            </button>
          </td>
        )}
      </tr>
      {open && one && asked.permission && (
        <tr className="opened">
          <td colSpan={5}>
            <RoutesPanel
              question={{
                who: it.key,
                in: "",
                doors: true,
                at: asked.at ?? "",
                factor: asked.secondFactor,
                actingFor: "",
              }}
              permission={asked.permission}
              resource={one}
            />
          </td>
        </tr>
      )}
    </>
  );
}

function Others({ title, lines }: { title: string; lines: string[] }) {
  if (lines.length === 0) return null;
  return (
    <>
      <h2 className="part">{title}</h2>
      <ul className="findings">
        {lines.map((it) => (
          <li key={it}>{it}</li>
        ))}
      </ul>
    </>
  );
}
