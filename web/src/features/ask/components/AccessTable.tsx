import { Suspense, lazy, useMemo, useState } from "react";
import { Checkbox } from "antd";
import {
  CLASSES,
  countRegions,
  fitting,
  idOf,
  marksOf,
  regionOrder,
  rowsOf,
  sizeOf,
  type Permission,
  type Question,
  type Region,
  type TableRow,
} from "@/entities/access/model";
import { useInside } from "@/entities/access/queries";
import { VerdictMark } from "@/entities/access/VerdictMark";
import { SavedViews } from "@/entities/view/SavedViews";
import { useAddress } from "@/shared/lib/useAddress";
import { capital, count } from "@/shared/lib/words";
import { DataTable } from "@/shared/ui/DataTable";
import { useListView } from "@/shared/ui/useListView";
import { MarkButton, MarkNames } from "./Marks";
import { RegionName } from "./RegionName";
import { Loading } from "@/shared/ui/Loading";
import styles from "./AccessTable.module.css";

const RoutesPanel = lazy(async () => ({
  default: (await import("@/entities/access/RoutesPanel")).RoutesPanel,
}));

interface Props {
  regions: Region[];
  permissions: Map<string, Permission>;
  question: Question;
  /** Whether the regions begin unfolded. */
  unfold: boolean;
}

/** Begins the names under which the address keeps how the table is shown. */
const TOOLS = "answer";

/** Marks of a class that fit in a row. */
const ROOM = { view: 7, change: 8, administer: 6 };

/** Names of a class that a row shows where marks are words. */
const IN_WORDS = 12;

/** Width of a class's column, in pixels. */
const WIDTH = { view: 130, change: 146, administer: 114 };

/** What is open below a row: the routes of one permission on one resource. */
interface OpenRoutes {
  permission: string;
  resource: string;
  row: string;
}

function openRoutesIn(value: string): OpenRoutes {
  const [permission = "", resource = "", ...row] = value.split("@");
  return { permission, resource, row: row.join("@") };
}

function toggled(set: Set<string>, id: string): Set<string> {
  const next = new Set(set);
  if (!next.delete(id)) next.add(id);
  return next;
}

/** The resource tree, folded into regions of equal rights, with a mark for each permission. */
export function AccessTable({ regions, permissions, question, unfold }: Props) {
  const [params, set] = useAddress();
  const begun = unfold || (regions.length === 1 && regions[0]?.shape === "account");
  const [unfolded, setUnfolded] = useState<Set<string>>(
    () => new Set(begun ? regions.map((it) => idOf(it, "")) : []),
  );
  const [named, setNamed] = useState<Set<string>>(new Set());
  const [wanted, setWanted] = useState<string[]>(() =>
    begun ? regions.filter((it) => it.more).map((it) => it.resource) : [],
  );
  const { inside, failed } = useInside(question, wanted);
  const { key: column, order } = useListView(TOOLS).sort;
  const rows = useMemo(
    () => rowsOf(regions, { unfolded, inside, order: regionOrder(column, order, permissions) }),
    [regions, unfolded, inside, column, order, permissions],
  );
  const inWords = params.get("names") === "1";
  const address = params.get("routes") ?? "";
  const routes = openRoutesIn(address);

  function openRoutes(row: TableRow, permission: string, sample: string) {
    const value = `${permission}@${sample}@${row.id}`;
    set({ routes: value === address ? "" : value });
  }

  function toggle(row: TableRow) {
    if (row.folds) setUnfolded(toggled(unfolded, row.id));
    else setNamed(toggled(named, row.id));
    const { more, resource } = row.region;
    if (more && !wanted.includes(resource)) setWanted([...wanted, resource]);
  }

  const loading = (row: TableRow) =>
    row.open && row.region.more && !inside.has(row.region.resource);
  const opened = rows.filter(
    (it) => loading(it) || named.has(it.id) || (routes.row === it.id && routes.permission !== ""),
  );

  return (
    <>
      <DataTable
        label="Access by place"
        tools={TOOLS}
        exported
        extra={
          <>
            <SavedViews />
            <Checkbox
              className={styles["switch"] ?? ""}
              checked={inWords}
              onChange={(event) =>
                set({ names: event.target.checked ? "1" : "" }, { replace: true })
              }
            >
              Show names
            </Checkbox>
          </>
        }
        rows={rows}
        rowKey={(row) => row.id}
        rowClass={(row) => (opened.includes(row) ? styles["opened"] : undefined)}
        columns={[
          {
            key: "where",
            title: `Where · ${count(countRegions(regions), "region")} of ${count(sizeOf(regions), "resource")}${regions.some((it) => it.more) ? ", more inside" : ""}`,
            card: "title",
            sorted: true,
            ellipsis: true,
            render: (row) => (
              <RegionName row={row} named={named.has(row.id)} onToggle={() => toggle(row)} />
            ),
          },
          ...CLASSES.map((accessClass) => ({
            key: accessClass,
            title: capital(accessClass),
            sorted: true,
            width: inWords ? "24%" : WIDTH[accessClass],
            render: (row: TableRow) => {
              const all = marksOf(row.region, permissions)[accessClass];
              const marks = inWords ? all.filter((it) => it.verdict !== "none") : all;
              const { shown, more } = fitting(marks, inWords ? IN_WORDS : ROOM[accessClass]);
              return (
                <span className={inWords ? styles["words"] : styles["marks"]}>
                  {shown.map((mark) => (
                    <MarkButton
                      key={mark.permission.key}
                      mark={mark}
                      inWords={inWords}
                      where={row.region.name}
                      pressed={routes.row === row.id && routes.permission === mark.permission.key}
                      onOpen={() => openRoutes(row, mark.permission.key, mark.cell.sample)}
                    />
                  ))}
                  {more > 0 && <small title={`${more} more`}>+{more}</small>}
                  {shown.length === 0 && more === 0 && all.length > 0 && (
                    <VerdictMark verdict="none" accessClass={accessClass} risk="low" />
                  )}
                </span>
              );
            },
          })),
        ]}
        detail={{
          open: opened.map((it) => it.id),
          render: (row) => (
            <div style={{ paddingInlineStart: 14 + row.depth * 18 }}>
              {loading(row) && (
                <p className="note" role="status">
                  {failed.has(row.region.resource)
                    ? "What is inside could not be loaded. Reload the page."
                    : "Loading what is inside…"}
                </p>
              )}
              {named.has(row.id) && (
                <MarkNames
                  region={row.region}
                  marks={CLASSES.flatMap((it) => marksOf(row.region, permissions)[it])}
                  onOpen={(mark) => openRoutes(row, mark.permission.key, mark.cell.sample)}
                />
              )}
              {routes.row === row.id && routes.permission && (
                <Suspense fallback={<Loading what="routes" rows={3} />}>
                  <RoutesPanel
                    question={question}
                    permission={routes.permission}
                    resource={routes.resource}
                    region={row.region}
                    onPlace={(place) =>
                      set({ routes: `${routes.permission}@${place}@${row.id}` }, { replace: true })
                    }
                  />
                </Suspense>
              )}
            </div>
          ),
        }}
      />
    </>
  );
}
