import { questionOf } from "@/entities/access/model";
import { useRoutes } from "@/entities/access/queries";
import { RoutesPanel } from "@/entities/access/RoutesPanel";
import { PlaceField } from "@/entities/place/PlaceField";
import { useWho } from "@/entities/session";
import { PersonField } from "@/entities/subject/PersonField";
import { ThingField } from "@/entities/thing/ThingField";
import { useAddress } from "@/shared/lib/useAddress";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Keep, Sentence } from "@/shared/ui/Sentence";
import { Term } from "@/shared/ui/Term";
import { QuestionTabs } from "../components/QuestionTabs";
import { FactorField, WhenField } from "../components/SessionFields";

/** Why somebody can do something somewhere, or why not. */
export function WhyPage() {
  const who = useWho();
  const [params, set] = useAddress();
  const question = questionOf(params, who.key, "");
  const permission = params.get("permission") ?? "";
  const on = params.get("on") ?? "";
  const whole = permission !== "" && on !== "";
  const names = useRoutes(question, permission, on, whole).data;
  return (
    <>
      <QuestionTabs />
      <Sentence>
        Why can or can’t{" "}
        <PersonField
          label="Who"
          value={names?.principal.name ?? question.who}
          current={question.who}
          onChoose={(it) => set({ who: it })}
        />{" "}
        use{" "}
        <ThingField
          label="What"
          value={names?.permission.name ?? (permission || "a permission")}
          search="Permission"
          kind="permissions"
          onChoose={(it) => set({ permission: it })}
        />{" "}
        on{" "}
        <PlaceField
          label="Where"
          value={names?.resource.name ?? (on || "a resource")}
          search="Place"
          onChoose={(it) => set({ on: it })}
        />{" "}
        <WhenField at={question.at} onChoose={(at) => set({ at })} />, signed in{" "}
        <Keep>
          <FactorField factor={question.factor} onChoose={(it) => set({ factor: it ? "1" : "" })} />
          ?
        </Keep>
      </Sentence>
      {whole ? (
        <RoutesPanel question={question} permission={permission} resource={on} />
      ) : (
        <EmptyState>
          Choose a permission and a resource. The answer lists every <Term word="route" /> that
          grants it, and every one that is not in effect, with the reason.
        </EmptyState>
      )}
    </>
  );
}
