import { useState } from "react";
import { Drawer, Table, Tag } from "antd";
import { useMay } from "@/entities/account/queries";
import type { Schemas } from "@/shared/api/client";
import { dateOf } from "@/shared/lib/words";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useOutbox } from "../queries";
import { Letters } from "./Letters";
import styles from "../pages/SettingsPage.module.css";

type Mail = Schemas["Mail"];

const STATE: Record<Mail["state"], string> = {
  waiting: "Waiting",
  sending: "Being sent",
  sent: "Sent",
  kept: "In the outbox",
  refused: "Refused",
  failed: "Given up",
};

/** Mail to people whose account's settings the viewer manages. */
export function Outbox() {
  const manages = useMay("mandala.settings.manage");
  const outbox = useOutbox(manages);
  const [open, setOpen] = useState<Mail>();
  const [reading, setReading] = useState(false);
  if (!manages) return null;
  if (outbox.isPending) return <Loading what="the mail" rows={3} />;
  if (outbox.isError) {
    return <ProblemAlert problem={outbox.error} onRetry={() => void outbox.refetch()} />;
  }
  return (
    <>
      <h1 className={styles["title"]}>Mail</h1>
      <section className={styles["wide"]} aria-label="Mail">
        <p>
          {outbox.data.sent
            ? "Mail goes out through your mail server. What it could not deliver says why."
            : "No mail server is set, so mail stays here and goes to no one. Set MANDALA_SMTP_HOST to send it."}
        </p>
        <p>
          <LinkButton onClick={() => setReading(true)}>See how each kind of mail reads</LinkButton>
        </p>
        <Table<Mail>
          size="small"
          rowKey="id"
          dataSource={outbox.data.mails}
          pagination={{ pageSize: 10, hideOnSinglePage: true }}
          locale={{ emptyText: "No mail yet. Notices that people get by mail are listed here." }}
          columns={[
            {
              title: "Subject",
              render: (_, it) => <LinkButton onClick={() => setOpen(it)}>{it.subject}</LinkButton>,
            },
            { title: "To", dataIndex: "recipient" },
            { title: "Written", render: (_, it) => dateOf(it.made) },
            {
              title: "State",
              render: (_, it) => (
                <>
                  {STATE[it.state]}
                  {it.repeated && <Tag style={{ marginInlineStart: 6 }}>sent again</Tag>}
                  {it.fault && <p className="warning">{it.fault}</p>}
                </>
              ),
            },
          ]}
        />
        <Letters open={reading} onClose={() => setReading(false)} />
        <Drawer
          open={open !== undefined}
          onClose={() => setOpen(undefined)}
          title={open?.subject}
          size={520}
        >
          <p className="note">To {open?.recipient}</p>
          {open?.body === undefined ? (
            <p>You can't read this mail: it can name what is in accounts you can't see.</p>
          ) : (
            <pre className={styles["letter"]}>{open.body}</pre>
          )}
        </Drawer>
      </section>
    </>
  );
}
