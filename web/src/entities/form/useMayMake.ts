import { useMay } from "@/entities/account/queries";
import { specOf } from "./model";

/**
 * Whether the viewer may create things of a kind in an account, else in any account. Where that
 * depends on whose they are, such as delegations, the server decides.
 */
export function useMayMake(kind: string, account?: string): boolean {
  const { makes } = specOf(kind);
  const may = useMay(makes ?? "", account);
  return makes === undefined || may;
}
