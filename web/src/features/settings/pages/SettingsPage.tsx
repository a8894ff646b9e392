import { lazy, Suspense } from "react";
import { useAccounts } from "@/entities/account/queries";
import { Loading } from "@/shared/ui/Loading";
import { NoAccess } from "@/shared/ui/NoAccess";
import { ApprovalSettings } from "../components/ApprovalSettings";
import { ModelTransfer } from "../components/ModelTransfer";
import { NoticeDemands } from "../components/NoticeDemands";
import { Outbox } from "../components/Outbox";
import { ScheduleList } from "../components/ScheduleList";
import { TokenList } from "../components/TokenList";
import { useApprovalRules } from "../queries";

const UseSources = lazy(async () => ({
  default: (await import("../components/UseSources")).UseSources,
}));

/** Policies, mail, what runs by itself, tokens, use, export and import. */
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
      <Suspense fallback={<Loading what="where use comes from" rows={3} />}>
        <UseSources />
      </Suspense>
      {accounts.data?.transfer && <ModelTransfer />}
    </>
  );
}
