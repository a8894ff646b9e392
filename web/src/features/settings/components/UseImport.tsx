import { useState } from "react";
import { Alert, Button, Select, Space, Upload } from "antd";
import { count } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useTakeUse, type Source } from "../use";

/** Takes a file of use records in: all of it, or nothing if it has an error. */
export function UseImport({ sources }: { sources: Source[] }) {
  const [source, setSource] = useState(sources[0]?.key);
  const [file, setFile] = useState<File>();
  const take = useTakeUse();
  const taken = take.data;
  return (
    <>
      <h2 className="part">Import records</h2>
      <p className="note">
        JSON Lines (mandala-use/1), or CSV whose first line names the columns. A file with an error
        adds nothing.
      </p>
      <Space wrap align="start">
        <Select
          aria-label="Source"
          style={{ minWidth: 200 }}
          value={source}
          options={sources.map((it) => ({ value: it.key, label: it.name }))}
          onChange={setSource}
        />
        <Upload
          accept=".jsonl,.ndjson,.csv"
          maxCount={1}
          beforeUpload={(chosen) => {
            setFile(chosen);
            take.reset();
            return false; // it is sent by the button beside
          }}
          onRemove={() => setFile(undefined)}
        >
          <Button>Choose records</Button>
        </Upload>
        <Button
          disabled={!file || !source}
          loading={take.isPending}
          onClick={() => {
            if (file && source) take.mutate({ source, file });
          }}
        >
          Import records
        </Button>
      </Space>
      {take.isError && <ProblemAlert problem={take.error} />}
      {taken && (
        <Alert
          type="success"
          showIcon
          title={
            taken.again
              ? "This file came in before. Nothing was added."
              : `${count(taken.records, "record")} came in.`
          }
          description={
            taken.unknown > 0 &&
            `${count(taken.unknown, "record names", "records name")} someone or something you don't know. Unfold the source to see the names.`
          }
        />
      )}
    </>
  );
}
