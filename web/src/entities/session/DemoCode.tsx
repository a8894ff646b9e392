import { LinkButton } from "@/shared/ui/LinkButton";
import { useDemoPeople, useSession } from "./queries";
import { useWho } from "./useWho";

/** In the demo, the code or password with which the signed-in person proves who they are. */
export function DemoCode({ onUse }: { onUse: (proof: string) => void }) {
  const who = useWho();
  const demo = useSession().data?.demo ?? false;
  const people = useDemoPeople(demo);
  const own = demo ? people.data?.find((it) => it.key === who.key) : undefined;
  const proof = who.enrolled ? own?.code : own?.password;
  if (!proof) return null;
  return (
    <>
      This is the demo: {who.enrolled ? "your current code is" : "your password is"}{" "}
      <code>{proof}</code> <LinkButton onClick={() => onUse(proof)}>Use it</LinkButton>
    </>
  );
}
