import type { ThingView } from "@/entities/thing/queries";
import { ThingList } from "@/entities/form";
import { textOf } from "@/shared/lib/thing";

/** Guest memberships, delegations and activations of a person. */
export function OtherAccess({ person }: { person: ThingView }) {
  const key = person.key ?? "";
  const own = (it: ThingView) => textOf(it.thing, "principal") === key;
  return (
    <>
      <h2 className="part">Guest in other accounts</h2>
      <ThingList
        kind="guests"
        text={person.name}
        given={{ principal: key }}
        which={own}
        none="Not a guest of any account that you can see."
      />
      <h2 className="part">Delegations</h2>
      <ThingList
        kind="delegations"
        given={{ principal: key }}
        which={(it) => own(it) || textOf(it.thing, "delegate") === key}
        none="No one acts for them, and they act for no one."
      />
      <h2 className="part">Activated just-in-time access</h2>
      <ThingList
        kind="activations"
        text={person.name}
        given={{ principal: key }}
        which={own}
        none="Nothing is activated."
      />
    </>
  );
}
