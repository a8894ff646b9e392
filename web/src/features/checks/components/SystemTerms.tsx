import { useState } from "react";
import { Button, Table, Upload } from "antd";
import { count, dateOf } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import {
  termsFile,
  useAddTerms,
  useTryTerms,
  useUseTerms,
  type System,
  type Terms,
  type Trial,
} from "../systems";
import styles from "./Systems.module.css";

/** What a system's terms mean: versions, of which one that was tried is in force. */
export function SystemTerms({ system }: { system: System }) {
  const add = useAddTerms(system.key);
  const trial = useTryTerms(system.key);
  const use = useUseTerms(system.key);
  const [tried, setTried] = useState<number>();
  const problem = add.error ?? trial.error ?? use.error;
  return (
    <section aria-label="Terms">
      <p>
        A CSV table with the columns <code>kind</code> (person, entitlement or place),{" "}
        <code>theirs</code>, <code>ours</code> and <code>below</code> says what the names of{" "}
        {system.name} mean. A new version counts after you tried it on a sample.
      </p>
      <div className={styles["bar"]}>
        <Upload
          accept=".csv"
          showUploadList={false}
          beforeUpload={(file) => {
            add.mutate(file);
            return false; // it is sent by the call itself
          }}
        >
          <Button loading={add.isPending}>Add a version</Button>
        </Upload>
      </div>
      {problem && <ProblemAlert problem={problem} />}
      <Table<Terms>
        size="small"
        rowKey="version"
        dataSource={system.versions}
        pagination={{ pageSize: 5, hideOnSinglePage: true }}
        locale={{ emptyText: "No versions yet." }}
        columns={[
          {
            title: "Version",
            render: (_, it) => (
              <>
                {it.version}
                {it.version === system.terms && <strong> in force</strong>}
              </>
            ),
          },
          { title: "Added", render: (_, it) => `${dateOf(it.madeAt)} by ${it.madeBy}` },
          {
            title: "Tried",
            render: (_, it) => (it.triedAt ? dateOf(it.triedAt) : "not yet"),
          },
          {
            title: "Actions",
            render: (_, it) => (
              <div className={styles["bar"]}>
                <a href={termsFile(system.key, it.version)} download={`terms-${it.version}.csv`}>
                  Download
                </a>
                <Upload
                  accept=".csv"
                  showUploadList={false}
                  beforeUpload={(file) => {
                    setTried(it.version);
                    trial.mutate({ version: it.version, file });
                    return false; // it is sent by the call itself
                  }}
                >
                  <Button size="small" aria-label={`Try version ${it.version} on a sample`}>
                    Try on a sample
                  </Button>
                </Upload>
                {it.version !== system.terms && it.triedAt && (
                  <Button
                    size="small"
                    type="primary"
                    aria-label={`Put version ${it.version} in force`}
                    loading={use.isPending}
                    onClick={() => use.mutate(it.version)}
                  >
                    Put in force
                  </Button>
                )}
              </div>
            ),
          },
        ]}
      />
      {trial.data && tried !== undefined && <Tried version={tried} trial={trial.data} />}
    </section>
  );
}

/** What a version makes of a sample. */
function Tried({ version, trial }: { version: number; trial: Trial }) {
  const none = Object.entries(trial.untranslated);
  return (
    <section role="status" aria-label="Trial" className={styles["chosen"]}>
      <p>
        Version {version} understands {trial.translated} of {count(trial.lines, "line")}.
        {none.length > 0 && (
          <> Without a meaning: {none.map(([what, many]) => `${what} (${many})`).join(", ")}.</>
        )}
        {trial.strangers.length > 0 && (
          <>
            {" "}
            Nobody you can see: {trial.strangers.slice(0, 8).join(", ")}
            {trial.strangers.length > 8 && ` and ${trial.strangers.length - 8} more`}.
          </>
        )}
      </p>
      <Table
        size="small"
        rowKey={(it) => `${it.identity} ${it.entitlement} ${it.place}`}
        dataSource={trial.first}
        pagination={{ pageSize: 5, hideOnSinglePage: true }}
        columns={[
          { title: "Who", render: (_, it) => `${it.identity} → ${it.whoName ?? "nobody"}` },
          {
            title: "What",
            render: (_, it) => `${it.entitlement} → ${it.permissions.join(", ") || "nothing"}`,
          },
          {
            title: "Where",
            render: (_, it) =>
              `${it.place || "everywhere"} → ${it.ourPlace ?? "nowhere"}${it.below ? " and below" : ""}`,
          },
        ]}
      />
    </section>
  );
}
