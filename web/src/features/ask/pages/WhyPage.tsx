import { Field } from "../../../components/Field";
import { ThingPicker } from "../../../components/ThingPicker";
import { PlacePicker } from "../../places/components/PlacePicker";
import { useAddress } from "../../../lib/useAddress";
import { AskParts } from "../components/AskParts";
import { PersonPicker } from "../components/QuestionLine";
import { FactorField, WhenField } from "../components/SessionFields";
import { RoutesPanel } from "../components/RoutesPanel";
import { questionOf } from "../model";
import { useRoutes } from "../queries";

/** Why somebody can do something somewhere, or why not. */
export function WhyPage({ self }: { self: string }) {
  const [params, set] = useAddress();
  const question = questionOf(params, self, "");
  const permission = params.get("permission") ?? "";
  const on = params.get("on") ?? "";
  const whole = permission !== "" && on !== "";
  const names = useRoutes(question, permission, on, whole).data;
  return (
    <>
      <AskParts />
      <h1 className="sentence">
        Why can, or can’t,{" "}
        <Field
          label="Who"
          value={names?.principal.name ?? question.who}
          picker={(close) => (
            <PersonPicker
              label="Somebody"
              value={question.who}
              onChoose={(who) => {
                set({ who });
                close();
              }}
            />
          )}
        />{" "}
        do{" "}
        <Field
          label="What"
          value={names?.permission.name ?? (permission || "what")}
          picker={(close) => (
            <ThingPicker
              kind="permissions"
              label="Permission"
              onChoose={(it) => {
                set({ permission: it });
                close();
              }}
            />
          )}
        />{" "}
        on{" "}
        <Field
          label="Where"
          value={names?.resource.name ?? (on || "which place")}
          picker={(close) => (
            <PlacePicker
              label="Place"
              onChoose={(it) => {
                set({ on: it });
                close();
              }}
            />
          )}
        />{" "}
        on <WhenField at={question.at} onChoose={(at) => set({ at })} />, signed in{" "}
        <span className="keep">
          <FactorField factor={question.factor} onChoose={(it) => set({ factor: it ? "1" : "" })} />
          ?
        </span>
      </h1>
      {whole ? (
        <RoutesPanel question={question} permission={permission} resource={on} />
      ) : (
        <div className="empty">
          <p>
            Choose what and where. The answer is every route that gives it, or would and does not.
          </p>
        </div>
      )}
    </>
  );
}
