import { useEffect, useState } from "react";
import { Modal } from "antd";
import { onSignedOut } from "../../../api/client";
import { useSession, type Who } from "../queries";
import { SignInForm } from "./SignInForm";

/** Stands over the page where the session has ended in the middle of work; the page stays as it is. */
export function SignInAgain({ who }: { who: Who }) {
  const [needed, setNeeded] = useState(false);
  const session = useSession();
  useEffect(() => onSignedOut(() => setNeeded(true)), []);
  return (
    <Modal
      open={needed}
      title="Your session has ended"
      footer={null}
      closable={false}
      mask={{ closable: false }}
      keyboard={false}
      width={session.data?.demo ? 720 : 420}
      destroyOnHidden
    >
      <p>Sign in again to go on. What you typed is still here.</p>
      <SignInForm
        demo={session.data?.demo ?? false}
        name={who.key}
        onDone={() => setNeeded(false)}
      />
    </Modal>
  );
}
