import { useAddress } from "@/shared/lib/useAddress";

/** Rows of a page that one can choose. */
export const PAGE_SIZES = [25, 50, 100, 200];

/** Rows of a page until one chooses otherwise. */
const ROWS = 200;

/** How a list is shown; the address keeps it, so that a link or a saved view shows the same. */
export interface ListView {
  hidden: string[];
  sort: { key: string; order: "ascend" | "descend" | null };
  size: number;
  setHidden: (columns: string[]) => void;
  setSort: (sort: { columnKey?: unknown; order?: "ascend" | "descend" | null }) => void;
  setSize: (rows: number) => void;
}

/** Stands in an address for no hidden column, where some are hidden until one chooses otherwise. */
const NONE = "-";

/** The view of the list of a name; some columns are hidden until one chooses otherwise. */
export function useListView(name: string, usual: string[] = []): ListView {
  const [params, set] = useAddress();
  const sort = params.get(`${name}.sort`) ?? "";
  const size = Number(params.get(`${name}.rows`));
  return {
    hidden: (params.get(`${name}.hide`) ?? usual.join(",")).split(",").filter(Boolean),
    sort: {
      key: sort.replace(/^-/, ""),
      order: sort === "" ? null : sort.startsWith("-") ? "descend" : "ascend",
    },
    size: PAGE_SIZES.includes(size) ? size : ROWS,
    setHidden: (columns) => {
      const hidden = columns
        .filter((it) => it !== NONE)
        .sort()
        .join(",");
      const asUsual = hidden === [...usual].sort().join(",");
      set({ [`${name}.hide`]: asUsual ? "" : hidden || NONE });
    },
    setSort: ({ columnKey, order }) =>
      set({
        [`${name}.sort`]: order ? `${order === "descend" ? "-" : ""}${String(columnKey)}` : "",
      }),
    setSize: (rows) => set({ [`${name}.rows`]: rows === ROWS ? "" : String(rows) }),
  };
}
