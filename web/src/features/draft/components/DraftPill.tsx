import { Link } from "react-router";
import { count } from "../../../lib/words";
import { useOpenDraft } from "../queries";

/** The open draft, in sight on every page: how much it is, and what it does in short. */
export function DraftPill() {
  const open = useOpenDraft();
  const draft = open.data?.draft;
  if (!draft) {
    return (
      <Link to="/drafts" className="draft-pill none">
        no draft
      </Link>
    );
  }
  const wrong = (open.data?.faults ?? 0) + (open.data?.clashes ?? 0);
  return (
    <Link to={`/drafts/${draft.id}`} className="draft-pill" title={open.data?.impact}>
      <span>
        <strong>{draft.name ?? "Draft"}</strong> · {count(draft.size, "change")}
      </span>
      <small>
        {wrong > 0
          ? count(wrong, "thing") + " to mend"
          : draft.size === 0
            ? "nothing yet"
            : (open.data?.impact ?? "looking what it does …")}
      </small>
    </Link>
  );
}
