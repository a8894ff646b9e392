import { lazy, Suspense, type ComponentProps } from "react";
import type { Composer } from "./Composer";

const Whole = lazy(async () => ({ default: (await import("./Composer")).Composer }));

/** The form of an assignment, loaded when it is first opened. */
export function LazyComposer(props: ComponentProps<typeof Composer>) {
  return (
    <Suspense fallback={null}>
      <Whole {...props} />
    </Suspense>
  );
}
