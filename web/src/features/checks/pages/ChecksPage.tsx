import { useSearchParams } from "react-router";
import { useAccount } from "../../../app/account";
import { ThingList } from "../../model";
import { Findings } from "../components/Findings";
import { Proposed } from "../components/Proposed";

const PARTS = [
  { key: "findings", label: "Findings" },
  { key: "expectations", label: "Expectations" },
  { key: "exclusions", label: "Exclusions" },
];

/** What must stay true. */
export function ChecksPage() {
  const [params, setParams] = useSearchParams();
  const [account] = useAccount();
  const part = params.get("part") ?? "findings";
  return (
    <>
      <nav className="parts" aria-label="Checks">
        {PARTS.map((it) => (
          <button
            key={it.key}
            type="button"
            className={it.key === part ? "active" : ""}
            aria-current={it.key === part ? "page" : undefined}
            onClick={() => setParams({ part: it.key })}
          >
            {it.label}
          </button>
        ))}
      </nav>
      {part === "findings" ? (
        <Findings />
      ) : (
        <ThingList key={part} kind={part} given={account ? { account: account.key } : {}} />
      )}
      {part === "expectations" && account && <Proposed account={account.key} />}
    </>
  );
}
