import { useState } from "react";
import { Button, Popconfirm } from "antd";
import { useAccounts } from "../../../app/account";
import { ProblemNote } from "../../../components/ProblemNote";
import { count } from "../../../lib/words";
import { ApprovalSettings } from "../components/ApprovalSettings";
import { useImport, useNewestRevision } from "../queries";

/** Policies, and the whole model out of Mandala and into it. */
export function SettingsPage() {
  const accounts = useAccounts();
  return (
    <>
      <ApprovalSettings />
      {accounts.data?.transfer && <ModelTransfer />}
    </>
  );
}

function ModelTransfer() {
  const [file, setFile] = useState<File>();
  const [proof, setProof] = useState("");
  const load = useImport();
  const newest = useNewestRevision();
  const base = newest.data?.[0]?.number;
  return (
    <>
      <h1 className="sentence">The model as a document</h1>
      <section className="setting">
        <h2>Export</h2>
        <p>All that this Mandala holds, in one order, so that two versions compare line by line.</p>
        <Button href="/api/model" download="mandala.model.json">
          Export the model
        </Button>
      </section>
      <section className="setting">
        <h2>Import</h2>
        <p>
          A mandala-model/1 document takes the place of everything, in one step or not at all. You
          must still own every root account after it.
        </p>
        <label>
          Document{" "}
          <input
            type="file"
            accept=".json,application/json"
            onChange={(event) => {
              setFile(event.target.files?.[0]);
              load.reset();
            }}
          />
        </label>
        <label>
          Current code, or password{" "}
          <input
            className="plain-input"
            type="password"
            autoComplete="one-time-code"
            value={proof}
            onChange={(event) => setProof(event.target.value)}
          />
        </label>
        <Popconfirm
          title="Replace the whole model?"
          description="Export first, if you may want it back."
          okText="Replace it"
          cancelText="Keep it"
          disabled={!file || !proof || base === undefined}
          onConfirm={() => {
            if (file && base !== undefined) load.mutate({ file, base, proof });
            setProof("");
          }}
        >
          <Button disabled={!file || !proof || base === undefined} loading={load.isPending}>
            Import in place of everything
          </Button>
        </Popconfirm>
        {load.isError && <ProblemNote problem={load.error} />}
        {load.isSuccess && (
          <p role="status">
            Imported {count(load.data.things, "thing")}; the model is now at revision{" "}
            {load.data.revision}.
          </p>
        )}
      </section>
    </>
  );
}
