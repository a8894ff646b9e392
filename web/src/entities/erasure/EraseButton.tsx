import { useState } from "react";
import { Button } from "antd";
import { LazyEraseDialog } from "./LazyEraseDialog";
import { useErasure } from "./queries";

/** Erases somebody of whom only the trail knows, for whoever may. */
export function EraseButton({ person }: { person: string }) {
  const [open, setOpen] = useState(false);
  const { data } = useErasure(person, true);
  if (!data) return null;
  return (
    <>
      <Button size="small" onClick={() => setOpen(true)}>
        Erase {data.name}…
      </Button>
      {open && <LazyEraseDialog person={person} outlook={data} onClose={() => setOpen(false)} />}
    </>
  );
}
