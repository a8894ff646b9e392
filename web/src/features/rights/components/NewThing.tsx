import { useState } from "react";
import { Button } from "antd";
import { useAccount } from "@/entities/account/queries";
import { LazyThingForm } from "@/entities/form/LazyThingForm";
import { useMayMake } from "@/entities/form/useMayMake";

interface Props {
  kind: string;
  label: string;
  onMade?: (key: string) => void;
}

/** Creates a thing in the account one works in. */
export function NewThing({ kind, label, onMade }: Props) {
  const [account] = useAccount();
  const [creating, setCreating] = useState(false);
  const may = useMayMake(kind, account?.key);
  if (!may) return null;
  return (
    <>
      <Button size="small" onClick={() => setCreating(true)}>
        {label}
      </Button>
      {creating && (
        <LazyThingForm
          kind={kind}
          given={account ? { account: account.key } : {}}
          onClose={() => setCreating(false)}
          {...(onMade && { onMade })}
        />
      )}
    </>
  );
}
