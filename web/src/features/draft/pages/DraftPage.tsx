import { App, Button } from "antd";
import { useNavigate, useParams } from "react-router";
import { nameOf, stateOf } from "@/entities/draft/names";
import { useDraft, useHandle, type DraftView } from "@/entities/draft/queries";
import { PersonField } from "@/entities/subject/PersonField";
import { count } from "@/shared/lib/words";
import { EditableTitle } from "@/shared/ui/EditableTitle";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { ApplyPanel } from "../components/ApplyPanel";
import { Changes } from "../components/Changes";
import { Clashes } from "../components/Clashes";
import { Discussion } from "../components/Discussion";
import { Explanation } from "../components/Explanation";
import { ImpactPanel } from "../components/ImpactPanel";
import styles from "./DraftPage.module.css";

/** A draft: its changes and errors, its impact, its comments, and the way to apply it. */
export function DraftPage() {
  const { id = "" } = useParams();
  const draft = useDraft(id);
  if (draft.isPending) return <Loading what="the draft" />;
  if (draft.isError) {
    return <ProblemAlert problem={draft.error} onRetry={() => void draft.refetch()} />;
  }
  const it = draft.data;
  const alive = it.state === "open" || it.state === "aside";
  const readOnly = !it.mine || !alive;
  return (
    <>
      <Head draft={it} readOnly={readOnly} />
      <div className={styles["draft"]}>
        <div>
          {it.clashes.length > 0 && it.mine && <Clashes draft={it} />}
          <Changes draft={it} readOnly={readOnly} />
          <Explanation draft={it} readOnly={readOnly} />
          <ApplyPanel draft={it} />
          <Discussion draft={it} />
        </div>
        <aside aria-label="Impact">
          <h2 className="part">Impact</h2>
          {it.changes.length > 0 ? (
            <ImpactPanel draft={it} />
          ) : (
            <p className="note">An empty draft has no impact.</p>
          )}
        </aside>
      </div>
    </>
  );
}

function Head({ draft, readOnly }: { draft: DraftView; readOnly: boolean }) {
  const handle = useHandle(draft.id);
  const navigate = useNavigate();
  const { notification } = App.useApp();
  const { name = "" } = draft;

  function discard() {
    handle.mutate(
      { state: "discarded" },
      {
        onSuccess: () => {
          void navigate("/drafts");
          notification.info({
            key: draft.id,
            title: "Draft discarded",
            description: "You can restore it from the list of drafts for 30 days.",
            actions: (
              <Button
                size="small"
                onClick={() => {
                  notification.destroy(draft.id);
                  // the page that discarded it is gone by now, and with it what a mutation calls
                  void handle
                    .mutateAsync({ state: draft.state === "open" ? "open" : "aside" })
                    .then(() => navigate(`/drafts/${draft.id}`));
                }}
              >
                Undo
              </Button>
            ),
          });
        },
      },
    );
  }
  return (
    <PageHead
      path={[{ name: "Drafts", to: "/drafts" }]}
      title={
        readOnly ? (
          nameOf(draft)
        ) : (
          <EditableTitle
            key={name}
            label="Name of the draft"
            placeholder={nameOf(draft)}
            name={name}
            onName={(it) => handle.mutate({ name: it })}
          />
        )
      }
      facts={[
        draft.mine ? "yours" : `by ${draft.owner.name}`,
        draft.appliedAs === undefined && stateOf(draft),
        `${count(draft.changes.length, "change")} to revision ${draft.revision}`,
        draft.takesBack !== undefined && `reverts revision ${draft.takesBack}`,
      ]}
      actions={
        !readOnly && (
          <>
            <Button
              size="small"
              onClick={() => handle.mutate({ state: draft.state === "open" ? "aside" : "open" })}
            >
              {draft.state === "open" ? "Set aside" : "Make active"}
            </Button>
            <PersonField
              label="Draft"
              look="button"
              value="Hand over"
              search="New owner"
              onChoose={(owner) => handle.mutate({ owner })}
            />
            <Button size="small" danger onClick={discard}>
              Discard draft
            </Button>
          </>
        )
      }
    >
      {handle.isError && <ProblemAlert problem={handle.error} />}
    </PageHead>
  );
}
