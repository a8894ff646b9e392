import { useEffect, useState } from "react";
import { Modal, Radio } from "antd";
import type { Schemas } from "@/shared/api/client";
import { Cancelled } from "@/shared/lib/cancelled";
import { count } from "@/shared/lib/words";
import { onDestination } from "./destination";
import { nameOf } from "./names";
import { useDrafts } from "./queries";

interface Asked {
  active: Schemas["Summary"];
  resolve: (into: string) => void;
  reject: (why: Cancelled) => void;
}

/** Asks in which draft a change belongs, where the active one may be about something else. */
export function DestinationDialog() {
  const [asked, setAsked] = useState<Asked>();
  useEffect(
    () =>
      onDestination(
        (active) =>
          new Promise((resolve, reject) => {
            setAsked({ active, resolve, reject });
          }),
      ),
    [],
  );
  return asked ? <Dialog {...asked} onDone={() => setAsked(undefined)} /> : null;
}

function Dialog({ active, resolve, reject, onDone }: Asked & { onDone: () => void }) {
  const [into, setInto] = useState("new");
  const drafts = useDrafts();
  const others = (drafts.data?.mine ?? []).filter(
    (it) => it.id !== active.id && it.state === "aside",
  );
  return (
    <Modal
      open
      title="Where does this change belong?"
      okText="Add to draft"
      onOk={() => {
        resolve(into);
        onDone();
      }}
      onCancel={() => {
        reject(new Cancelled());
        onDone();
      }}
    >
      <p>
        {active.takesBack !== undefined
          ? `Your active draft takes back revision ${active.takesBack}.`
          : "Somebody else wrote in your active draft too."}{" "}
        Keep it apart, so that it can be approved and reverted by itself.
      </p>
      <Radio.Group
        aria-label="Draft"
        value={into}
        onChange={(event) => setInto(event.target.value as string)}
        style={{ display: "grid", gap: 6 }}
      >
        <Radio value="new">A new draft</Radio>
        {others.map((it) => (
          <Radio key={it.id} value={it.id}>
            {nameOf(it)} <small>{count(it.size, "change")}</small>
          </Radio>
        ))}
        <Radio value={active.id}>
          {nameOf(active)} <small>active, {count(active.size, "change")}</small>
        </Radio>
      </Radio.Group>
    </Modal>
  );
}
