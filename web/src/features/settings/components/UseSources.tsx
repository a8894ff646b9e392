import { lazy, Suspense, useState } from "react";
import { Button, Popconfirm, Table } from "antd";
import { useAccountNames, useMay } from "@/entities/account/queries";
import { count, dateOf, dayOf } from "@/shared/lib/words";
import { LinkButton } from "@/shared/ui/LinkButton";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useRemoveSource, useSources, type Source } from "../use";
import { Strangers } from "./Strangers";
import { UseImport } from "./UseImport";
import { UseKeeping } from "./UseKeeping";
import styles from "../pages/SettingsPage.module.css";

const SourceForm = lazy(async () => ({
  default: (await import("./SourceForm")).SourceForm,
}));

/** Who reports use of access, and files of records. */
export function UseSources() {
  const manages = useMay("mandala.settings.manage");
  const list = useSources(manages);
  const remove = useRemoveSource();
  const nameOf = useAccountNames();
  const [adding, setAdding] = useState(false);
  if (!manages) return null;
  const sources = list.data?.sources ?? [];
  return (
    <>
      <h1 className={styles["title"]}>Use of access</h1>
      <section className={styles["wide"]} aria-label="Use of access">
        <p>
          Systems report what people do in them. What no source reports is never called unused.
          {list.data && (
            <> Mandala reports the use of its own permissions since {dayOf(list.data.ownSince)}.</>
          )}
        </p>
        {list.data && <UseKeeping list={list.data} />}
        {list.isError && <ProblemAlert problem={list.error} onRetry={() => void list.refetch()} />}
        {remove.isError && <ProblemAlert problem={remove.error} />}
        <Button style={{ marginBottom: 12 }} disabled={!list.data} onClick={() => setAdding(true)}>
          New source
        </Button>
        <Table<Source>
          size="small"
          rowKey="key"
          loading={list.isPending}
          dataSource={sources}
          pagination={{ pageSize: 10, hideOnSinglePage: true }}
          locale={{ emptyText: "No sources yet. Add one for each system that reports use." }}
          expandable={{ expandedRowRender: (it) => <Strangers source={it.key} /> }}
          columns={[
            {
              title: "Name",
              render: (_, it) => (
                <>
                  {it.name}
                  <p className="note">
                    {nameOf(it.account)} · <code>{it.key}</code>
                  </p>
                </>
              ),
            },
            {
              title: "Reports",
              render: (_, it) => (
                <>
                  {it.permissions ? count(it.permissions.length, "permission") : "every permission"}
                  {it.more && ", and what you can't see"}
                  <p className="note">since {dayOf(it.since)}</p>
                </>
              ),
            },
            {
              title: "Came in",
              render: (_, it) =>
                it.latest ? (
                  <>
                    {count(it.records, "record")}
                    <p className="note">last on {dateOf(it.latest)}</p>
                  </>
                ) : (
                  "nothing yet"
                ),
            },
            {
              title: "Actions",
              align: "end",
              render: (_, it) => (
                <Popconfirm
                  title={`Remove “${it.name}”?`}
                  description="What it reported is kept. From now on it counts as not observed."
                  okText="Remove"
                  cancelText="Keep it"
                  onConfirm={() => remove.mutate(it.key)}
                >
                  <LinkButton aria-label={`Remove ${it.name}`}>Remove</LinkButton>
                </Popconfirm>
              ),
            },
          ]}
        />
        {sources.length > 0 && <UseImport sources={sources} />}
        {adding && (
          <Suspense>
            <SourceForm accounts={list.data?.accounts ?? []} onClose={() => setAdding(false)} />
          </Suspense>
        )}
      </section>
    </>
  );
}
