import { Input, Select } from "antd";
import { useAccounts } from "@/entities/account/queries";
import { useAddress } from "@/shared/lib/useAddress";
import { LinkButton } from "@/shared/ui/LinkButton";
import { filterOf, HARMS, isNarrowed, ORDERS, RISKS, STATES } from "../model";
import type { FindingList } from "../queries";
import styles from "./FindingFilters.module.css";

/** Narrows the list of findings; the address keeps it. */
export function FindingFilters({ list: { kinds, owners } }: { list: FindingList }) {
  const [params, set] = useAddress();
  const accounts = useAccounts();
  const filter = filterOf(params);
  const ofHarm = (harm: string) =>
    kinds.filter((it) => it.harm === harm).reduce((sum, it) => sum + it.many, 0);
  const all = kinds.reduce((sum, it) => sum + it.many, 0);
  return (
    <div className={styles["filters"]}>
      <Select
        aria-label="Harm"
        value={filter.harm ?? ""}
        onChange={(harm) => set({ harm, kind: undefined })}
        popupMatchSelectWidth={false}
        options={[
          { value: "", label: `Any harm (${all})` },
          ...HARMS.map((it) => ({ ...it, label: `${it.label} (${ofHarm(it.value)})` })),
        ]}
      />
      <Select
        aria-label="Kind"
        value={filter.detector ?? ""}
        onChange={(kind) => set({ kind })}
        popupMatchSelectWidth={false}
        showSearch={{ optionFilterProp: "label" }}
        options={[
          { value: "", label: "Any kind" },
          ...kinds
            .filter((it) => !filter.harm || it.harm === filter.harm)
            .map((it) => ({ value: it.kind, label: `${it.title} (${it.many})` })),
        ]}
      />
      <Select
        aria-label="Risk"
        value={filter.risk ?? ""}
        onChange={(risk) => set({ risk })}
        popupMatchSelectWidth={false}
        options={RISKS}
      />
      <Select
        aria-label="Account"
        value={filter.account ?? ""}
        onChange={(within) => set({ within })}
        popupMatchSelectWidth={false}
        showSearch={{ optionFilterProp: "label" }}
        options={[
          { value: "", label: "Any account" },
          ...(accounts.data?.accounts ?? [])
            .filter((it) => it.readable)
            .map((it) => ({ value: it.key, label: it.name })),
        ]}
      />
      <Select
        aria-label="Owner"
        value={filter.owner ?? ""}
        onChange={(owner) => set({ owner })}
        popupMatchSelectWidth={false}
        showSearch={{ optionFilterProp: "label" }}
        options={[
          { value: "", label: "Any owner" },
          { value: "none", label: "No owner" },
          ...owners.map((it) => ({ value: it.key, label: `${it.name} (${it.many})` })),
        ]}
      />
      <Select
        aria-label="State"
        value={filter.state ?? ""}
        onChange={(state) => set({ state })}
        popupMatchSelectWidth={false}
        options={STATES}
      />
      <Select
        aria-label="Order"
        value={filter.order ?? ""}
        onChange={(order) => set({ order })}
        popupMatchSelectWidth={false}
        options={ORDERS}
      />
      <Input
        aria-label="Name"
        placeholder="Name"
        allowClear
        className={styles["name"] ?? ""}
        value={filter.text ?? ""}
        onChange={(it) => set({ text: it.target.value }, { replace: true })}
      />
      {isNarrowed(filter) && (
        <LinkButton
          onClick={() =>
            set({
              harm: undefined,
              kind: undefined,
              risk: undefined,
              within: undefined,
              owner: undefined,
              state: undefined,
              text: undefined,
            })
          }
        >
          Clear filters
        </LinkButton>
      )}
    </div>
  );
}
