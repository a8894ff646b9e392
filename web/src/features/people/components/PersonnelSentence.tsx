import { Button, Input, Space } from "antd";
import { useAccounts } from "@/entities/account/queries";
import { ChoiceWord } from "@/shared/ui/ChoiceWord";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { LinkButton } from "@/shared/ui/LinkButton";
import { NumberWord } from "@/shared/ui/NumberWord";
import { Sentence } from "@/shared/ui/Sentence";
import type { PersonnelOrder } from "../personnel";

interface Props {
  order: PersonnelOrder;
  onChange: (changes: Partial<PersonnelOrder>) => void;
  onFile: (file: string | undefined) => void;
}

/** How a personnel list is read, as sentences whose words are chosen. */
export function PersonnelSentence({ order, onChange, onFile }: Props) {
  const accounts = (useAccounts().data?.accounts ?? []).filter((it) =>
    it.may.includes("mandala.people.manage"),
  );
  return (
    <Sentence>
      The people of{" "}
      <ChoiceWord
        label="Account"
        value={order.account}
        options={accounts.map((it) => ({ value: it.key, label: it.name, depth: it.depth }))}
        onChoose={(account) => onChange({ account })}
      />{" "}
      follow this list; who has a personnel number and is missing from it{" "}
      <ChoiceWord
        label="Missing"
        value={order.missing}
        options={[
          { value: "leave", label: "leaves" },
          { value: "stay", label: "stays as they are" },
        ]}
        onChoose={(missing) => onChange({ missing })}
      />
      . It stops when it would remove more than{" "}
      <NumberWord
        label="Most to remove"
        value={order.most}
        text={`${order.most} %`}
        min={0}
        max={100}
        onChoose={(most) => onChange({ most })}
      />{" "}
      of them.{" "}
      {order.file === undefined ? (
        <>
          It is given by hand.{" "}
          <LinkButton onClick={() => onFile("staff.csv")}>take it from a folder</LinkButton>
        </>
      ) : (
        <>
          Each new{" "}
          <InlinePicker
            label="File"
            value={order.file}
            picker={(close) => (
              <Space>
                <Input
                  aria-label="File"
                  value={order.file}
                  maxLength={100}
                  onChange={(event) => onFile(event.target.value)}
                  onPressEnter={close}
                />
                <Button onClick={close}>Done</Button>
              </Space>
            )}
          />{" "}
          in the server&apos;s folder is{" "}
          <ChoiceWord
            label="Then"
            value={order.does}
            options={[
              { value: "proposes", label: "proposed as a draft" },
              { value: "applies", label: "applied" },
            ]}
            onChoose={(does) => onChange({ does })}
          />
          . <LinkButton onClick={() => onFile(undefined)}>only by hand</LinkButton>
        </>
      )}
    </Sentence>
  );
}
