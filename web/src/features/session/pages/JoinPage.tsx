import { useState } from "react";
import { Button, Form, Input, Result } from "antd";
import { useAddress } from "@/shared/lib/useAddress";
import { dateOf } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Cover } from "../components/Cover";
import styles from "../components/Cover.module.css";
import { ForgottenForm } from "../components/ForgottenForm";
import { useJoin, useLook, type JoinProof } from "../queries";

/** The fewest characters of a password, as the server asks for them. */
const SHORTEST = 10;

/** Where people choose their password: by a link of their mail, or with a first password. */
export function JoinPage() {
  const [params] = useAddress();
  const token = params.get("token");
  const [proof, setProof] = useState<JoinProof | undefined>(token ? { token } : undefined);
  const look = useLook(proof);
  if (params.get("forgotten") !== null) {
    return (
      <Cover title="New password" subtitle="A link to choose one comes by mail.">
        <ForgottenForm />
      </Cover>
    );
  }
  return (
    <Cover title="Welcome to Mandala" subtitle="Choose your password, then sign in.">
      {proof && look.isSuccess ? (
        <Choose proof={proof} who={look.data} />
      ) : (
        <>
          {look.isError && <ProblemAlert problem={look.error} />}
          {!token && <FirstPassword pending={look.isFetching} onProof={setProof} />}
        </>
      )}
    </Cover>
  );
}

function FirstPassword({
  pending,
  onProof,
}: {
  pending: boolean;
  onProof: (proof: JoinProof) => void;
}) {
  return (
    <Form<{ name: string; firstPassword: string }>
      className={styles["welcome"]}
      layout="vertical"
      requiredMark={false}
      aria-label="First time here"
      onFinish={onProof}
    >
      <Form.Item
        name="name"
        label="Name or e-mail address"
        rules={[{ required: true, message: "Enter your name or e-mail address." }]}
      >
        <Input autoComplete="username" autoFocus />
      </Form.Item>
      <Form.Item
        name="firstPassword"
        label="First password"
        extra="Your administrator gave it to you. It works once."
        rules={[{ required: true, message: "Enter the first password." }]}
      >
        <Input autoComplete="one-time-code" />
      </Form.Item>
      <Button type="primary" htmlType="submit" loading={pending}>
        Go on
      </Button>
    </Form>
  );
}

function Choose({
  proof,
  who,
}: {
  proof: JoinProof;
  who: { key: string; name: string; accountName: string; first: boolean; until: string };
}) {
  const join = useJoin();
  if (join.isSuccess) {
    return (
      <Result
        status="success"
        title="Your password is set"
        subTitle={`Sign in as ${join.data.key}, or with your e-mail address.`}
        extra={
          <Button type="primary" href="/">
            Sign in
          </Button>
        }
      />
    );
  }
  return (
    <Form<{ password: string }>
      className={styles["welcome"]}
      layout="vertical"
      requiredMark={false}
      aria-label="Your password"
      onFinish={({ password }) => join.mutate({ proof, password })}
    >
      <p>
        {who.name} · {who.accountName}. You sign in as <code>{who.key}</code>.
        <br />
        <span className="quiet">This works once, until {dateOf(who.until)}.</span>
      </p>
      <Form.Item
        name="password"
        label="New password"
        extra={`At least ${SHORTEST} characters. A sentence is good.`}
        rules={[
          { required: true, message: "Enter a password." },
          { min: SHORTEST, message: `Use at least ${SHORTEST} characters.` },
        ]}
      >
        <Input.Password autoComplete="new-password" autoFocus />
      </Form.Item>
      <Form.Item
        name="again"
        label="The same again"
        dependencies={["password"]}
        rules={[
          { required: true, message: "Enter it again." },
          ({ getFieldValue }) => ({
            validator: (_, value) =>
              value === getFieldValue("password")
                ? Promise.resolve()
                : Promise.reject(new Error("The two are not the same.")),
          }),
        ]}
      >
        <Input.Password autoComplete="new-password" />
      </Form.Item>
      {join.isError && <ProblemAlert problem={join.error} />}
      <Button type="primary" htmlType="submit" loading={join.isPending}>
        Set password
      </Button>
    </Form>
  );
}
