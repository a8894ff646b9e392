import { Alert, Button, Space } from "antd";
import type { Schemas } from "@/shared/api/client";
import { textOf } from "@/shared/lib/thing";
import { count } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useFirstPassword, useSendLink, useSignOutEverywhere } from "../lifecycleQueries";

/** Helps somebody to sign in, or signs them out. */
export function SignInHelp({ page }: { page: Schemas["PersonPage"] }) {
  const key = page.person.key ?? "";
  const send = useSendLink(key);
  const first = useFirstPassword(key);
  const signOut = useSignOutEverywhere(key);
  const service = textOf(page.person.thing, "kind") === "service";
  const can = !service && page.state !== "suspended" && page.state !== "left";
  const invited = page.state === "invited";
  const address = textOf(page.person.thing, "email");
  const problem = send.error ?? first.error ?? signOut.error;
  if (page.cannot.edit !== undefined) return null;
  return (
    <>
      <Space wrap style={{ marginBottom: 12 }}>
        {can && address !== "" && (
          <Button size="small" loading={send.isPending} onClick={() => send.mutate()}>
            {invited ? "Send invitation again" : "Send a link for a new password"}
          </Button>
        )}
        {can && page.signIn?.password !== true && (
          <Button size="small" loading={first.isPending} onClick={() => first.mutate()}>
            Make a first password
          </Button>
        )}
        {(page.signIn?.sessions.length ?? 0) > 0 && (
          <Button
            size="small"
            loading={signOut.isPending}
            onClick={() => signOut.mutate(undefined)}
          >
            Sign out everywhere
          </Button>
        )}
      </Space>
      {send.isSuccess && <p role="status">Sent to {send.data.address}.</p>}
      {signOut.isSuccess && <p role="status">{count(signOut.data.sessions, "session")} ended.</p>}
      {first.isSuccess && (
        <Alert
          type="success"
          title="First password"
          description={
            <>
              <code>{first.data.password}</code>
              <br />
              It is shown only now, and works once, for 7 days. Hand it over in person; they choose
              their own under “First time here” on the sign-in page.
            </>
          }
        />
      )}
      {problem !== null && <ProblemAlert problem={problem} />}
    </>
  );
}
