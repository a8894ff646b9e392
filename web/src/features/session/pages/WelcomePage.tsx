import { Button, Form, Input } from "antd";
import { useAddress } from "@/shared/lib/useAddress";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Cover } from "../components/Cover";
import styles from "../components/Cover.module.css";
import { useCreateOwner, useWelcome } from "../queries";

interface Answers {
  accountName: string;
  accountKey: string;
  name: string;
  key: string;
  email?: string;
  password: string;
  code: string;
}

const KEY = {
  pattern: /^[a-z0-9._-]+$/,
  message: "Use small letters, digits, hyphens, dots and underscores.",
};

const FIELDS: { name: keyof Answers; label: string; help?: string; key?: boolean }[] = [
  { name: "accountName", label: "Name of the account", help: "Your organisation." },
  { name: "accountKey", label: "Key of the account", help: "For example “harbour”.", key: true },
  { name: "name", label: "Your name" },
  { name: "key", label: "Your key", help: "You sign in with it.", key: true },
  { name: "email", label: "Your e-mail address (optional)" },
  { name: "password", label: "Password", help: "At least 10 characters." },
];

/** Creates the first owner, from the link that an empty Mandala prints at its start. */
export function WelcomePage() {
  const [params] = useAddress();
  const token = params.get("token") ?? "";
  const welcome = useWelcome(token);
  const create = useCreateOwner();
  if (welcome.isPending) return <Loading what="the page" />;
  if (welcome.isError) {
    return (
      <Cover title="Welcome to Mandala" subtitle="Create the first account and its owner.">
        <ProblemAlert problem={welcome.error} />
      </Cover>
    );
  }
  const { qr, secret } = welcome.data;
  return (
    <Cover
      title="Welcome to Mandala"
      subtitle="Create the first account and its owner. This link works once."
    >
      <Form<Answers>
        className={styles["welcome"]}
        layout="vertical"
        requiredMark={false}
        aria-label="First owner"
        onFinish={({ email, ...answers }) =>
          create.mutate({ token, secret, ...answers, ...(email && { email }) })
        }
      >
        {FIELDS.map((it) => (
          <Form.Item
            key={it.name}
            name={it.name}
            label={it.label}
            extra={it.help}
            rules={[
              ...(it.name === "email" ? [] : [{ required: true, message: "Fill this in." }]),
              ...(it.key ? [KEY] : []),
              ...(it.name === "password"
                ? [{ min: 10, message: "Use at least 10 characters." }]
                : []),
            ]}
          >
            {it.name === "password" ? <Input.Password autoComplete="new-password" /> : <Input />}
          </Form.Item>
        ))}
        <fieldset>
          <legend>Second factor (an owner needs one)</legend>
          {qr && (
            <svg viewBox={`0 0 ${qr.size} ${qr.size}`} width="168" height="168" role="img">
              <title>QR code for your authenticator</title>
              <rect width={qr.size} height={qr.size} fill="#fff" />
              <path d={qr.path} fill="#000" />
            </svg>
          )}
          <p>
            Scan the code with an authenticator app, or type <code>{secret}</code> into it.
          </p>
          <Form.Item
            name="code"
            label="Code that the app shows now"
            rules={[{ required: true, message: "Enter the code." }]}
          >
            <Input inputMode="numeric" autoComplete="one-time-code" maxLength={8} />
          </Form.Item>
        </fieldset>
        {create.isError && <ProblemAlert problem={create.error} />}
        <Button type="primary" htmlType="submit" loading={create.isPending}>
          Create owner
        </Button>
      </Form>
    </Cover>
  );
}
