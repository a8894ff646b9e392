import { Button, Form, Input } from "antd";
import { useSignIn } from "@/entities/session";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { DemoPeople } from "./DemoPeople";
import styles from "./SignInForm.module.css";

interface Props {
  demo: boolean;
  name?: string;
  onDone?: () => void;
}

interface Attempt {
  name: string;
  password: string;
  code?: string;
}

/** Name, password and code. In the demo, choosing a person fills them in. */
export function SignInForm({ demo, name = "", onDone }: Props) {
  const [form] = Form.useForm<Attempt>();
  const signIn = useSignIn();
  return (
    <div className={styles["sign-in"]}>
      <Form<Attempt>
        form={form}
        layout="vertical"
        requiredMark={false}
        aria-label="Sign in"
        initialValues={{ name }}
        onFinish={({ code, ...attempt }) =>
          signIn.mutate(
            { ...attempt, ...(code?.trim() && { code: code.trim() }) },
            { onSuccess: onDone },
          )
        }
      >
        <Form.Item
          name="name"
          label="Name or e-mail address"
          rules={[{ required: true, message: "Enter your name or e-mail address." }]}
        >
          <Input autoComplete="username" autoFocus />
        </Form.Item>
        <Form.Item
          name="password"
          label="Password"
          rules={[{ required: true, message: "Enter your password." }]}
        >
          <Input.Password autoComplete="current-password" />
        </Form.Item>
        <Form.Item
          name="code"
          label="Code of your second factor"
          extra="If you are enrolled. You can enter it later."
        >
          <Input inputMode="numeric" autoComplete="one-time-code" maxLength={8} />
        </Form.Item>
        {signIn.isError && <ProblemAlert problem={signIn.error} />}
        <Button type="primary" htmlType="submit" loading={signIn.isPending} block>
          Sign in
        </Button>
        {onDone === undefined && (
          <p className="note">
            <a href="/join">First time here</a> ·{" "}
            <a href="/join?forgotten=">Forgot your password</a>
          </p>
        )}
      </Form>
      {demo && (
        <DemoPeople
          onChoose={(person) =>
            form.setFieldsValue({
              name: person.key,
              password: person.password,
              code: person.code ?? "",
            })
          }
        />
      )}
    </div>
  );
}
