import { useState } from "react";
import { Alert, Button, Popconfirm } from "antd";
import { count } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import type { Selected } from "../model";
import { useSignInHelp } from "../queries";

interface Done {
  what: string;
  done: number;
  notDone: { key: string; why: string }[];
}

/** What helps many people to sign in, or signs them out: it takes effect at once, without a draft. */
export function ManySignIns({ people }: { people: Selected[] }) {
  const links = useSignInHelp("invitations");
  const signOuts = useSignInHelp("sign-outs");
  const [done, setDone] = useState<Done>();
  const keys = people.map((it) => it.key);
  const nameOf = new Map(people.map((it) => [it.key, it.name]));
  const failed = links.error ?? signOuts.error;
  return (
    <>
      <Popconfirm
        title={`Send ${count(people.length, "person", "people")} a link?`}
        description="Who is invited gets the invitation again, others a link for a new password."
        okText="Send"
        onConfirm={async () =>
          setDone({ what: "Links sent to", ...(await links.mutateAsync(keys)) })
        }
      >
        <Button size="small" loading={links.isPending}>
          Send links
        </Button>
      </Popconfirm>
      <Popconfirm
        title={`Sign out ${count(people.length, "person", "people")} everywhere?`}
        description="Their sessions end at once. They can sign in again."
        okText="Sign out"
        onConfirm={async () =>
          setDone({ what: "Signed out", ...(await signOuts.mutateAsync(keys)) })
        }
      >
        <Button size="small" loading={signOuts.isPending}>
          Sign out everywhere
        </Button>
      </Popconfirm>
      {failed && <ProblemAlert problem={failed} />}
      {done && (
        <Alert
          type={done.notDone.length > 0 ? "warning" : "success"}
          role="status"
          closable={{ onClose: () => setDone(undefined) }}
          title={`${done.what} ${count(done.done, "person", "people")}.`}
          description={
            done.notDone.length > 0 && (
              <ul>
                {done.notDone.map((it) => (
                  <li key={it.key}>
                    {nameOf.get(it.key) ?? it.key}: {it.why}
                  </li>
                ))}
              </ul>
            )
          }
        />
      )}
    </>
  );
}
