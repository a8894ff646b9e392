import { Button } from "antd";
import { Link, useNavigate } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { nameOf, stateOf } from "@/entities/draft/names";
import { useDrafts, useHandleAny, useNewDraft } from "@/entities/draft/queries";
import { ago, count, dateOf } from "@/shared/lib/words";
import { DataTable } from "@/shared/ui/DataTable";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Term } from "@/shared/ui/Term";

/** The viewer's drafts, and those of others that wait for their approval. */
export function DraftsPage() {
  const drafts = useDrafts();
  const begin = useNewDraft();
  const navigate = useNavigate();
  if (drafts.isPending) return <Loading what="the drafts" />;
  if (drafts.isError) {
    return <ProblemAlert problem={drafts.error} onRetry={() => void drafts.refetch()} />;
  }
  const { mine, waiting, judging, discarded } = drafts.data;
  return (
    <>
      <PageHead
        title="Drafts"
        facts={[
          <>
            Changes on any page are added to your active <Term word="draft" />. They take effect
            when you apply it.
          </>,
        ]}
        actions={
          <Button
            size="small"
            loading={begin.isPending}
            onClick={() =>
              begin.mutate("", {
                onSuccess: (it) => void navigate(`/drafts/${it.draft?.id ?? ""}`),
              })
            }
          >
            New draft
          </Button>
        }
      >
        {begin.isError && <ProblemAlert problem={begin.error} />}
      </PageHead>
      {waiting.length > 0 && (
        <>
          <h2 className="part">Waiting for approval</h2>
          <DraftTable label="Waiting for approval" drafts={waiting} />
        </>
      )}
      {judging > 0 && (
        <p className="note" role="status">
          Checking whether {count(judging, "more draft")} {judging === 1 ? "needs" : "need"} your
          approval…
        </p>
      )}
      <h2 className="part">Your drafts</h2>
      {mine.length === 0 ? (
        <p className="note">You have no drafts yet. Change something on any page to begin one.</p>
      ) : (
        <DraftTable label="Your drafts" drafts={mine} />
      )}
      {discarded.length > 0 && (
        <>
          <h2 className="part">Discarded in the last 30 days</h2>
          <DraftTable label="Discarded drafts" drafts={discarded} />
        </>
      )}
    </>
  );
}

function DraftTable({ label, drafts }: { label: string; drafts: Schemas["Summary"][] }) {
  const now = new Date();
  const handle = useHandleAny();
  return (
    <>
      {handle.isError && <ProblemAlert problem={handle.error} />}
      <DataTable
        label={label}
        tools={label === "Your drafts" ? "drafts" : undefined}
        rows={drafts}
        rowKey={(it) => it.id}
        columns={[
          {
            key: "name",
            title: "Draft",
            card: "title",
            render: (it) => <Link to={`/drafts/${it.id}`}>{nameOf(it)}</Link>,
          },
          { key: "owner", title: "By", render: (it) => (it.mine ? "you" : it.owner.name) },
          {
            key: "state",
            title: "State",
            render: (it) => (it.request ? requestOf(it.request, now) : stateOf(it)),
          },
          { key: "size", title: "Size", render: (it) => count(it.size, "change") },
          {
            key: "changed",
            title: "Last changed",
            order: (it) => it.changedAt,
            render: (it) => <span title={dateOf(it.changedAt)}>{ago(it.changedAt, now)}</span>,
          },
          {
            key: "act",
            title: "Action",
            quietTitle: true,
            render: (it) =>
              it.mine &&
              (it.state === "aside" || it.state === "discarded") && (
                <Button
                  size="small"
                  aria-label={`${it.state === "aside" ? "Make active" : "Restore"}: ${nameOf(it)}`}
                  onClick={() =>
                    handle.mutate({ id: it.id, state: it.state === "aside" ? "open" : "aside" })
                  }
                >
                  {it.state === "aside" ? "Make active" : "Restore"}
                </Button>
              ),
          },
        ]}
      />
    </>
  );
}

/** When one was asked to approve a draft, and reminded. */
function requestOf(request: NonNullable<Schemas["Summary"]["request"]>, now: Date): string {
  const sent = `sent to you ${ago(request.askedAt, now)}`;
  return request.remindedAt ? `${sent}, reminded ${ago(request.remindedAt, now)}` : sent;
}
