import { useEffect, useState } from "react";
import { Modal } from "antd";
import { useSession, type Who } from "@/entities/session";
import { onSignedOut } from "@/shared/api/client";
import { SignInForm } from "./SignInForm";

/** Asks to sign in again over the page, which keeps what was typed. */
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
      <p>Sign in again to continue. What you typed is kept.</p>
      <SignInForm
        demo={session.data?.demo ?? false}
        name={who.key}
        onDone={() => setNeeded(false)}
      />
    </Modal>
  );
}
