import { useState } from "react";
import { Button, Form, Input } from "antd";
import { DemoCode } from "@/entities/session";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useSign } from "../queries";

/** Signs a round's result with a second factor. */
export function SignReport({ round }: { round: number }) {
  const [proof, setProof] = useState("");
  const sign = useSign(round);
  return (
    <section aria-label="Sign">
      <Form layout="inline" onFinish={() => sign.mutate(proof.trim())}>
        <Form.Item label="Code of your second factor">
          <Input
            aria-label="Code of your second factor"
            autoComplete="one-time-code"
            inputMode="numeric"
            style={{ width: 130 }}
            value={proof}
            onChange={(event) => setProof(event.target.value)}
          />
        </Form.Item>
        <Button
          type="primary"
          htmlType="submit"
          disabled={proof.trim() === ""}
          loading={sign.isPending}
        >
          Sign the result
        </Button>
      </Form>
      <p className="note">
        Your name goes into the report, and its hash into the trail. <DemoCode onUse={setProof} />
      </p>
      {sign.isError && <ProblemAlert problem={sign.error} />}
    </section>
  );
}
