import { lazy, Suspense, useState } from "react";
import { Form, Input, Modal, Radio, Select } from "antd";
import { useAccountNames } from "@/entities/account/queries";
import { useThings } from "@/entities/thing/queries";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useKeepSource } from "../use";

const DateField = lazy(async () => ({
  default: (await import("@/shared/ui/DateField")).DateField,
}));

interface Props {
  /** Keys of the accounts for which one may add sources. */
  accounts: string[];
  onClose: () => void;
}

const today = () => new Date().toISOString().slice(0, 10);

/** Asks what a source reports, where and since when. */
export function SourceForm({ accounts, onClose }: Props) {
  const keep = useKeepSource();
  const nameOf = useAccountNames();
  const permissions = useThings("permissions");
  const [name, setName] = useState("");
  const [account, setAccount] = useState(accounts.length === 1 ? accounts[0] : undefined);
  const [whole, setWhole] = useState(true);
  const [some, setSome] = useState<string[]>([]);
  const [since, setSince] = useState(today());
  const key = name
    .trim()
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");
  const ready = key !== "" && account && since !== "" && (whole || some.length > 0);
  return (
    <Modal
      open
      title="New source"
      okText="Add source"
      okButtonProps={{ disabled: !ready, loading: keep.isPending }}
      onCancel={onClose}
      onOk={() => {
        if (account) {
          keep.mutate(
            {
              key,
              name: name.trim(),
              account,
              since,
              ...(!whole && { permissions: some }),
            },
            { onSuccess: onClose },
          );
        }
      }}
    >
      <Form layout="vertical">
        <Form.Item
          label="Name"
          extra={
            key && (
              <>
                Programs name it <code>{key}</code>.
              </>
            )
          }
        >
          <Input
            aria-label="Name"
            autoFocus
            maxLength={80}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Form.Item>
        <Form.Item label="Reports places of">
          <Select
            aria-label="Account"
            placeholder="Choose an account"
            showSearch={{ optionFilterProp: "label" }}
            value={account}
            options={accounts.map((it) => ({ value: it, label: nameOf(it) }))}
            onChange={setAccount}
          />
        </Form.Item>
        <Form.Item label="Reports every use of">
          <Radio.Group
            value={whole}
            onChange={(event) => setWhole(event.target.value === true)}
            options={[
              { value: true, label: "every permission" },
              { value: false, label: "some permissions" },
            ]}
          />
          {!whole && (
            <Select
              mode="multiple"
              aria-label="Permissions"
              placeholder="Choose permissions"
              style={{ width: "100%", marginTop: 8 }}
              showSearch={{ optionFilterProp: "label" }}
              value={some}
              options={(permissions.data?.things ?? []).map((it) => ({
                value: it.key ?? "",
                label: it.name,
              }))}
              onChange={setSome}
            />
          )}
        </Form.Item>
        <Form.Item label="Everything since">
          <Suspense>
            <DateField label="Since" value={since} onChange={setSince} />
          </Suspense>
        </Form.Item>
      </Form>
      {keep.isError && <ProblemAlert problem={keep.error} />}
    </Modal>
  );
}
