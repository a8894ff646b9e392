import type { ReactNode } from "react";
import { Descriptions } from "antd";
import type { Schemas } from "@/shared/api/client";
import { useMay } from "@/entities/account/queries";
import { ThingField } from "@/entities/thing/ThingField";
import type { Edit } from "@/shared/lib/thing";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { TagList } from "@/shared/ui/TagList";
import { LabelForm } from "./LabelForm";
import { NameForm } from "./NameForm";

interface Props {
  page: Schemas["PlacePage"];
  /** Whether owner, unit and labels can be edited: not of accounts and units. */
  listed: boolean;
  /** Whether the viewer may edit them. */
  editable: boolean;
  onSet: (fields: Record<string, unknown>) => void;
  onEdit: (edit: Edit) => void;
}

/** Owner, unit, labels and collections of a place. */
export function PlaceFacts({ page, listed, editable, onSet, onEdit }: Props) {
  const { place, collections } = page;
  const collects = useMay("mandala.places.manage", place.account);
  const labels = Object.entries(place.labels)
    .map(([name, value]) => `${name} ${value}`)
    .join(", ");
  const one = (kind: string, field: string, label: string, value: string): ReactNode =>
    editable ? (
      <ThingField
        label={label}
        look="link"
        value={value}
        kind={kind}
        onChoose={(it) => onSet({ [field]: it })}
      />
    ) : (
      value
    );
  const collected = (
    <TagList
      label="Collections"
      items={collections}
      onRemove={
        collects
          ? (key) => onEdit({ kind: "collections", key, drop: { members: [place.key] } })
          : undefined
      }
      add={
        collects && (
          <>
            <ThingField
              label="Collections"
              look="link"
              value="Add to collection"
              search="Collection"
              kind="collections"
              without={collections.map((it) => it.key)}
              onChoose={(key) =>
                onEdit({ kind: "collections", key, add: { members: [place.key] } })
              }
            />{" "}
            <InlinePicker
              label="Collections"
              look="link"
              value="New collection"
              picker={(close) => (
                <NameForm
                  label="Name of the collection"
                  onName={(name) => {
                    const after = { name, account: place.account, members: [place.key] };
                    onEdit({ kind: "collections", after });
                    close();
                  }}
                />
              )}
            />
          </>
        )
      }
    />
  );
  return (
    <Descriptions
      size="small"
      column={{ xs: 1, sm: 3 }}
      items={[
        ...(listed
          ? [
              {
                key: "owner",
                label: "Owner",
                children: one("principals", "owner", "Owner", place.ownerName ?? "no owner"),
              },
              {
                key: "unit",
                label: "Unit",
                children: one("units", "unit", "Unit", place.unitName ?? "no unit"),
              },
              {
                key: "labels",
                label: "Labels",
                children: editable ? (
                  <InlinePicker
                    label="Labels"
                    look="link"
                    value={labels || "no labels"}
                    picker={(close) => (
                      <LabelForm
                        labels={place.labels}
                        onPut={(next) => {
                          onSet({ labels: Object.keys(next).length > 0 ? next : null });
                          close();
                        }}
                      />
                    )}
                  />
                ) : (
                  labels || "no labels"
                ),
              },
            ]
          : []),
        { key: "collections", label: "Collections", span: "filled" as const, children: collected },
      ]}
    />
  );
}
