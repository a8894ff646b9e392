import { lazy, Suspense, type ComponentProps } from "react";

const EraseDialog = lazy(() => import("./EraseDialog").then((it) => ({ default: it.EraseDialog })));

/** The dialog that erases somebody, loaded when it is opened. */
export function LazyEraseDialog(props: ComponentProps<typeof EraseDialog>) {
  return (
    <Suspense>
      <EraseDialog {...props} />
    </Suspense>
  );
}
