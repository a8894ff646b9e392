import { useState } from "react";
import { Button, Dropdown, Popover } from "antd";
import { useSignOut, useWho } from "@/entities/session";
import { SecondFactor } from "@/features/session";
import { useAppearance, type Scheme } from "@/shared/theme/appearance";
import type { Density } from "@/shared/theme/theme";
import styles from "./SelfMenu.module.css";

const SCHEMES: Record<Scheme, string> = { light: "Light", dark: "Dark", system: "As the system" };
const DENSITIES: Record<Density, string> = { compact: "Compact", comfortable: "Comfortable" };

/** The signed-in person: second factor, appearance, help and sign-out. */
export function SelfMenu({ onHelp }: { onHelp: () => void }) {
  const who = useWho();
  const [proving, setProving] = useState(false);
  const signOut = useSignOut();
  const appearance = useAppearance();
  return (
    <div className={styles["self"]}>
      {who.enrolled && !who.secondFactor && (
        <Popover
          open={proving}
          onOpenChange={setProving}
          trigger="click"
          arrow={false}
          placement="bottomRight"
          destroyOnHidden
          content={<SecondFactor onDone={() => setProving(false)} />}
        >
          <Button size="small">Enter your code</Button>
        </Popover>
      )}
      <Dropdown
        trigger={["click"]}
        placement="bottomRight"
        menu={{
          selectable: true,
          multiple: true,
          selectedKeys: [appearance.scheme, appearance.density],
          onClick: ({ key }) => {
            if (key in SCHEMES) appearance.setScheme(key as Scheme);
            else if (key in DENSITIES) appearance.setDensity(key as Density);
            else if (key === "help") onHelp();
            else if (key === "sign-out") signOut.mutate();
          },
          items: [
            {
              key: "who",
              type: "group",
              label: `${who.title ?? who.key} · signed in ${who.secondFactor ? "with" : "without"} a second factor`,
            },
            {
              key: "schemes",
              type: "group",
              label: "Colours",
              children: Object.entries(SCHEMES).map(([key, label]) => ({ key, label })),
            },
            {
              key: "densities",
              type: "group",
              label: "Tables",
              children: Object.entries(DENSITIES).map(([key, label]) => ({ key, label })),
            },
            { type: "divider" },
            { key: "help", label: "Help", extra: "?" },
            { key: "sign-out", label: "Sign out" },
          ],
        }}
      >
        <button
          type="button"
          className={styles["who"]}
          data-self={who.name}
          aria-label={`Signed in as ${who.name}`}
        >
          {who.name}
        </button>
      </Dropdown>
    </div>
  );
}
