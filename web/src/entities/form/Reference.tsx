import type { ReactNode } from "react";
import { ThingName } from "@/entities/thing/ThingName";
import { ThingPicker } from "@/entities/thing/ThingPicker";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { LinkButton } from "@/shared/ui/LinkButton";

interface Props {
  label: string;
  kind: string;
  reference: string;
  /** Shown where there is none. */
  none?: string | undefined;
  /** Can't be changed any more. */
  locked?: boolean | undefined;
  removable?: boolean | undefined;
  /** Another picker than the things of the kind. */
  picker?: (choose: (reference: string) => void) => ReactNode;
  onChange: (reference: string | undefined) => void;
}

/** One reference to a thing, shown by name. */
export function Reference(props: Props) {
  const { label, kind, reference, none = "Choose", locked, removable, picker, onChange } = props;
  const name = reference ? <ThingName kind={kind} reference={reference} /> : none;
  if (locked) return <>{name}</>;
  return (
    <>
      <InlinePicker
        label={label}
        look="link"
        value={name}
        picker={(close) => {
          const choose = (it: string) => {
            onChange(it);
            close();
          };
          return picker ? (
            picker(choose)
          ) : (
            <ThingPicker kind={kind} label={label} onChoose={choose} />
          );
        }}
      />{" "}
      {reference && removable && (
        <LinkButton aria-label={`Clear ${label}`} onClick={() => onChange(undefined)}>
          Clear
        </LinkButton>
      )}
    </>
  );
}
