import { useState } from "react";
import { Button, Form, InputNumber, Space } from "antd";
import { momentInWords } from "@/entities/access/model";
import { PersonPicker } from "@/entities/subject/PersonPicker";
import { useThingName } from "@/entities/thing/ThingName";
import { ThingPicker } from "@/entities/thing/ThingPicker";
import { Combobox } from "@/shared/ui/Combobox";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { WhenPicker } from "./WhenPicker";

/** One side of a comparison. */
export interface Side {
  /** The person, role or pattern compared; its key or reference in the address. */
  name: string;
  at: string | undefined;
  revision: string | undefined;
  draft: string | undefined;
}

interface Props {
  label: string;
  side: Side;
  /** The person on the other side, if it is one. */
  rival: string | undefined;
  onWho: (who: string) => void;
  /** Sets date, revision and draft; empty ones are cleared. */
  onWhen: (when: { at?: string; revision?: string; draft?: string }) => void;
}

/** One side of a comparison, as words of the sentence: who or what, and when. */
export function SideField({ label, side, rival, onWho, onWhen }: Props) {
  const { name, at, revision, draft } = side;
  // a key has no spaces; a name that the answer gave already is left as it is
  const known = useThingName("principals", name.includes(" ") ? "" : name);
  const shown = known === "" ? name : known;
  return (
    <>
      <InlinePicker
        label={label}
        value={shown}
        picker={(close) => (
          <SidePicker
            label={label}
            rival={rival}
            onChoose={(it) => {
              onWho(it);
              close();
            }}
          />
        )}
      />{" "}
      {at && "on "}
      <InlinePicker
        label={`${label}: when`}
        value={
          momentInWords(at) +
          (revision ? `, revision ${revision}` : "") +
          (draft ? ", with my draft" : "")
        }
        picker={(close) => (
          <>
            <WhenPicker
              at={at ?? ""}
              onChoose={(it) => {
                onWhen({ at: it });
                close();
              }}
            />
            <Form<{ revision?: number | null }>
              layout="vertical"
              initialValues={{ revision: revision ? Number(revision) : null }}
              style={{ marginTop: 10 }}
              onFinish={({ revision: typed }) => {
                onWhen({ at: at ?? "", revision: typed ? String(typed) : "" });
                close();
              }}
            >
              <Form.Item name="revision" label="Or as of revision">
                <InputNumber min={1} precision={0} />
              </Form.Item>
              <Space>
                <Button htmlType="submit" size="small">
                  Use this revision
                </Button>
                <Button
                  size="small"
                  onClick={() => {
                    onWhen({ at: at ?? "", draft: "open" });
                    close();
                  }}
                >
                  Apply my open draft
                </Button>
              </Space>
            </Form>
          </>
        )}
      />
    </>
  );
}

const KINDS = [
  { value: "person", label: "A person or service" },
  { value: "role", label: "What a role grants" },
  { value: "pattern", label: "A new person with a pattern" },
];

interface PickerProps {
  label: string;
  rival: string | undefined;
  onChoose: (side: string) => void;
}

function SidePicker({ label, rival, onChoose }: PickerProps) {
  const [kind, setKind] = useState("");
  if (kind === "person") return <PersonPicker label={label} onChoose={onChoose} />;
  if (kind === "role" || kind === "pattern") {
    return (
      <ThingPicker
        key={kind}
        kind={`${kind}s`}
        label={kind === "role" ? "Role" : "Pattern"}
        prefix={`${kind}:`}
        onChoose={onChoose}
      />
    );
  }
  const colleagues = { value: "colleagues", label: "What their colleagues have in common" };
  return (
    <Combobox
      label={label}
      options={rival ? [...KINDS, colleagues] : KINDS}
      onChoose={(value) => {
        if (value === "colleagues") onChoose(`colleagues:${rival ?? ""}`);
        else setKind(value);
      }}
    />
  );
}
