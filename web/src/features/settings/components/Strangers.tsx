import { Table } from "antd";
import { count, dayOf, listed } from "@/shared/lib/words";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useStrangers, type Stranger } from "../use";

const FIELDS: Record<string, string> = {
  principal: "the person",
  actingFor: "the person acted for",
  permission: "the permission",
  resource: "the place",
};

/** Records of a source that name somebody or something unknown. */
export function Strangers({ source }: { source: string }) {
  const found = useStrangers(source);
  if (found.isPending) return <Loading what="unknown names" rows={2} />;
  if (found.isError) return <ProblemAlert problem={found.error} />;
  if (found.data.records === 0)
    return <>Every record names people, permissions and places you know.</>;
  return (
    <>
      <p>
        {count(found.data.records, "record names", "records name")} someone or something you don't
        know. They count once the name is known.
      </p>
      <Table<Stranger>
        size="small"
        rowKey={(it) => [it.principal, it.actingFor, it.permission, it.resource].join("\n")}
        dataSource={found.data.strangers}
        pagination={{ pageSize: 10, hideOnSinglePage: true }}
        columns={[
          { title: "Who", render: (_, it) => <code>{it.principal}</code> },
          { title: "Permission", render: (_, it) => <code>{it.permission}</code> },
          { title: "Place", render: (_, it) => <code>{it.resource}</code> },
          {
            title: "Unknown",
            render: (_, it) => listed(it.missing.map((field) => FIELDS[field] ?? field)),
          },
          { title: "Records", align: "end", dataIndex: "records" },
          { title: "Last", render: (_, it) => dayOf(it.last) },
        ]}
      />
    </>
  );
}
