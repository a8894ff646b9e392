import { useState } from "react";
import { Segmented } from "antd";
import { Link } from "react-router";
import { AnswerExports } from "@/entities/access/AnswerExports";
import {
  escalationPage,
  whoAddress,
  type EscalationAsked,
  type WhoAsked,
} from "@/entities/access/model";
import type { WhoAnswer } from "@/entities/access/queries";
import { count } from "@/shared/lib/words";
import { EscalatorSearch } from "./EscalatorSearch";
import { HolderTable } from "./HolderTable";

const HOW: Record<string, string> = {
  "second-factor": "with a second factor",
  "switching-on": "by activating just-in-time access",
};

function summaryOf(answer: WhoAnswer): string {
  const parts = [
    answer.pairs === 0
      ? "This permission does not apply there. Choose another permission or another place."
      : answer.allowed.length === 0
        ? "No one can."
        : `${count(answer.allowed.length, "principal")} can` +
          (answer.pairs > 1 ? `, out of ${count(answer.pairs, "right")} asked about.` : "."),
  ];
  if (answer.anonymous) parts.push("Anyone can, even without signing in.");
  if (answer.elsewhere) parts.push("People in accounts you can't see can, too.");
  return parts.join(" ");
}

/** Who can, who could, and who is kept from it. */
export function WhoView({ answer, asked }: { answer: WhoAnswer; asked: WhoAsked }) {
  const [byRoute, setByRoute] = useState(false);
  const one = asked.on && asked.permission;
  return (
    <>
      <p className="summary" role="status">
        {summaryOf(answer)}
      </p>
      {answer.routes.length > 0 && (
        <Segmented
          aria-label="Group the holders"
          size="small"
          value={byRoute ? "routes" : "people"}
          options={[
            { value: "people", label: "One by one" },
            { value: "routes", label: "By route" },
          ]}
          onChange={(value) => setByRoute(value === "routes")}
        />
      )}
      {byRoute && answer.routes.length > 0 ? (
        <ByRoute answer={answer} />
      ) : (
        answer.allowed.length > 0 && <HolderTable answer={answer} asked={asked} />
      )}
      <People
        title="Can, acting for someone else"
        lines={answer.delegates.map((it) => `${it.actorName}, acting for ${it.actedForName}`)}
      />
      <People
        title="Could"
        lines={answer.could.map((it) => `${it.holder.name}, ${HOW[it.how] ?? it.how}`)}
      />
      {one && (
        <Escalators
          asked={{ permission: asked.permission ?? "", on: asked.on ?? "", at: asked.at ?? "" }}
        />
      )}
      <People
        title="Blocked: granted, but a gate is missing"
        lines={answer.blocked.map((it) => `${it.name}, ${it.account}`)}
      />
      <People title="Denied" lines={answer.denied.map((it) => `${it.name}, ${it.account}`)} />
      <AnswerExports address={whoAddress(asked)} />
    </>
  );
}

/** Holders by the route that grants it; someone with two routes is listed under both. */
function ByRoute({ answer }: { answer: WhoAnswer }) {
  const names = new Map(answer.allowed.map((it) => [it.key, it.name]));
  return (
    <ul className="plain-list">
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

/** Who could grant it to themselves by one change, and the way to longer escalation paths. */
function Escalators({ asked }: { asked: EscalationAsked }) {
  return (
    <>
      <h2 className="part">Could grant it to themselves</h2>
      <EscalatorSearch asked={{ ...asked, changes: "1" }} begin="Search everyone">
        {(found) => (
          <ul className="plain-list">
            {found.people.length === 0 && <li className="note">No one you can see.</li>}
            {found.people.map((it) => (
              <li key={it.key}>
                {it.name}, {it.account}: {it.path.steps.flatMap((step) => step.said).join("; ")}
              </li>
            ))}
          </ul>
        )}
      </EscalatorSearch>
      <p className="note">
        <Link to={escalationPage(asked)}>Who could get it by several changes?</Link>
      </p>
    </>
  );
}

function People({ title, lines }: { title: string; lines: string[] }) {
  if (lines.length === 0) return null;
  return (
    <>
      <h2 className="part">{title}</h2>
      <ul className="plain-list">
        {lines.map((it) => (
          <li key={it}>{it}</li>
        ))}
      </ul>
    </>
  );
}
