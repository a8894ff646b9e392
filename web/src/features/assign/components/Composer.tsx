import { useState } from "react";
import { Button, Checkbox, Modal } from "antd";
import { Choose } from "../../../components/Choose";
import { Field } from "../../../components/Field";
import { ProblemNote } from "../../../components/ProblemNote";
import { ThingPicker } from "../../../components/ThingPicker";
import { textOf } from "../../../lib/thing";
import { useEdit } from "../../draft/queries";
import { useRolePage, useScope, useThings, type AssignmentView } from "../../things/queries";
import {
  coversEverything,
  editsOf,
  EMPTY_PLAN,
  missing,
  planOf,
  type Clause,
  type Named,
  type Plan,
} from "../model";
import { ScopeBuilder } from "./ScopeBuilder";

interface Props {
  open: boolean;
  onClose: () => void;
  /** What the page already knows. */
  subject?: Named;
  subjects?: Named[];
  gives?: Named;
  scope?: Clause[];
  existing?: AssignmentView;
}

/** Who gets what, where, when and how, as one sentence; it goes into the draft. */
export function Composer(props: Props) {
  const { open, onClose, subject, subjects, gives, scope, existing } = props;
  const [plan, setPlan] = useState<Plan>(() =>
    existing
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
        },
  );
  const scopes = JSON.stringify([plan.scope, plan.viewScope]);
  const [confirmed, setConfirmed] = useState(existing ? scopes : "");
  const covers = [useScope(plan.scope), useScope(plan.viewScope)];
  const everything =
    [plan.scope, plan.viewScope].some(coversEverything) ||
    covers.some((it) => !it.isPlaceholderData && it.data?.everything);
  const [withPrerequisites, setWithPrerequisites] = useState(true);
  const edit = useEdit();
  const role = plan.gives?.ref.startsWith("role:") ? plan.gives.ref.slice(5) : "";
  const prerequisites = usePrerequisites(role);
  const counting = covers.some((it) => it.isPending || it.isPlaceholderData);
  const against =
    missing(plan, everything, confirmed === scopes) ??
    (counting ? "Checking what this covers…" : undefined);
  const set = (changes: Partial<Plan>) => setPlan({ ...plan, ...changes });

  function submit() {
    const also = withPrerequisites ? prerequisites : [];
    edit.mutate(editsOf(plan, existing?.key, also), { onSuccess: onClose });
  }

  return (
    <Modal
      open={open}
      onCancel={onClose}
      width={760}
      destroyOnHidden
      title={existing ? "Change an assignment" : "Assign"}
      footer={
        <>
          {against && <span className="composer-missing">{against}</span>}
          <Button onClick={onClose}>Cancel</Button>
          <Button type="primary" disabled={!!against} loading={edit.isPending} onClick={submit}>
            Into the draft
          </Button>
        </>
      }
    >
      <div className="composer">
        <p className="composer-sentence">
          {plan.subjects.map((it, i) => (
            <span key={it.ref}>
              {i > 0 && ", "}
              <strong>{it.name}</strong>
              {!existing && (
                <button
                  type="button"
                  className="link"
                  aria-label={`Without ${it.name}`}
                  onClick={() => set({ subjects: plan.subjects.filter((s) => s !== it) })}
                >
                  ✕
                </button>
              )}
            </span>
          ))}{" "}
          {!existing && (
            <Field
              label="Who"
              className={plan.subjects.length === 0 ? "field" : "link"}
              value={plan.subjects.length === 0 ? "Who" : "and …"}
              picker={(close) => (
                <SubjectPicker
                  without={plan.subjects.map((it) => it.ref)}
                  onChoose={(it) => {
                    set({ subjects: [...plan.subjects, it] });
                    close();
                  }}
                />
              )}
            />
          )}{" "}
          {plan.denies ? (plan.subjects.length > 1 ? "are denied" : "is denied") : "gets"}{" "}
          <Field
            label="What"
            value={plan.gives?.name ?? "what"}
            picker={(close) => (
              <GivesPicker
                onChoose={(it) => {
                  set({ gives: it, ...(!it.ref.startsWith("permission:") && { denies: false }) });
                  close();
                }}
              />
            )}
          />
        </p>
        {plan.gives?.ref.startsWith("permission:") && (
          <Checkbox checked={plan.denies} onChange={(e) => set({ denies: e.target.checked })}>
            deny it: a deny always wins
          </Checkbox>
        )}
        {prerequisites.length > 0 && !existing && (
          <Checkbox
            checked={withPrerequisites}
            onChange={(e) => setWithPrerequisites(e.target.checked)}
          >
            with what it asks for before: {prerequisites.map((it) => it.name).join(", ")}, in the
            same scope
          </Checkbox>
        )}
        <h3>Where</h3>
        <ScopeBuilder label="Where" scope={plan.scope} onChange={(it) => set({ scope: it })} />
        <details open={plan.viewScope.length > 0}>
          <summary>For viewing, wider</summary>
          <p className="note">Here it gives only permissions of class view.</p>
          <ScopeBuilder
            label="Where for viewing"
            scope={plan.viewScope}
            onChange={(it) => set({ viewScope: it })}
          />
        </details>
        {everything && (
          <Checkbox
            checked={confirmed === scopes}
            onChange={(e) => setConfirmed(e.target.checked ? scopes : "")}
          >
            This covers everything, in every account, now and later. Confirm to continue.
          </Checkbox>
        )}
        <h3>When and how</h3>
        <p className="composer-when">
          <label>
            from{" "}
            <input
              type="date"
              className="plain-input"
              value={plan.from}
              onChange={(e) => set({ from: e.target.value })}
            />
          </label>{" "}
          <label>
            until{" "}
            <input
              type="date"
              className="plain-input"
              value={plan.until}
              onChange={(e) => set({ until: e.target.value })}
            />
          </label>
        </p>
        <Checkbox checked={plan.justInTime} onChange={(e) => set({ justInTime: e.target.checked })}>
          just-in-time: they switch it on when they need it
        </Checkbox>
        <Checkbox
          checked={plan.crossesSeals}
          onChange={(e) => set({ crossesSeals: e.target.checked })}
        >
          crosses seals: reaches into whatever is sealed off below, too
        </Checkbox>
        {edit.isError && <ProblemNote problem={edit.error} />}
      </div>
    </Modal>
  );
}

