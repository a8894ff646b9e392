import { Button, Select } from "antd";
import { NoticeList } from "@/entities/notice/NoticeList";
import {
  DELIVERY,
  useChooseNotice,
  useNoticeChoices,
  useNotices,
  useReadNotices,
  type Delivery,
} from "@/entities/notice/queries";
import { count } from "@/shared/lib/words";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { YouTabs } from "../components/YouTabs";
import styles from "./NoticesPage.module.css";

const ORDER: Delivery[] = ["here", "digest", "mail"];

/** All notices of the signed-in person, and how each kind comes. */
export function NoticesPage() {
  const notices = useNotices();
  const read = useReadNotices();
  if (notices.isPending) return <Loading what="your notices" />;
  if (notices.isError) {
    return <ProblemAlert problem={notices.error} onRetry={() => void notices.refetch()} />;
  }
  const { unread, notices: all } = notices.data;
  const newest = all[0];
  return (
    <>
      <YouTabs active="/you/notices" />
      <div className={styles["parts"]}>
        <section aria-label="Notices">
          <h1 className="hidden-text">Notices</h1>
          {newest && (
            <p className="summary" role="status">
              {unread === 0 ? "All read." : `${count(unread, "notice")} unread.`}{" "}
              {unread > 0 && (
                <Button
                  size="small"
                  loading={read.isPending}
                  onClick={() => read.mutate({ id: newest.id, andOlder: true })}
                >
                  Mark all as read
                </Button>
              )}
            </p>
          )}
          {newest ? (
            <NoticeList notices={all} />
          ) : (
            <EmptyState>
              Nothing yet. Drafts that wait for you, answers to your own, and what of your access
              ended are listed here.
            </EmptyState>
          )}
        </section>
        <Choices />
      </div>
    </>
  );
}

function Choices() {
  const choices = useNoticeChoices();
  const choose = useChooseNotice();
  if (choices.isPending) return <Loading what="how notices come" rows={4} />;
  if (choices.isError) {
    return <ProblemAlert problem={choices.error} onRetry={() => void choices.refetch()} />;
  }
  return (
    <section aria-label="How notices come">
      <h2 className="part">How notices come</h2>
      <p className="note">
        {choices.data.address
          ? `Every notice is listed here. Mail goes to ${choices.data.address}.`
          : "You have no mail address, so notices are only listed here. Ask your administrator to add one."}
      </p>
      <dl className={styles["choices"]}>
        {choices.data.choices.map((it) => (
          <div key={it.kind}>
            <dt>{it.title}</dt>
            <dd>
              <Select<Delivery>
                size="small"
                aria-label={it.title}
                value={it.delivery}
                disabled={!choices.data.address}
                popupMatchSelectWidth={false}
                options={ORDER.map((value) => ({
                  value,
                  label: DELIVERY[value],
                  disabled:
                    it.demanded !== undefined &&
                    ORDER.indexOf(value) < ORDER.findIndex((each) => each === it.demanded),
                }))}
                onChange={(delivery) => choose.mutate({ kind: it.kind, delivery })}
              />
              {it.demanded && <span className="note"> Your account asks for this.</span>}
            </dd>
          </div>
        ))}
      </dl>
      {choose.isError && <ProblemAlert problem={choose.error} />}
      {choose.isSuccess && <p role="status">Saved.</p>}
    </section>
  );
}
