import { lazy, Suspense } from "react";
import { PersonPage } from "@/features/people";
import { Loading } from "@/shared/ui/Loading";

const Access = lazy(async () => ({ default: (await import("@/features/ask")).PersonAccess }));
const History = lazy(async () => ({ default: (await import("@/features/trail")).PersonHistory }));

function PersonAccess(props: { who: string; home: string; waits: boolean; drafted: boolean }) {
  return (
    <Suspense fallback={<Loading what="the answer" rows={8} />}>
      <Access {...props} />
    </Suspense>
  );
}

function PersonHistory(props: { who: string }) {
  return (
    <Suspense fallback={<Loading what="the history" rows={6} />}>
      <History {...props} />
    </Suspense>
  );
}

/** A person's page, with what the questions and the trail say of them; both load when needed. */
export function PersonRoute() {
  return <PersonPage access={PersonAccess} history={PersonHistory} />;
}
