import { Link } from "react-router";
import { percent, type Study } from "@/entities/access/excess";
import type { Column } from "@/shared/ui/DataTable";

/** The columns of a table of what several people use. */
export function columnsFor(days: number): Column<Study["rows"][number]>[] {
  return [
    {
      key: "name",
      title: "Name",
      order: (row) => row.name,
      card: "title",
      render: (row) =>
        row.key ? (
          <Link to={`/people/${encodeURIComponent(row.key)}?tab=use&days=${days}`}>{row.name}</Link>
        ) : (
          row.name
        ),
    },
    { key: "account", title: "Account", quiet: true, render: (row) => row.account ?? "" },
    number("rights", "Rights", (row) => row.rights),
    number("unobserved", "Not observed", (row) => row.unobserved),
    number("unused", "Not used", (row) => row.unused),
    number("exposure", "Exposure", (row) => row.exposure),
    number("unusedExposure", "Unused exposure", (row) => row.unusedExposure),
    {
      key: "share",
      title: "Share unused",
      numeric: true,
      order: (row) => (row.exposure === 0 ? 0 : row.unusedExposure / row.exposure),
      render: (row) => percent(row.unusedExposure, row.exposure),
    },
  ];
}

function number(
  key: string,
  title: string,
  of: (row: Study["rows"][number]) => number,
): Column<Study["rows"][number]> {
  return {
    key,
    title,
    numeric: true,
    order: of,
    render: (row) => of(row).toLocaleString("en"),
  };
}
