import { Tabs } from "antd";
import { useAccount } from "@/entities/account/queries";
import { ThingList } from "@/entities/form";
import { useAddress } from "@/shared/lib/useAddress";
import { Findings } from "../components/Findings";
import { Proposals } from "../components/Proposals";

/** Violations, and the rules that are checked. */
export function ChecksPage() {
  const [params, set] = useAddress();
  const [account] = useAccount();
  const given = account ? { account: account.key } : {};
  return (
    <>
      <h1 className="hidden-text">Checks</h1>
      <Tabs
        activeKey={params.get("part") ?? "findings"}
        destroyOnHidden
        onChange={(part) => set({ part })}
        items={[
          { key: "findings", label: "Findings", children: <Findings /> },
          {
            key: "expectations",
            label: "Expectations",
            children: (
              <>
                <ThingList kind="expectations" given={given} />
                {account && <Proposals account={account.key} />}
              </>
            ),
          },
          {
            key: "exclusions",
            label: "Exclusions",
            children: <ThingList kind="exclusions" given={given} />,
          },
        ]}
      />
    </>
  );
}
