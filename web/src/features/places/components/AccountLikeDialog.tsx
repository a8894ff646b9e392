import { useState } from "react";
import { Checkbox, Form, Input, Modal } from "antd";
import { useNavigate } from "react-router";
import { useAccounts } from "@/entities/account/queries";
import { NamePicker } from "@/entities/thing/NamePicker";
import { useThingName } from "@/entities/thing/ThingName";
import { whenDone } from "@/shared/lib/whenDone";
import { ChoiceWord } from "@/shared/ui/ChoiceWord";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useCopyAccount } from "../summary";

const PARTS = [
  { value: "units", label: "Units" },
  { value: "groups", label: "Groups without their members, and what is assigned to them" },
  { value: "roles", label: "Roles and permission sets that it defines" },
];

interface Props {
  account: string;
  name: string;
  onClose: () => void;
}

/** Makes a new account like one that is there, with its administrator. */
export function AccountLikeDialog({ account, name, onClose }: Props) {
  const navigate = useNavigate();
  const accounts = useAccounts().data?.accounts ?? [];
  const above = accounts.find((it) => it.key === account)?.parent ?? account;
  const [title, setTitle] = useState("");
  const [parent, setParent] = useState(above);
  const [administrator, setAdministrator] = useState("");
  const [parts, setParts] = useState(PARTS.map((it) => it.value));
  const administratorName = useThingName("principals", administrator);
  const copy = useCopyAccount(account);
  const make = () =>
    whenDone(
      copy.mutateAsync({ name: title, parent, administrator, parts }),
      ({ draft }) => void navigate(`/drafts/${draft}`),
    );
  return (
    <Modal
      open
      title={`New account like ${name}`}
      okText="Add to draft"
      cancelText="Cancel"
      okButtonProps={{ disabled: title.trim() === "" || administrator === "" }}
      confirmLoading={copy.isPending}
      onOk={() => void make()}
      onCancel={onClose}
    >
      <Form layout="vertical">
        <Form.Item label="Name" htmlFor="account-name">
          <Input
            id="account-name"
            value={title}
            maxLength={200}
            onChange={(event) => setTitle(event.target.value)}
          />
        </Form.Item>
        <Form.Item label="Below">
          <ChoiceWord
            label="Below"
            value={parent}
            options={accounts
              .filter((it) => it.readable)
              .map((it) => ({ value: it.key, label: it.name, depth: it.depth }))}
            onChoose={(key) => setParent(key)}
          />
        </Form.Item>
        <Form.Item
          label="Administrator"
          extra="Somebody at home in the account above it. They get the role Security administrator there, and answer for its groups and roles."
        >
          <InlinePicker
            label="Administrator"
            value={administrator === "" ? "Choose a person" : administratorName}
            picker={(close) => (
              <NamePicker
                label="Administrator"
                kinds={["principals"]}
                value={administrator}
                onChoose={(it) => {
                  setAdministrator(it.key);
                  close();
                }}
              />
            )}
          />
        </Form.Item>
        <Form.Item
          label="Copies"
          extra="People and places stay where they are, and so does what is assigned for a time or names another account."
        >
          <Checkbox.Group
            value={parts}
            onChange={setParts}
            options={PARTS}
            style={{ display: "grid" }}
          />
        </Form.Item>
      </Form>
      {copy.isError && <ProblemAlert problem={copy.error} />}
    </Modal>
  );
}
