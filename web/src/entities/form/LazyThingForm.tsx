import { lazy, Suspense, type ComponentProps } from "react";
import type { ThingForm } from "./ThingForm";

const Form = lazy(async () => ({ default: (await import("./ThingForm")).ThingForm }));

/** The form of a thing, loaded when it is first opened. */
export function LazyThingForm(props: ComponentProps<typeof ThingForm>) {
  return (
    <Suspense fallback={null}>
      <Form {...props} />
    </Suspense>
  );
}
