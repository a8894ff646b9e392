import { Link } from "react-router";
import { Mandala } from "@/entities/access/Mandala";
import { questionAbout } from "@/entities/access/model";
import { useAccess } from "@/entities/access/queries";
import { useWho, type Who } from "@/entities/session";
import { usePersonPage } from "@/entities/thing/queries";
import { impersonation } from "@/shared/lib/impersonation";
import { count, listed } from "@/shared/lib/words";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Term } from "@/shared/ui/Term";
import { Holdings } from "../components/Holdings";
import { YouTabs } from "../components/YouTabs";
import { endsSoon, heldIn } from "../model";
import styles from "./YouPage.module.css";

function factorInWords(who: Who): string {
  if (!who.enrolled) return "no second factor enrolled";
  return who.secondFactor
    ? "signed in with a second factor"
    : "signed in without your second factor, so what requires it is not available now";
}

/** What the signed-in person can do, through which assignments, and what ends soon. */
export function YouPage() {
  const who = useWho();
  const at = impersonation()?.at ?? "";
  const question = questionAbout(who.key, { at, factor: who.secondFactor });
  const access = useAccess(question, true);
  const page = usePersonPage(who.key);
  if (access.isPending || page.isPending) return <Loading what="your access" rows={10} />;
  if (access.isError) {
    return <ProblemAlert problem={access.error} onRetry={() => void access.refetch()} />;
  }
  if (page.isError) {
    return <ProblemAlert problem={page.error} onRetry={() => void page.refetch()} />;
  }
  const names = new Map(access.data.permissions.map((it) => [it.key, it.name]));
  const held = heldIn(access.data.regions, names);
  const now = at ? new Date(at) : new Date();
  const soon = page.data.assignments.filter((it) => endsSoon(it.until, now));
  const { groups } = page.data;
  return (
    <>
      <YouTabs active="/you" />
      <PageHead
        title={who.name}
        facts={[who.title, count(access.data.figure.rights, "right"), factorInWords(who)]}
        actions={
          <Link
            to={`/ask?who=${encodeURIComponent(who.key)}${who.secondFactor ? "&factor=1" : ""}`}
          >
            See each right and why you have it
          </Link>
        }
      />
      <div className={styles["parts"]}>
        <section aria-label="What you can do">
          <h2 className="part">What you can do</h2>
          {held.length === 0 && (
            <p className="note">You have no access yet. Ask your manager for what you need.</p>
          )}
          <dl className={styles["held"]}>
            {held.map((it) => (
              <div key={it.resource + it.place}>
                <dt>{it.place}</dt>
                <dd>{it.allowed.join(", ")}</dd>
              </div>
            ))}
          </dl>
        </section>
        <figure>
          <Mandala figure={access.data.figure} size={260} label={`Access of ${who.name}`} />
          <figcaption className="note">
            Your <Term word="mandala" />
          </figcaption>
        </figure>
      </div>
      <h2 className="part">How you have this access</h2>
      <Holdings assignments={page.data.assignments} none="Nothing is assigned to you." />
      {groups.length > 0 && (
        <p className="note">
          You are in {count(groups.length, "group")}: {listed(groups.map((it) => it.name))}.
        </p>
      )}
      <h2 className="part">Ends within a month</h2>
      <Holdings assignments={soon} none="Nothing ends within a month." />
    </>
  );
}
