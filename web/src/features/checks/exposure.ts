import type { Schemas } from "@/shared/api/client";

export type ExposedPerson = Schemas["ExposedPerson"];

/** How many people the chart lets stand out. */
export const STAND_OUT = 20;

/** The share of an exposure that is not used, from 0 to 1. */
export function shareOf({ exposure, unused }: ExposedPerson): number {
  return exposure === 0 ? 0 : unused / exposure;
}
