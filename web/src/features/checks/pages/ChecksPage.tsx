import { lazy, Suspense } from "react";
import { Tabs } from "antd";
import { useAccount } from "@/entities/account/queries";
import { ThingList } from "@/entities/form";
import type { ThingView } from "@/entities/thing/queries";
import { useAddress } from "@/shared/lib/useAddress";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Loading } from "@/shared/ui/Loading";
import { Exposure } from "../components/Exposure";
import { FindingList } from "../components/FindingList";
import { Proposals } from "../components/Proposals";

const Systems = lazy(() => import("../components/Systems"));

/** Findings, the rules that are checked, and what other systems hold. */
export function ChecksPage() {
  const [params, set] = useAddress();
  const [account] = useAccount();
  const given = account ? { account: account.key } : {};
  const open = params.get("open");
  const one = open ? { which: (it: ThingView) => it.key === open } : {};
  const all = open && (
    <LinkButton onClick={() => set({ open: undefined })}>Show all rules</LinkButton>
  );
  return (
    <>
      <h1 className="hidden-text">Checks</h1>
      <Tabs
        activeKey={params.get("part") ?? "findings"}
        destroyOnHidden
        onChange={(part) => set({ part, open: undefined, system: undefined })}
        items={[
          { key: "findings", label: "Findings", children: <FindingList /> },
          { key: "exposure", label: "Exposure", children: <Exposure /> },
          {
            key: "expectations",
            label: "Expectations",
            children: (
              <>
                {all}
                <ThingList kind="expectations" given={given} {...one} />
                {account && <Proposals account={account.key} />}
              </>
            ),
          },
          {
            key: "exclusions",
            label: "Exclusions",
            children: (
              <>
                {all}
                <ThingList kind="exclusions" given={given} {...one} />
              </>
            ),
          },
          {
            key: "systems",
            label: "Systems",
            children: (
              <Suspense fallback={<Loading what="the systems" />}>
                <Systems />
              </Suspense>
            ),
          },
        ]}
      />
    </>
  );
}
