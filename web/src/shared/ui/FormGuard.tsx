import { useState, type ReactNode } from "react";
import { Alert, Button, Modal } from "antd";
import type { Kept } from "@/shared/lib/useKept";
import { LinkButton } from "./LinkButton";

interface Guard {
  /** Closes the form; asks first where something was typed. */
  close: () => void;
  /** Says that what was typed before is here again; for the top of the form. */
  note: ReactNode;
  /** The question; may be anywhere in the form. */
  question: ReactNode;
}

/** Keeps a form with changes from closing by accident. */
export function useFormGuard(
  kept: Omit<Kept<unknown>, "value" | "setValue">,
  onClose: () => void,
): Guard {
  const [asking, setAsking] = useState(false);
  return {
    close: () => (kept.changed ? setAsking(true) : onClose()),
    note: kept.restored && (
      <Alert
        type="info"
        style={{ marginBottom: 12 }}
        title={
          <>
            What you typed before is here again.{" "}
            <LinkButton onClick={kept.reset}>Start over</LinkButton>
          </>
        }
      />
    ),
    question: (
      <Modal
        open={asking}
        width={420}
        title="Discard what you typed?"
        onCancel={() => setAsking(false)}
        footer={
          <>
            <Button onClick={() => setAsking(false)}>Keep editing</Button>
            <Button
              danger
              onClick={() => {
                kept.forget();
                onClose();
              }}
            >
              Discard
            </Button>
          </>
        }
      >
        It has not been added to your draft.
      </Modal>
    ),
  };
}
