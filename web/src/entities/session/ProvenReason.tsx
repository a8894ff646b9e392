import { Form, Input } from "antd";
import { DemoCode } from "./DemoCode";

/** Why something is done, and by whom: what is in force at once asks for both. */
export interface Proven {
  reason: string;
  proof: string;
}

export function isProven({ reason, proof }: Proven): boolean {
  return reason.trim() !== "" && proof.trim() !== "";
}

interface Props {
  value: Proven;
  onChange: (value: Proven) => void;
}

/** Asks for a reason and for the code of one's second factor. */
export function ProvenReason({ value, onChange }: Props) {
  return (
    <Form layout="vertical">
      <Form.Item label="Reason" extra="It stays in the trail.">
        <Input
          autoFocus
          aria-label="Reason"
          maxLength={2000}
          value={value.reason}
          onChange={(event) => onChange({ ...value, reason: event.target.value })}
        />
      </Form.Item>
      <Form.Item
        label="Code of your second factor"
        extra={<DemoCode onUse={(proof) => onChange({ ...value, proof })} />}
      >
        <Input
          aria-label="Code of your second factor"
          autoComplete="one-time-code"
          inputMode="numeric"
          value={value.proof}
          onChange={(event) => onChange({ ...value, proof: event.target.value })}
        />
      </Form.Item>
    </Form>
  );
}
