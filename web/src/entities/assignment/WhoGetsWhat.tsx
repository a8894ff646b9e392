import { Tag } from "antd";
import { GrantPicker } from "@/entities/subject/GrantPicker";
import { SubjectPicker } from "@/entities/subject/SubjectPicker";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import styles from "./Composer.module.css";
import type { Plan } from "./model";

interface Props {
  plan: Plan;
  /** An existing assignment keeps its subject. */
  fixed: boolean;
  onChange: (changes: Partial<Plan>) => void;
}

/** The sentence of an assignment: who gets what. */
export function WhoGetsWhat({ plan, fixed, onChange }: Props) {
  const { subjects, gives } = plan;
  const many = subjects.length > 1;
  const verb = plan.denies ? (many ? "are denied" : "is denied") : many ? "get" : "gets";
  return (
    <p className={styles["sentence"]}>
      {subjects.map((it) => (
        <Tag
          key={it.ref}
          {...(!fixed && {
            closable: { "aria-label": `Remove ${it.name}` },
            onClose: (event) => {
              event.preventDefault();
              onChange({ subjects: subjects.filter((each) => each !== it) });
            },
          })}
        >
          {it.name}
        </Tag>
      ))}{" "}
      {!fixed && (
        <InlinePicker
          label="Who"
          look={subjects.length === 0 ? "word" : "link"}
          value={subjects.length === 0 ? "who" : "Add"}
          picker={(close) => (
            <SubjectPicker
              without={subjects.map((it) => it.ref)}
              onChoose={(it) => {
                onChange({ subjects: [...subjects, it] });
                close();
              }}
            />
          )}
        />
      )}{" "}
      {verb}{" "}
      <InlinePicker
        label="What"
        value={gives?.name ?? "what"}
        picker={(close) => (
          <GrantPicker
            onChoose={(it) => {
              onChange({ gives: it, ...(!it.ref.startsWith("permission:") && { denies: false }) });
              close();
            }}
          />
        )}
      />
    </p>
  );
}
