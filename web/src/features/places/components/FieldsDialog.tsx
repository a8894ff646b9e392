import { useState } from "react";
import { Button, Checkbox, Input, Modal, Select } from "antd";
import { useDeclareFields, type DeclaredField } from "@/entities/form/fieldQueries";
import { whenDone } from "@/shared/lib/whenDone";
import { LinkButton } from "@/shared/ui/LinkButton";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { keyOf } from "../summary";

interface Props {
  account: string;
  name: string;
  fields: DeclaredField[];
  onClose: () => void;
}

const WHOM = [
  { value: "person", label: "required of people" },
  { value: "service", label: "required of services" },
];

/** Declares the fields that an account asks of its people and services. */
export function FieldsDialog({ account, name, fields, onClose }: Props) {
  const [rows, setRows] = useState(fields);
  const declare = useDeclareFields(account);
  const change = (at: number, some: Partial<DeclaredField>) =>
    setRows((all) => all.map((it, i) => (i === at ? { ...it, ...some } : it)));
  return (
    <Modal
      open
      width={760}
      title={`Fields of the people of ${name}`}
      okText="Save fields"
      cancelText="Cancel"
      okButtonProps={{ disabled: rows.some((it) => it.label.trim() === "" || it.key === "") }}
      confirmLoading={declare.isPending}
      onOk={() => void whenDone(declare.mutateAsync(rows), onClose)}
      onCancel={onClose}
    >
      <p className="note">
        Forms and lists ask for them when somebody comes, in this account and those below it. Who is
        there already stays as they are.
      </p>
      {rows.map((it, at) => (
        <fieldset key={at} style={{ border: 0, padding: "8px 0", display: "grid", gap: 6 }}>
          <div style={{ display: "flex", gap: 8 }}>
            <Input
              aria-label={`Name of field ${at + 1}`}
              placeholder="Name, such as Badge number"
              value={it.label}
              maxLength={60}
              onChange={(event) =>
                change(at, {
                  label: event.target.value,
                  ...((it.key === "" || it.key === keyOf(it.label)) && {
                    key: keyOf(event.target.value),
                  }),
                })
              }
            />
            <Input
              aria-label={`Key of field ${at + 1}`}
              placeholder="key"
              value={it.key}
              maxLength={40}
              className="code"
              style={{ maxWidth: 160 }}
              onChange={(event) => change(at, { key: event.target.value })}
            />
            <LinkButton onClick={() => setRows(rows.filter((_, i) => i !== at))}>Remove</LinkButton>
          </div>
          <Select
            aria-label={`Choices of field ${at + 1}`}
            mode="tags"
            open={false}
            suffix={null}
            placeholder="Any text; or write choices, each with Enter"
            value={it.choices}
            onChange={(choices: string[]) => change(at, { choices })}
          />
          <Checkbox.Group
            value={it.required}
            options={WHOM}
            onChange={(required) => change(at, { required })}
          />
        </fieldset>
      ))}
      <Button
        size="small"
        disabled={rows.length >= 30}
        onClick={() => setRows([...rows, { key: "", label: "", choices: [], required: [] }])}
      >
        Add field
      </Button>
      {declare.isError && <ProblemAlert problem={declare.error} />}
    </Modal>
  );
}
