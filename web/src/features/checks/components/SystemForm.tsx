import { useState } from "react";
import { Form, Input, Modal, Select } from "antd";
import { useAccountNames } from "@/entities/account/queries";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useKeepSystem, type System } from "../systems";

interface Props {
  /** The system to change; a new one without it. */
  system?: System;
  /** Keys of the accounts for which one may add systems. */
  accounts: string[];
  /** Keys that other systems have. */
  taken: string[];
  /** Takes the key of a system that was added. */
  onClose: (key?: string) => void;
}

/** Asks which system, and what the columns of its tables are called. */
export default function SystemForm({ system, accounts, taken, onClose }: Props) {
  const keep = useKeepSystem();
  const nameOf = useAccountNames();
  const [name, setName] = useState(system?.name ?? "");
  const [account, setAccount] = useState(
    system?.account ?? (accounts.length === 1 ? accounts[0] : undefined),
  );
  const [identity, setIdentity] = useState(system?.identity ?? "identity");
  const [entitlement, setEntitlement] = useState(system?.entitlement ?? "entitlement");
  const [place, setPlace] = useState(system ? (system.place ?? "") : "place");
  const key =
    system?.key ??
    name
      .trim()
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "");
  const ready =
    name.trim() !== "" &&
    key !== "" &&
    !taken.includes(key) &&
    account &&
    identity.trim() &&
    entitlement.trim();
  const field = (label: string, value: string, onChange: (it: string) => void, extra: string) => (
    <Form.Item label={label} extra={extra}>
      <Input
        aria-label={label}
        maxLength={200}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </Form.Item>
  );
  return (
    <Modal
      open
      title={system ? `Edit ${system.name}` : "New system"}
      okText={system ? "Save" : "Add system"}
      okButtonProps={{ disabled: !ready, loading: keep.isPending }}
      onCancel={() => onClose()}
      onOk={() => {
        if (account) {
          keep.mutate(
            {
              key,
              name: name.trim(),
              account,
              identity: identity.trim(),
              entitlement: entitlement.trim(),
              place: place.trim(),
            },
            { onSuccess: () => onClose(key) },
          );
        }
      }}
    >
      <Form layout="vertical">
        <Form.Item
          label="Name"
          {...(taken.includes(key) && {
            validateStatus: "error" as const,
            help: "There is a system of this name. Choose another.",
          })}
        >
          <Input
            aria-label="Name"
            autoFocus
            maxLength={80}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Form.Item>
        <Form.Item label="Account">
          <Select
            aria-label="Account"
            placeholder="Choose an account"
            showSearch={{ optionFilterProp: "label" }}
            value={account}
            options={accounts.map((it) => ({ value: it, label: nameOf(it) }))}
            onChange={setAccount}
          />
        </Form.Item>
        {field("Column with who", identity, setIdentity, "An identity, such as a sign-in name.")}
        {field("Column with what", entitlement, setEntitlement, "Such as a level or a group.")}
        {field("Column with where", place, setPlace, "Empty for a system without places.")}
      </Form>
      {keep.isError && <ProblemAlert problem={keep.error} />}
    </Modal>
  );
}
