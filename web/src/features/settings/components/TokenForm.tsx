import { useState } from "react";
import { Checkbox, Form, Input, Modal, Radio, Select } from "antd";
import { useAccountNames } from "@/entities/account/queries";
import { ThingField } from "@/entities/thing/ThingField";
import type { Schemas } from "@/shared/api/client";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useMakeToken } from "../queries";
import { endAfter, HOLDS, purposeOf, purposesOn } from "../tokens";

interface Props {
  makeable: Schemas["Makeable"][];
  onClose: () => void;
  onMade: (token: Schemas["NewToken"]) => void;
}

/** Asks what a token is to be. */
export function TokenForm({ makeable, onClose, onMade }: Props) {
  const make = useMakeToken();
  const nameOf = useAccountNames();
  const [name, setName] = useState("");
  const [whose, setWhose] = useState<"service" | "own">("service");
  const [service, setService] = useState<{ key: string; name: string }>();
  const [accounts, setAccounts] = useState<string[]>(
    makeable.length === 1 ? makeable.map((it) => it.account) : [],
  );
  const [purposes, setPurposes] = useState<string[]>([]);
  const [days, setDays] = useState(90);
  const offered = purposesOn(makeable, accounts);
  const chosen = purposes.filter((it) => offered.includes(it));
  const ready =
    name.trim() !== "" &&
    accounts.length > 0 &&
    chosen.length > 0 &&
    (whose === "own" || service !== undefined);
  return (
    <Modal
      open
      title="New token"
      okText="Make token"
      okButtonProps={{ disabled: !ready, loading: make.isPending }}
      onCancel={onClose}
      onOk={() =>
        make.mutate(
          {
            name: name.trim(),
            ...(whose === "service" && service ? { principal: service.key } : {}),
            accounts,
            purposes: chosen,
            ends: endAfter(days, new Date()),
          },
          { onSuccess: onMade },
        )
      }
    >
      <Form layout="vertical">
        <Form.Item label="Name" extra="What uses it, such as “Monthly report”.">
          <Input
            aria-label="Name"
            autoFocus
            maxLength={80}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Form.Item>
        <Form.Item label="Has the rights of">
          <Radio.Group
            value={whose}
            onChange={(event) => setWhose(event.target.value as typeof whose)}
            options={[
              { value: "service", label: "a service" },
              { value: "own", label: "me, without my second factor" },
            ]}
          />
          {whose === "service" && (
            <ThingField
              label="Service"
              kind="principals"
              changeable
              look="button"
              value={service?.name ?? "Choose a service"}
              onChoose={(key, chosenName) => setService({ key, name: chosenName })}
            />
          )}
        </Form.Item>
        <Form.Item label="Reads in">
          <Select
            mode="multiple"
            aria-label="Accounts"
            placeholder="Choose accounts"
            showSearch={{ optionFilterProp: "label" }}
            value={accounts}
            options={makeable.map((it) => ({ value: it.account, label: nameOf(it.account) }))}
            onChange={setAccounts}
          />
        </Form.Item>
        <Form.Item label="What for">
          <Checkbox.Group
            style={{ display: "grid", gap: 4 }}
            value={chosen}
            options={offered.map((it) => ({ value: it, label: purposeOf(it) }))}
            onChange={setPurposes}
          />
        </Form.Item>
        <Form.Item label="Holds for">
          <Select aria-label="Holds for" value={days} options={HOLDS} onChange={setDays} />
        </Form.Item>
      </Form>
      {make.isError && <ProblemAlert problem={make.error} />}
    </Modal>
  );
}
