import { useState } from "react";
import { Button, Checkbox } from "antd";
import { Link, useNavigate, useParams } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { pageOfUse } from "@/entities/access/excess";
import { ownerOf, useAccount, useAccountNames, useAsks, useMay } from "@/entities/account/queries";
import { AssignmentList } from "@/entities/assignment/AssignmentList";
import { LazyComposer } from "@/entities/assignment/LazyComposer";
import { DraftMark } from "@/entities/draft/DraftMark";
import { madeIn, useEdit } from "@/entities/draft/queries";
import { LazyThingForm } from "@/entities/form/LazyThingForm";
import { useRolePage } from "@/entities/thing/queries";
import { flagOf, textOf, thingFrom, type Edit } from "@/shared/lib/thing";
import { EditableTitle } from "@/shared/ui/EditableTitle";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { RoleContent } from "../components/RoleContent";
import { RoleHolders } from "../components/RoleHolders";
import { RoleParts } from "../components/RoleParts";
import { copyOf } from "../model";

/** A role: what it grants, what it is made of, and who holds it. */
export function RolePage() {
  const { key = "" } = useParams();
  const page = useRolePage(key);
  if (page.isPending) return <Loading what="the role" />;
  if (page.isError) {
    return <ProblemAlert problem={page.error} onRetry={() => void page.refetch()} />;
  }
  return <Role page={page.data} />;
}

function Role({ page }: { page: Schemas["RolePage"] }) {
  const edit = useEdit();
  const key = page.role.key ?? "";
  const put = (it: Edit) => edit.mutate([it]);
  const set = (fields: Record<string, unknown>) => put({ kind: "roles", key, set: fields });
  return (
    <>
      <Head page={page} onSet={set} />
      {edit.isError && <ProblemAlert problem={edit.error} />}
      <div className="two">
        <section aria-label="Grants">
          <RoleContent page={page} onEdit={put} />
          <RoleParts page={page} onEdits={edit.mutate} />
        </section>
        <RoleHolders page={page} onSet={set} />
      </div>
      <h2 className="part">Assignments of this role</h2>
      <AssignmentList label="Assignments" assignments={page.assignments} hide="gives" />
    </>
  );
}

interface HeadProps {
  page: Schemas["RolePage"];
  onSet: (fields: Record<string, unknown>) => void;
}

function Head({ page, onSet }: HeadProps) {
  const { role } = page;
  const [assigning, setAssigning] = useState(false);
  const [account] = useAccount();
  const accountName = useAccountNames();
  const copy = useEdit();
  const navigate = useNavigate();
  const [editing, setEditing] = useState(false);
  const assigns = useMay("mandala.access.assign");
  const asks = useAsks();
  const defines = useMay("mandala.rights.define", account?.key);
  const mayEdit = !role.cannot;
  const code = textOf(role.thing, "code");
  const retired = textOf(role.thing, "status") === "retired";
  return (
    <PageHead
      path={[
        { name: "Roles", to: "/rights/roles" },
        { name: role.supplied ? "supplied, can't be edited" : ownerOf(role, accountName) },
      ]}
      title={
        <>
          {!mayEdit ? (
            role.name
          ) : (
            <EditableTitle
              key={role.name}
              label="Name of the role"
              name={role.name}
              onName={(name) => onSet({ name })}
            />
          )}{" "}
          <DraftMark mark={role.mark} />
        </>
      }
      facts={[
        retired && "retired",
        code && `code ${code}`,
        textOf(role.thing, "description"),
        asks && (
          <Link key="use" to={pageOfUse(`role:${role.key ?? ""}`)}>
            what its holders use
          </Link>
        ),
      ]}
      actions={
        <>
          {assigns && (
            <Button size="small" type="primary" onClick={() => setAssigning(true)}>
              Assign
            </Button>
          )}
          {mayEdit && (
            <Button size="small" onClick={() => setEditing(true)}>
              Edit details
            </Button>
          )}
          {defines && (
            <Button
              size="small"
              loading={copy.isPending}
              onClick={() =>
                copy.mutate(
                  [
                    {
                      kind: "roles",
                      after: copyOf(thingFrom(role.thing), role.name, account?.key),
                    },
                  ],
                  {
                    onSuccess: (open) =>
                      void navigate(`/rights/roles/${madeIn(open, "roles") ?? ""}`),
                  },
                )
              }
            >
              Copy and adapt
            </Button>
          )}
          {mayEdit && (
            <>
              <Button size="small" onClick={() => onSet({ status: retired ? null : "retired" })}>
                {retired ? "Reactivate" : "Retire"}
              </Button>
              <Checkbox
                checked={flagOf(role.thing, "requiresMfa")}
                onChange={(event) => onSet({ requiresMfa: event.target.checked || null })}
              >
                Requires a second factor
              </Checkbox>
            </>
          )}
        </>
      }
    >
      {role.cannot && !role.supplied && (
        <p className="note">You can&apos;t edit this role. {role.cannot}</p>
      )}
      {copy.isError && <ProblemAlert problem={copy.error} />}
      {editing && <LazyThingForm kind="roles" existing={role} onClose={() => setEditing(false)} />}
      {assigning && (
        <LazyComposer
          open
          gives={{ ref: `role:${role.key ?? ""}`, name: role.name }}
          onClose={() => setAssigning(false)}
        />
      )}
    </PageHead>
  );
}
