import { lazy, Suspense, useState } from "react";
import { Button } from "antd";
import type { Schemas } from "@/shared/api/client";
import { useMay } from "@/entities/account/queries";
import { LazyComposer } from "@/entities/assignment/LazyComposer";
import { LazyThingForm } from "@/entities/form/LazyThingForm";
import { PlaceField } from "@/entities/place/PlaceField";
import { textOf, type Edit } from "@/shared/lib/thing";
import { isSuspended } from "../model";

const AccountLikeDialog = lazy(() =>
  import("./AccountLikeDialog").then((it) => ({ default: it.AccountLikeDialog })),
);

interface Props {
  page: Schemas["PlacePage"];
  onSet: (fields: Record<string, unknown>) => void;
  /** Adds an edit to the draft, then goes to another place if one is given. */
  onEdit: (edit: Edit, then?: string) => void;
  /** Opens another place. */
  onGo: (place: string) => void;
}

/** What can be done with a place: assign, seal, suspend, add below, move, merge, remove. */
export function PlaceActions({ page, onSet, onEdit, onGo }: Props) {
  const { place, thing } = page;
  const [form, setForm] = useState<"assign" | "edit" | "account" | "like" | "place" | "unit">();
  const key = thing?.key ?? "";
  const resource = thing?.kind === "resources";
  const account = thing?.kind === "accounts";
  // a root account is never suspended (section 1)
  const below = account && textOf(thing.thing, "parent") !== "";
  const unit = thing?.kind === "units";
  const close = () => setForm(undefined);
  const mayEdit = thing !== undefined && !thing.cannot;
  const assigns = useMay("mandala.access.assign");
  const places = useMay("mandala.places.manage", place.account);
  const people = useMay("mandala.people.manage", place.account);
  return (
    <>
      {assigns && (
        <Button size="small" type="primary" onClick={() => setForm("assign")}>
          Assign here
        </Button>
      )}
      {mayEdit && (resource || account) && (
        <Button size="small" onClick={() => onSet({ sealed: place.sealed ? null : true })}>
          {place.sealed ? "Remove seal" : "Seal"}
        </Button>
      )}
      {mayEdit && account && (
        <>
          {below && (
            <Button
              size="small"
              onClick={() => onSet({ status: isSuspended(thing) ? null : "suspended" })}
            >
              {isSuspended(thing) ? "Reactivate" : "Suspend"}
            </Button>
          )}
          <Button size="small" onClick={() => setForm("edit")}>
            Edit account
          </Button>
          <Button size="small" onClick={() => setForm("account")}>
            New account
          </Button>
          <Button size="small" onClick={() => setForm("like")}>
            New account like this
          </Button>
        </>
      )}
      {places && (resource || account) && (
        <Button size="small" onClick={() => setForm("place")}>
          New place
        </Button>
      )}
      {people && (account || unit) && (
        <Button size="small" onClick={() => setForm("unit")}>
          New unit
        </Button>
      )}
      {mayEdit && resource && (
        <>
          <PlaceField
            label="Move to"
            look="button"
            value="Move"
            search="New parent"
            onChoose={(parent) => onSet({ parent: parent.startsWith("account:") ? null : parent })}
          />
          <PlaceField
            label="Merge into"
            look="button"
            value="Merge"
            onChoose={(mergeInto) => onEdit({ kind: "resources", key, mergeInto }, mergeInto)}
          />
          <Button size="small" onClick={() => onEdit({ kind: "resources", key, remove: true })}>
            Remove
          </Button>
        </>
      )}
      {form === "assign" && <LazyComposer open scope={[{ tree: place.key }]} onClose={close} />}
      {thing && form === "edit" && (
        <LazyThingForm kind="accounts" existing={thing} onClose={close} />
      )}
      {form === "account" && (
        <LazyThingForm
          kind="accounts"
          one={`account below ${place.name}`}
          given={{ parent: key }}
          decided={["parent"]}
          onClose={close}
          onMade={(it) => onGo(`account:${it}`)}
        />
      )}
      {form === "like" && (
        <Suspense>
          <AccountLikeDialog account={key} name={place.name} onClose={close} />
        </Suspense>
      )}
      {form === "place" && (
        <LazyThingForm
          kind="resources"
          one={`place below ${place.name}`}
          given={{ account: place.account, ...(resource && { parent: place.key }) }}
          decided={["account"]}
          onClose={close}
          onMade={onGo}
        />
      )}
      {form === "unit" && (
        <LazyThingForm
          kind="units"
          one={`unit of ${place.name}`}
          given={{ account: place.account, ...(unit && { parent: key }) }}
          decided={["account"]}
          onClose={close}
          onMade={(it) => onGo(`unit:${it}`)}
        />
      )}
    </>
  );
}
