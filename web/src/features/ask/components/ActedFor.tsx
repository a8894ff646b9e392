import { Link } from "react-router";
import type { Answer } from "@/entities/access/model";
import { count } from "@/shared/lib/words";

/** The people somebody can act for, and what each adds. */
export function ActedFor({ answer }: { answer: Answer }) {
  if (answer.through.length === 0) {
    return (
      <p className="note">
        They can't act for anyone at that time{answer.hiddenThrough && " whom you can ask about"}.
      </p>
    );
  }
  return (
    <>
      <ul className="plain-list" aria-label="What each delegation adds">
        {answer.through.map((it) => (
          <li key={it.key}>
            acting for{" "}
            <Link to={`/ask?who=${answer.principal.key}&for=${it.key}&in=${answer.in?.key ?? ""}`}>
              {it.name}
            </Link>
            : {count(it.rights, "right")}
            {it.more > 0
              ? `, ${it.more.toLocaleString("en")} of them beyond their own`
              : ", none beyond their own"}
          </li>
        ))}
      </ul>
      {answer.hiddenThrough && (
        <p className="note">They can also act for people you can't ask about.</p>
      )}
    </>
  );
}
