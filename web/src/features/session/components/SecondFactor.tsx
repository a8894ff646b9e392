import { useState, type FormEvent } from "react";
import { Button, Input } from "antd";
import { ProblemNote } from "../../../components/ProblemNote";
import { useStepUp } from "../queries";

/** Shows the second factor in a session that began without. */
export function SecondFactor({ onDone }: { onDone: () => void }) {
  const [code, setCode] = useState("");
  const stepUp = useStepUp();
  function submit(event: FormEvent) {
    event.preventDefault();
    stepUp.mutate(code.trim(), { onSuccess: onDone });
  }
  return (
    <form className="second-factor" onSubmit={submit}>
      <label>
        Current code
        <Input
          value={code}
          onChange={(event) => setCode(event.target.value)}
          inputMode="numeric"
          autoComplete="one-time-code"
          autoFocus
          required
          maxLength={8}
        />
      </label>
      {stepUp.isError && <ProblemNote problem={stepUp.error} />}
      <Button type="primary" htmlType="submit" loading={stepUp.isPending} block>
        Show it
      </Button>
    </form>
  );
}
