import { useState } from "react";
import { Button, Form, Input, Popconfirm, Upload } from "antd";
import { JobProgress } from "@/entities/job/JobProgress";
import { isOver, useJob, useJobs } from "@/entities/job/queries";
import { count, dateOf } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import styles from "../pages/SettingsPage.module.css";
import { useImport, useImported, useNewestRevision } from "../queries";

/** Exports the whole model as a document, and replaces it by one. */
export function ModelTransfer() {
  return (
    <>
      <h1 className={styles["title"]}>The model as a document</h1>
      <section className={styles["setting"]} aria-label="Export">
        <h2>Export</h2>
        <p>
          Everything in this Mandala, always in the same order, so that two exports can be compared.
        </p>
        <Button href="/api/model" download="mandala.model.json">
          Export model
        </Button>
      </section>
      <Import />
    </>
  );
}

function Import() {
  const [file, setFile] = useState<File>();
  const [proof, setProof] = useState("");
  const load = useImport();
  const newest = useNewestRevision();
  const base = newest.data?.[0]?.number;
  const jobs = useJobs();
  // one that was begun before is found again when one comes back
  const known = load.data ?? jobs.data?.jobs.find((it) => it.kind === "model-import");
  const job = useJob(known?.id).data ?? known;
  const did = useImported(job?.state === "done" ? job.id : undefined);
  const running = job !== undefined && !isOver(job);
  const ready = file && proof !== "" && base !== undefined && !running;
  return (
    <section className={styles["setting"]} aria-label="Import">
      <h2>Import</h2>
      <p>
        A mandala-model/1 document replaces the whole model, or nothing if it has an error. You must
        remain an owner of every root account.
      </p>
      <Upload
        accept=".json,application/json"
        maxCount={1}
        beforeUpload={(chosen) => {
          setFile(chosen);
          load.reset();
          return false; // it is sent by the button below
        }}
        onRemove={() => setFile(undefined)}
      >
        <Button>Choose document</Button>
      </Upload>
      <Form layout="vertical" component={false}>
        <Form.Item htmlFor="import-proof" label="Code of your second factor, or your password">
          <Input.Password
            id="import-proof"
            autoComplete="one-time-code"
            value={proof}
            onChange={(event) => setProof(event.target.value)}
          />
        </Form.Item>
      </Form>
      <Popconfirm
        title="Replace the whole model?"
        description="Export it first if you may need it again."
        okText="Replace model"
        cancelText="Cancel"
        disabled={!ready}
        onConfirm={() => {
          if (file && base !== undefined) load.mutate({ file, base, proof });
          setProof("");
        }}
      >
        <Button disabled={!ready} loading={load.isPending}>
          Import and replace
        </Button>
      </Popconfirm>
      {load.isError && <ProblemAlert problem={load.error} />}
      {job && <JobProgress job={job} label={job.title} />}
      {did.isError && <ProblemAlert problem={did.error} />}
      {did.data && job?.ended && (
        <p role="status">
          Imported {count(did.data.things, "thing")} as revision {did.data.revision} on{" "}
          {dateOf(job.ended)}.
        </p>
      )}
    </section>
  );
}