/** The roles that a role asks for before, by name. */
function usePrerequisites(role: string): Named[] {
  const page = useRolePage(role);
  const roles = useThings("roles", { limit: 1000 }, role !== "");
  const keys = (page.data?.role.thing as { prerequisites?: string[] } | undefined)?.prerequisites;
  return (keys ?? []).map((key) => ({
    ref: `role:${key}`,
    name: roles.data?.things.find((it) => it.key === key)?.name ?? key,
  }));
}

const SUBJECTS = [
  { value: "groups", label: "a group" },
  { value: "principals", label: "a person or service" },
  { value: "patterns", label: "whoever has a pattern" },
  { value: "accounts", label: "whoever is of an account" },
  { value: "signed-in", label: "whoever is signed in" },
  { value: "anyone", label: "anyone, signed in or not" },
];

interface SubjectProps {
  without: string[];
  onChoose: (subject: Named) => void;
}

export function SubjectPicker({ without, onChoose }: SubjectProps) {
  const [kind, setKind] = useState("");
  const [text, setText] = useState("");
  const people = useThings("principals", { text, limit: 40 }, kind === "principals");
  if (kind === "principals") {
    const found = people.data?.things ?? [];
    const refOf = (it: (typeof found)[number]) => `${textOf(it.thing, "kind")}:${it.key ?? ""}`;
    return (
      <Choose
        label="Person or service"
        onType={setText}
        waiting={people.isFetching}
        options={found
          .filter((it) => !without.includes(refOf(it)))
          .map((it) => ({ value: refOf(it), label: it.name, note: it.account }))}
        onChoose={(ref) =>
          onChoose({ ref, name: found.find((it) => refOf(it) === ref)?.name ?? ref })
        }
      />
    );
  }
  if (kind === "") {
    return (
      <Choose
        label="Who"
        options={SUBJECTS}
        onChoose={(value) => {
          const fixed = SUBJECTS.find((it) => it.value === value);
          if (value === "signed-in" || value === "anyone") {
            onChoose({ ref: value, name: fixed?.label ?? value });
          } else setKind(value);
        }}
      />
    );
  }
  return (
    <ThingPicker
      kind={kind}
      prefix={kind.slice(0, -1) + ":"}
      label="Who"
      without={without}
      onChoose={(ref, name) => onChoose({ ref, name })}
    />
  );
}

const GIVES = [
  { value: "roles", label: "a role" },
  { value: "permissionSets", label: "a permission set" },
  { value: "permissions", label: "a single permission" },
];

const PREFIX: Record<string, string> = {
  roles: "role:",
  permissionSets: "set:",
  permissions: "permission:",
};

export function GivesPicker({ onChoose }: { onChoose: (gives: Named) => void }) {
  const [kind, setKind] = useState("");
  return kind === "" ? (
    <Choose label="What" options={GIVES} onChoose={setKind} />
  ) : (
    <ThingPicker
      kind={kind}
      prefix={PREFIX[kind] ?? ""}
      label="What"
      onChoose={(ref, name) => onChoose({ ref, name })}
    />
  );
}
