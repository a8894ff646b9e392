import { useAccounts } from "@/entities/account/queries";
import { ApprovalSettings } from "../components/ApprovalSettings";
import { ModelTransfer } from "../components/ModelTransfer";

/** Policies, export and import. */
export function SettingsPage() {
  const accounts = useAccounts();
  return (
    <>
      <ApprovalSettings />
      {accounts.data?.transfer && <ModelTransfer />}
    </>
  );
}
