import { lazy, Suspense, useState, type ReactNode } from "react";
import { useAccounts } from "@/entities/account/queries";
import { DestinationDialog } from "@/entities/draft/DestinationDialog";
import { useWho, type Who } from "@/entities/session";
import { DraftStatus } from "@/features/draft";
import { ImpersonationBar } from "@/features/impersonation";
import { SignInAgain } from "@/features/session";
import { AccountSwitch } from "./AccountSwitch";
import styles from "./Frame.module.css";
import { Rail } from "./Rail";
import { Search } from "./Search";
import { SelfMenu } from "./SelfMenu";
import { useShortcuts } from "./useShortcuts";

const Help = lazy(() => import("./Help").then((it) => ({ default: it.Help })));
const Bell = lazy(() => import("./Bell").then((it) => ({ default: it.Bell })));

interface Props {
  /** Who is really signed in, in an impersonated view. */
  by: Who | undefined;
  children: ReactNode;
}

/** What every page shares: navigation, account, search, draft and the person's own menu. */
export function Frame({ by, children }: Props) {
  const who = useWho();
  const accounts = useAccounts();
  const [help, setHelp] = useState(false);
  useShortcuts(() => setHelp(true));
  return (
    <div className={`${styles["frame"] ?? ""} ${by ? (styles["viewed"] ?? "") : ""}`}>
      <a href="#content" className={styles["skip"]}>
        Skip to content
      </a>
      {by && <ImpersonationBar who={who} by={by} />}
      <Rail />
      <header className={`${styles["top"] ?? ""} no-print`}>
        <AccountSwitch />
        <Search />
        {accounts.data?.people && !by && <DraftStatus />}
        {!by && (
          <Suspense fallback={null}>
            <Bell />
          </Suspense>
        )}
        {!by && <SelfMenu onHelp={() => setHelp(true)} />}
      </header>
      <main id="content" className={styles["page"]} tabIndex={-1}>
        {children}
      </main>
      <SignInAgain who={who} />
      <DestinationDialog />
      {help && (
        <Suspense fallback={null}>
          <Help open onClose={() => setHelp(false)} />
        </Suspense>
      )}
    </div>
  );
}
