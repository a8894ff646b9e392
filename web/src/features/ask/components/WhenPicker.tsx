import { lazy, Suspense } from "react";
import { Loading } from "@/shared/ui/Loading";

const WhenCalendar = lazy(() => import("./WhenCalendar"));

export interface When {
  at: string;
  onChoose: (at: string) => void;
}

/** Chooses a date, or takes a date and time typed to the second; loaded when it is opened. */
export function WhenPicker(props: When) {
  return (
    <Suspense fallback={<Loading what="the calendar" />}>
      <WhenCalendar {...props} />
    </Suspense>
  );
}
