import { useAccounts } from "@/entities/account/queries";
import { NoAccess } from "@/shared/ui/NoAccess";
import { ApprovalSettings } from "../components/ApprovalSettings";
import { ModelTransfer } from "../components/ModelTransfer";
import { NoticeDemands } from "../components/NoticeDemands";
import { Outbox } from "../components/Outbox";
import { ScheduleList } from "../components/ScheduleList";
import { TokenList } from "../components/TokenList";
import { useApprovalRules } from "../queries";

/** Policies, mail, what runs by itself, tokens, export and import. */
export function SettingsPage() {
  const accounts = useAccounts();
  const rules = useApprovalRules();
  if (accounts.data && !accounts.data.transfer && rules.data?.rules.length === 0) {
    return (
      <NoAccess what="any settings">
        Here an account sets when a draft needs approval, and models are exported and imported.
      </NoAccess>
    );
  }
  return (
    <>
      <ApprovalSettings />
      <NoticeDemands />
      <Outbox />
      <ScheduleList />
      <TokenList />
      {accounts.data?.transfer && <ModelTransfer />}
    </>
  );
}
