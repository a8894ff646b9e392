import { useState } from "react";
import { Button, Checkbox, Collapse, Modal } from "antd";
import { useEdit } from "@/entities/draft/queries";
import { coversEverything, type Clause } from "@/entities/scope/model";
import { ScopeBuilder } from "@/entities/scope/ScopeBuilder";
import type { Named } from "@/entities/subject/model";
import { useRolePage, useScope, useThings, type AssignmentView } from "@/entities/thing/queries";
import { listOf } from "@/shared/lib/thing";
import { useKept } from "@/shared/lib/useKept";
import { useFormGuard } from "@/shared/ui/FormGuard";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Term } from "@/shared/ui/Term";
import styles from "./Composer.module.css";
import { Conditions } from "./Conditions";
import { editsOf, EMPTY_PLAN, missing, planOf, type Plan } from "./model";
import { WhoGetsWhat } from "./WhoGetsWhat";

interface Props {
  open: boolean;
  onClose: () => void;
  /** What the page is about. */
  subject?: Named;
  subjects?: Named[];
  gives?: Named;
  scope?: Clause[];
  existing?: AssignmentView;
}

function planFrom({ existing, subject, subjects, gives, scope }: Props): Plan {
  return existing
    ? planOf(
        existing.thing,
        { ref: existing.subject, name: existing.subjectName },
        { ref: existing.gives, name: existing.givesName },
      )
    : {
        ...EMPTY_PLAN,
        subjects: subjects ?? (subject ? [subject] : []),
        gives,
        scope: scope ?? [],
      };
}

/** Who gets what, where, when and how; it is added to the draft. */
export function Composer(props: Props) {
  const { open, onClose, existing } = props;
  const about = existing?.key ?? props.subject?.ref ?? props.gives?.ref ?? "";
  const kept = useKept<Plan>(`assign.${about}`, () => planFrom(props));
  const { value: plan, setValue: setPlan } = kept;
  const guard = useFormGuard(kept, onClose);
  const [confirmed, setConfirmed] = useState(existing !== undefined);
  const covers = [useScope(plan.scope), useScope(plan.viewScope)];
  const everything =
    [plan.scope, plan.viewScope].some(coversEverything) ||
    covers.some((it) => !it.isPlaceholderData && it.data?.everything);
  const [withPrerequisites, setWithPrerequisites] = useState(true);
  const edit = useEdit();
  const prerequisites = usePrerequisites(plan.gives);
  const counting = covers.some((it) => it.isPending || it.isPlaceholderData);
  const against =
    missing(plan, everything, confirmed) ?? (counting ? "Checking what this covers…" : undefined);
  if (confirmed && !counting && !everything) setConfirmed(false); // asked for when it does again
  const set = (changes: Partial<Plan>) => setPlan({ ...plan, ...changes });

  function submit() {
    const also = withPrerequisites ? prerequisites : [];
    edit.mutate(editsOf(plan, existing?.key, also), {
      onSuccess: () => {
        kept.forget();
        onClose();
      },
    });
  }

  return (
    <Modal
      open={open}
      onCancel={guard.close}
      width={760}
      destroyOnHidden
      title={existing ? "Edit assignment" : "Assign"}
      footer={
        <>
          {against && (
            <span className={styles["missing"]} role="status">
              {against}
            </span>
          )}
          <Button onClick={guard.close}>Cancel</Button>
          <Button type="primary" disabled={!!against} loading={edit.isPending} onClick={submit}>
            Add to draft
          </Button>
        </>
      }
    >
      {guard.question}
      <div className={styles["composer"]}>
        {guard.note}
        <WhoGetsWhat plan={plan} fixed={existing !== undefined} onChange={set} />
        {plan.gives?.ref.startsWith("permission:") && (
          <Checkbox checked={plan.denies} onChange={(e) => set({ denies: e.target.checked })}>
            Deny this permission. A deny always wins.
          </Checkbox>
        )}
        {prerequisites.length > 0 && !existing && (
          <Checkbox
            checked={withPrerequisites}
            onChange={(e) => setWithPrerequisites(e.target.checked)}
          >
            Also assign its prerequisites, {prerequisites.map((it) => it.name).join(", ")}, in the
            same places
          </Checkbox>
        )}
        <h3>Where</h3>
        <ScopeBuilder label="Where" scope={plan.scope} onChange={(it) => set({ scope: it })} />
        <Collapse
          ghost
          size="small"
          defaultActiveKey={plan.viewScope.length > 0 ? ["view"] : []}
          items={[
            {
              key: "view",
              label: "View more widely",
              children: (
                <>
                  <p className="note">
                    In this <Term word="view scope" /> it grants only its view permissions.
                  </p>
                  <ScopeBuilder
                    label="Where to view"
                    scope={plan.viewScope}
                    onChange={(it) => set({ viewScope: it })}
                  />
                </>
              ),
            },
          ]}
        />
        {everything && (
          <Checkbox checked={confirmed} onChange={(e) => setConfirmed(e.target.checked)}>
            This covers everything, in every account, now and later. Confirm to continue.
          </Checkbox>
        )}
        <Conditions plan={plan} onChange={set} />
        {edit.isError && <ProblemAlert problem={edit.error} />}
      </div>
    </Modal>
  );
}

/** The prerequisites of a role, by name. */
function usePrerequisites(gives: Named | undefined): Named[] {
  const role = gives?.ref.startsWith("role:") ? gives.ref.slice(5) : "";
  const page = useRolePage(role);
  const roles = useThings("roles", { limit: 1000 }, role !== "");
  return listOf(page.data?.role.thing, "prerequisites").map((key) => ({
    ref: `role:${key}`,
    name: roles.data?.things.find((it) => it.key === key)?.name ?? key,
  }));
}
