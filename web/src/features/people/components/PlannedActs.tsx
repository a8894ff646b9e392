import { Alert } from "antd";
import { dateOf } from "@/shared/lib/words";
import { LinkButton } from "@/shared/ui/LinkButton";
import { useStanding, useTakeBackPlanned } from "../lifecycleQueries";

/** What happens to somebody at a date, with a way to take it back. */
export function PlannedActs({ of }: { of: string }) {
  const planned = useStanding(of).data?.planned ?? [];
  const takeBack = useTakeBackPlanned(of);
  return (
    <>
      {planned.map((it) => (
        <Alert
          key={it.number}
          type={it.heldUp === undefined ? "info" : "warning"}
          style={{ marginBottom: 8 }}
          title={`${it.said} on ${dateOf(it.due)}`}
          description={it.heldUp ?? `Planned by ${it.owner}.`}
          action={
            <LinkButton loading={takeBack.isPending} onClick={() => takeBack.mutate(it.number)}>
              Take back
            </LinkButton>
          }
        />
      ))}
    </>
  );
}
