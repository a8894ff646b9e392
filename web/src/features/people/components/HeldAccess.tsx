import type { Schemas } from "@/shared/api/client";
import { AssignmentList } from "@/entities/assignment/AssignmentList";
import { textOf } from "@/shared/lib/thing";
import { Memberships } from "./Memberships";
import { OtherAccess } from "./OtherAccess";

/** Groups, assignments, and what else somebody holds. */
export function HeldAccess({ page }: { page: Schemas["PersonPage"] }) {
  const { person } = page;
  const ref = `${textOf(person.thing, "kind")}:${person.key ?? ""}`;
  return (
    <>
      <Memberships page={page} />
      <h2 className="part">Assignments that apply to {person.name}</h2>
      <AssignmentList
        label="Assignments"
        assignments={page.assignments}
        person={{ ref, name: person.name }}
      />
      <OtherAccess person={person} />
    </>
  );
}
