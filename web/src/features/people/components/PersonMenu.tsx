import { use, useState } from "react";
import { Button, Dropdown } from "antd";
import { useNavigate } from "react-router";
import { useAccountNames } from "@/entities/account/queries";
import { LazyEraseDialog } from "@/entities/erasure/LazyEraseDialog";
import { useErasure } from "@/entities/erasure/queries";
import { WhoContext } from "@/entities/session";
import type { Schemas } from "@/shared/api/client";
import { textOf } from "@/shared/lib/thing";
import { EndNowDialog } from "./EndNowDialog";
import { MergeDialog } from "./MergeDialog";

interface Act {
  key: string;
  label: string;
  shown: boolean;
  danger?: boolean;
}

/** The guided acts on a person that the viewer may do. */
export function PersonMenu({ page }: { page: Schemas["PersonPage"] }) {
  const navigate = useNavigate();
  const [dialog, setDialog] = useState<"end" | "merge" | "erase">();
  const accountName = useAccountNames();
  const key = page.person.key ?? "";
  const here = `/people/${encodeURIComponent(key)}`;
  const person = textOf(page.person.thing, "kind") !== "service";
  // nobody parts with themselves
  const self = use(WhoContext)?.key === key;
  const left = page.state === "left";
  const erasure = useErasure(key, left).data;
  const active = !left && page.state !== "suspended";
  // a guest becomes one of the staff where they are a guest
  const guestOf = new Set(page.guests.flatMap((it) => it.account ?? []));
  const takenOn: Act[] = [...guestOf].map((it) => ({
    key: `move?account=${encodeURIComponent(it)}`,
    label: `Take on in ${accountName(it)}`,
    shown: person && !left,
  }));
  const acts: Act[] = [
    { key: "copy", label: "Copy to a new person", shown: person && !left },
    { key: "move", label: "Move", shown: !left },
    { key: "lend", label: "Lend to another account", shown: person && !left },
    ...takenOn,
    { key: "part", label: "Part with them", shown: !left && !self },
    { key: "return", label: "Invite again", shown: left },
    { key: "merge", label: "Merge into another record", shown: !left },
    { key: "split", label: "Split a shared sign-in", shown: !left && !self },
    { key: "end", label: "End all access now", shown: active && !self, danger: true },
    { key: "erase", label: "Erase personal facts", shown: erasure !== undefined, danger: true },
  ];
  const items = acts.filter((it) => it.shown);
  return (
    <>
      <Dropdown
        trigger={["click"]}
        menu={{
          items: items.map(({ key: act, label, danger }) => ({
            key: act,
            label,
            ...(danger && { danger }),
          })),
          onClick: ({ key: act }) => {
            if (act === "end" || act === "merge" || act === "erase") setDialog(act);
            else void navigate(`${here}/${act}`);
          },
        }}
      >
        <Button size="small">More</Button>
      </Dropdown>
      {dialog === "end" && <EndNowDialog page={page} onClose={() => setDialog(undefined)} />}
      {dialog === "erase" && erasure && (
        <LazyEraseDialog
          person={key}
          outlook={erasure}
          onClose={(erased) => {
            setDialog(undefined);
            if (erased) void navigate("/people");
          }}
        />
      )}
      {dialog === "merge" && <MergeDialog page={page} onClose={() => setDialog(undefined)} />}
    </>
  );
}
