import { Link } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { TagList } from "@/shared/ui/TagList";

interface Props {
  page: Schemas["GroupPage"];
  /** Absent where the viewer may not change the group. */
  onRemove?: ((group: string) => void) | undefined;
}

const asLink = (it: { key: string; name: string }) => ({
  key: it.key,
  name: it.name,
  content: <Link to={`/groups/${it.key}`}>{it.name}</Link>,
});

/** The groups inside a group, and the groups it is in. */
export function Nesting({ page, onRemove }: Props) {
  return (
    <>
      <h2 className="part">Nesting</h2>
      <p className="quiet">Contains these groups; their members are members here:</p>
      <TagList label="Contains" items={page.holds.map(asLink)} {...(onRemove && { onRemove })} />
      <p className="quiet">Is in these groups; members here have what those are assigned:</p>
      <TagList label="Is in" items={page.heldBy.map(asLink)} />
    </>
  );
}
