import type { Schemas } from "@/shared/api/client";

export type Day = Schemas["FiguresOfDay"];
export type ExposureDay = Schemas["ExposureOfDay"];

type Figure = Exclude<keyof Day, "day">;

/** The figures of an account, in their order, and what each counts. */
export const FIGURES: { figure: Figure; label: string; counts: string }[] = [
  { figure: "people", label: "People", counts: "Active people at home here" },
  { figure: "guests", label: "Guests", counts: "Active guests from other accounts" },
  { figure: "services", label: "Services", counts: "Active services at home here" },
  {
    figure: "dormant",
    label: "Dormant",
    counts: "Active people who were last seen more than 90 days before",
  },
  {
    figure: "findings",
    label: "Findings",
    counts: "Open findings that concern this account alone",
  },
  {
    figure: "exposure",
    label: "Exposure",
    counts: "Exposure of all at home here, with all of their access",
  },
  {
    figure: "unused",
    label: "Unused exposure",
    counts: "The part of the exposure that they don't use",
  },
];

/** The days of which a figure is told. */
export function series(days: Day[], figure: Figure): { day: string; value: number }[] {
  return days.flatMap((it) => {
    const value = it[figure];
    return value === undefined ? [] : [{ day: it.day, value }];
  });
}

/** How a figure changed over its days: "+3", "−2" or "as before". */
export function change(values: { value: number }[]): string {
  const by = (values.at(-1)?.value ?? 0) - (values.at(0)?.value ?? 0);
  if (by === 0) return "as before";
  return by > 0 ? `+${by.toLocaleString("en")}` : `−${(-by).toLocaleString("en")}`;
}
