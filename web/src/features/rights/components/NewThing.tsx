import { useState } from "react";
import { Button } from "antd";
import { useAccount } from "@/entities/account/queries";
import { ThingForm } from "@/entities/form";

/** Creates a thing in the account one works in. */
export function NewThing({ kind, label }: { kind: string; label: string }) {
  const [account] = useAccount();
  const [creating, setCreating] = useState(false);
  return (
    <div className="acts">
      <Button size="small" onClick={() => setCreating(true)}>
        {label}
      </Button>
      {creating && (
        <ThingForm
          kind={kind}
          given={account ? { account: account.key } : {}}
          onClose={() => setCreating(false)}
        />
      )}
    </div>
  );
}
