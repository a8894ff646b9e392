import type { Schemas } from "@/shared/api/client";
import { DataTable } from "@/shared/ui/DataTable";

type Area = Schemas["DifferingArea"];

interface Props {
  areas: Area[];
  words: { gained: string; lost: string };
  /** Called with the area pointed at, and with undefined when the pointer leaves it. */
  onPoint?: (area: string | undefined) => void;
}

const figure = (many: number) => (many > 0 ? many.toLocaleString("en") : "");

/** Where rights differ, area by area. */
export function AreaTable({ areas, words, onPoint }: Props) {
  return (
    <DataTable<Area>
      label="Areas"
      rows={areas}
      rowKey={(it) => it.key}
      {...(onPoint && { onPoint: (it) => onPoint(it?.key) })}
      columns={[
        { key: "area", title: "Area", render: (it) => it.name, card: "title" },
        {
          key: "account",
          title: "Account",
          quiet: true,
          render: (it) => it.accountName,
        },
        { key: "gained", title: words.gained, numeric: true, render: (it) => figure(it.gained) },
        { key: "lost", title: words.lost, numeric: true, render: (it) => figure(it.lost) },
      ]}
    />
  );
}
