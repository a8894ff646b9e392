import { useState } from "react";
import { Link } from "react-router";
import { questionAbout, type WhoAsked } from "@/entities/access/model";
import type { WhoAnswer } from "@/entities/access/queries";
import { RoutesPanel } from "@/entities/access/RoutesPanel";
import { DataTable, type Column } from "@/shared/ui/DataTable";
import { LinkButton } from "@/shared/ui/LinkButton";

type Holder = WhoAnswer["allowed"][number];

interface Props {
  answer: WhoAnswer;
  asked: WhoAsked;
}

/** Those who can, one by one; where one permission on one resource is asked, each opens its routes. */
export function HolderTable({ answer, asked }: Props) {
  const [open, setOpen] = useState<string>();
  const { on, permission } = asked;
  const columns: Column<Holder>[] = [
    {
      key: "name",
      title: "Name",
      card: "title",
      order: (it) => it.name,
      render: (it) => <Link to={`/people/${encodeURIComponent(it.key)}`}>{it.name}</Link>,
    },
    {
      key: "title",
      title: "Job",
      order: (it) => it.title ?? it.kind,
      quiet: true,
      render: (it) => it.title ?? it.kind,
    },
    { key: "account", title: "Account", order: (it) => it.account, render: (it) => it.account },
    {
      key: "rights",
      title: `Rights, of ${answer.pairs.toLocaleString("en")}`,
      numeric: true,
      order: (it) => it.rights,
      render: (it) => it.rights.toLocaleString("en"),
    },
  ];
  if (on && permission) {
    columns.push({
      key: "why",
      title: "Why",
      quietTitle: true,
      width: 70,
      render: (it) => (
        <LinkButton
          aria-expanded={open === it.key}
          aria-label={`Why ${it.name} can`}
          onClick={() => setOpen(open === it.key ? undefined : it.key)}
        >
          Why
        </LinkButton>
      ),
    });
  }
  return (
    <DataTable
      label="Holders"
      tools="holders"
      exported
      rows={answer.allowed}
      rowKey={(it) => it.key}
      columns={columns}
      detail={{
        open: open ? [open] : [],
        render: (it) =>
          on &&
          permission && (
            <RoutesPanel
              question={questionAbout(it.key, { at: asked.at ?? "", factor: asked.secondFactor })}
              permission={permission}
              resource={on}
            />
          ),
      }}
    />
  );
}
