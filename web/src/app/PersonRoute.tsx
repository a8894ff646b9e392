import { PersonAccess } from "@/features/ask";
import { PersonPage } from "@/features/people";
import { PersonHistory } from "@/features/trail";

/** A person's page, with what the questions and the trail say of them. */
export function PersonRoute() {
  return <PersonPage access={PersonAccess} history={PersonHistory} />;
}
