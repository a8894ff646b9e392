import { Button, Form, Input } from "antd";
import { useStepUp } from "@/entities/session";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";

/** Takes the code of a second factor in a session that began without it. */
export function SecondFactor({ onDone }: { onDone: () => void }) {
  const stepUp = useStepUp();
  return (
    <Form<{ code: string }>
      layout="vertical"
      requiredMark={false}
      onFinish={({ code }) => stepUp.mutate(code.trim(), { onSuccess: onDone })}
    >
      <Form.Item
        name="code"
        label="Code of your second factor"
        rules={[{ required: true, message: "Enter the code that your authenticator shows." }]}
      >
        <Input inputMode="numeric" autoComplete="one-time-code" autoFocus maxLength={8} />
      </Form.Item>
      {stepUp.isError && <ProblemAlert problem={stepUp.error} />}
      <Button type="primary" htmlType="submit" loading={stepUp.isPending} block>
        Confirm
      </Button>
    </Form>
  );
}
