import type { Schemas } from "../../../api/client";

type ChainView = Schemas["ChainView"];
type LinkView = Schemas["LinkView"];

const WHY: Record<string, string> = {
  widens: "it gives them more",
  critical: "it gives somebody a critical permission",
  "many-people": "it changes what many people may do",
};

/** Chains, each a numbered list of what to do one after the other, by which right. */
export function ChainList({ chains }: { chains: ChainView[] }) {
  return (
    <ul className="chains">
      {chains.map((chain, at) => (
        <li key={at}>
          <ol>
            {chain.links.map((link, i) => (
              <li key={i} data-kind={link.kind}>
                {link.said.join("; ")}
                {link.uses.length > 0 && (
                  <small>
                    by{" "}
                    {link.uses.map((it, n) => (
                      <span key={n}>
                        {n > 0 && ", "}“{it.permissionName}” on {it.place}
                      </span>
                    ))}
                  </small>
                )}
                <Approval link={link} />
              </li>
            ))}
          </ol>
        </li>
      ))}
    </ul>
  );
}

function Approval({ link }: { link: LinkView }) {
  if (link.kind !== "change") return null;
  if (link.approval.length === 0) return <small>alone: nobody need approve</small>;
  const more = link.moreApprovers ? " and others you can't see" : "";
  return (
    <small className="approval">
      a second person must approve, for {link.approval.map((it) => WHY[it] ?? it).join(" and ")}:{" "}
      {link.approvers.length > 0
        ? link.approvers.join(", ") + more
        : `${link.moreApprovers} whom you may not see`}{" "}
      could
    </small>
  );
}
