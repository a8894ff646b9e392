import { Button, Form, Input } from "antd";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useForgotten } from "../queries";
import styles from "./Cover.module.css";

/** Asks for a link to choose a new password. */
export function ForgottenForm() {
  const forgotten = useForgotten();
  if (forgotten.isSuccess) {
    return (
      <p role="status" className={styles["welcome"]}>
        If there is such a person, a link is on its way to their address. It works for 4 hours. No
        mail? Ask your administrator.
      </p>
    );
  }
  return (
    <Form<{ name: string }>
      className={styles["welcome"]}
      layout="vertical"
      requiredMark={false}
      aria-label="New password"
      onFinish={({ name }) => forgotten.mutate(name)}
    >
      <Form.Item
        name="name"
        label="Name or e-mail address"
        rules={[{ required: true, message: "Enter your name or e-mail address." }]}
      >
        <Input autoComplete="username" autoFocus />
      </Form.Item>
      {forgotten.isError && <ProblemAlert problem={forgotten.error} />}
      <Button type="primary" htmlType="submit" loading={forgotten.isPending}>
        Send link
      </Button>
    </Form>
  );
}
