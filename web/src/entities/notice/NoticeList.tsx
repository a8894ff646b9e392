import { Link } from "react-router";
import { dateOf } from "@/shared/lib/words";
import { useReadNotices, type Notice } from "./queries";
import styles from "./NoticeList.module.css";

/** Notices, the newest first; following one marks it as read. */
export function NoticeList({ notices, onOpen }: { notices: Notice[]; onOpen?: () => void }) {
  const read = useReadNotices();
  return (
    <ul className={styles["list"]}>
      {notices.map((it) => (
        <li key={it.id} className={it.read ? styles["read"] : undefined}>
          {!it.read && <span className={styles["dot"]} role="img" aria-label="Unread" />}
          <div>
            {it.link ? (
              <Link
                to={it.link}
                onClick={() => {
                  if (!it.read) read.mutate({ id: it.id, andOlder: false });
                  onOpen?.();
                }}
              >
                {it.said}
              </Link>
            ) : (
              it.said
            )}
            <p className="note">{dateOf(it.at)}</p>
          </div>
        </li>
      ))}
    </ul>
  );
}
