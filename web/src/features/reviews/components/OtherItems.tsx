import { PAST, type Subject } from "@/entities/decision/model";
import type { Item } from "@/entities/decision/queries";
import { LinkButton } from "@/shared/ui/LinkButton";
import { DataTable } from "@/shared/ui/DataTable";

interface Props {
  subject: Subject;
  shown: number | undefined;
  onShow: (item: number) => void;
}

/** What else of the same person, group or role one decides. */
export function OtherItems({ subject, shown, onShow }: Props) {
  const others = subject.items.filter((it) => it.number !== shown);
  if (others.length === 0) return null;
  return (
    <section aria-label={`Also ${subject.name}`}>
      <h2 className="part">Also {subject.name}</h2>
      <DataTable<Item>
        label={`Also ${subject.name}`}
        rows={others}
        rowKey={(it) => String(it.number)}
        columns={[
          {
            key: "what",
            title: "what",
            render: (it: Item) => (
              <LinkButton onClick={() => onShow(it.number)}>{it.said}</LinkButton>
            ),
          },
          { key: "risk", title: "risk", width: 90, render: (it: Item) => it.risk ?? "" },
          {
            key: "takes",
            title: "removing it takes",
            width: 140,
            render: (it: Item) =>
              it.takes === undefined ? "" : `${it.takes.toLocaleString("en")} rights`,
          },
          {
            key: "recommended",
            title: "recommended",
            width: 110,
            render: (it: Item) => it.recommended ?? "",
          },
          {
            key: "decided",
            title: "decided",
            width: 90,
            render: (it: Item) => (it.verdict ? PAST[it.verdict] : ""),
          },
        ]}
      />
    </section>
  );
}
