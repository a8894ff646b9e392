import { useDemoPeople } from "@/entities/session";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import styles from "./SignInForm.module.css";

type DemoPerson = NonNullable<ReturnType<typeof useDemoPeople>["data"]>[number];

/** The demo's people, to sign in as one of them. */
export function DemoPeople({ onChoose }: { onChoose: (person: DemoPerson) => void }) {
  const people = useDemoPeople(true);
  return (
    <section className={styles["people"]} aria-label="Demo people">
      <h2>This is the demo. Choose a person:</h2>
      {people.isError && <ProblemAlert problem={people.error} />}
      <ul>
        {people.data?.map((person) => (
          <li key={person.key}>
            <button type="button" data-person={person.key} onClick={() => onChoose(person)}>
              <strong>{person.name}</strong> <span>{person.title}</span>
              <small>{person.about}</small>
              {person.code && (
                <code>
                  <span className="hidden-text">Current code: </span>
                  {person.code}
                </code>
              )}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
