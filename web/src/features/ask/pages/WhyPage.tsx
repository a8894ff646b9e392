import { useSearchParams } from "react-router";
import { Choose } from "../../../components/Choose";
import { Field } from "../../../components/Field";
import { ThingPicker } from "../../../components/ThingPicker";
import { PlacePicker } from "../../places/components/PlacePicker";
import { AskParts } from "../components/AskParts";
import { PersonPicker, WhenPicker } from "../components/QuestionLine";
import { RoutesPanel } from "../components/RoutesPanel";
import { momentInWords, questionOf } from "../model";
import { useRoutes } from "../queries";

/** Why somebody can do something somewhere, or why not. */
export function WhyPage({ self }: { self: string }) {
  const [params, setParams] = useSearchParams();
  const question = questionOf(params, self, "");
  const permission = params.get("permission") ?? "";
  const on = params.get("on") ?? "";
  const whole = permission !== "" && on !== "";
  function set(changes: Record<string, string>) {
    const next = new URLSearchParams(params);
    for (const [name, value] of Object.entries(changes)) {
      if (value) next.set(name, value);
      else next.delete(name);
    }
    setParams(next);
  }
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
        on{" "}
        <Field
          label="When"
          value={momentInWords(question.at)}
          picker={(close) => (
            <WhenPicker
              at={question.at}
              onChoose={(at) => {
                set({ at });
                close();
              }}
            />
          )}
        />
        , signed in{" "}
        <span className="keep">
          <Field
            label="Second factor"
            value={question.factor ? "with a second factor" : "without a second factor"}
            picker={(close) => (
              <Choose
                label="Signed in"
                options={[
                  { value: "1", label: "with a second factor" },
                  { value: "", label: "without a second factor" },
                ]}
                onChoose={(factor) => {
                  set({ factor });
                  close();
                }}
              />
            )}
          />
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
