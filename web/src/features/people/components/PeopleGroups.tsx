import { Collapse } from "antd";
import type { ListView } from "@/shared/ui/useListView";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { count } from "@/shared/lib/words";
import { ROW_HEIGHT, type Filter, type Selected } from "../model";
import { usePeopleGroups, type Row } from "../queries";
import styles from "./PeopleList.module.css";
import { PeopleList } from "./PeopleList";

/** Rows of a group in sight before it scrolls by itself. */
const IN_SIGHT = 8;

interface Props {
  filter: Filter;
  chosen: Map<string, Selected>;
  onChoose: (rows: Row[], chosen: boolean) => void;
  view: ListView;
}

/** The list in groups, each of which unfolds. */
export function PeopleGroups({ filter, chosen, onChoose, view }: Props) {
  const groups = usePeopleGroups(filter);
  if (groups.isError)
    return <ProblemAlert problem={groups.error} onRetry={() => void groups.refetch()} />;
  if (groups.isPending) return <Loading what="groups" rows={8} />;
  if (groups.data.groups.length === 0)
    return <EmptyState>No one matches these filters. Change or clear one of them.</EmptyState>;
  return (
    <Collapse
      ghost
      size="small"
      destroyOnHidden
      className={styles["groups"] ?? ""}
      items={groups.data.groups.map((it) => ({
        key: it.key ?? "",
        label: (
          <>
            {it.name} <small className="quiet">{count(it.people, "entry", "entries")}</small>
          </>
        ),
        ...(it.key === undefined && { collapsible: "disabled" as const, showArrow: false }),
        children: (
          <div
            className={styles["group"]}
            style={{ height: Math.min(it.people, IN_SIGHT) * ROW_HEIGHT + 48 }}
          >
            <PeopleList
              filter={{ ...filter, of: it.key ?? "" }}
              total={it.people}
              chosen={chosen}
              onChoose={onChoose}
              view={view}
            />
          </div>
        ),
      }))}
    />
  );
}
