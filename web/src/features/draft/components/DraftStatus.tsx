import { Link } from "react-router";
import { useOpenDraft } from "@/entities/draft/queries";
import { count } from "@/shared/lib/words";
import styles from "./DraftStatus.module.css";

/** The open draft, in sight on every page: its size and its impact in short. */
export function DraftStatus() {
  const open = useOpenDraft();
  const draft = open.data?.draft;
  if (!draft) {
    return (
      <Link to="/drafts" className={styles["none"]} data-draft="none">
        No draft
      </Link>
    );
  }
  const errors = (open.data?.faults ?? 0) + (open.data?.clashes ?? 0);
  return (
    <Link
      to={`/drafts/${draft.id}`}
      className={styles["draft"]}
      data-draft="open"
      title={open.data?.impact}
    >
      <span>
        <strong>{draft.name ?? "Draft"}</strong> · {count(draft.size, "change")}
      </span>
      <small>
        {errors > 0
          ? `${count(errors, "error")} to fix`
          : draft.size === 0
            ? "empty"
            : (open.data?.impact ?? "computing its impact…")}
      </small>
    </Link>
  );
}
