import { useState } from "react";
import { Button, Checkbox } from "antd";
import { useSearchParams } from "react-router";
import { Field } from "../../../components/Field";
import { ThingName } from "../../model";
import { AskParts } from "../../ask/components/AskParts";
import { PersonPicker } from "../../ask/components/QuestionLine";

/** Two views in one window, so that nobody signs in twice to compare. */
export function SidePage() {
  const [params, setParams] = useSearchParams();
  const left = params.get("left") ?? "";
  const right = params.get("right") ?? "";
  const [factor, setFactor] = useState(false);
  const begun = params.get("begun") === "1";
  function set(changes: Record<string, string>) {
    setParams({ ...Object.fromEntries(params), ...changes });
  }
  return (
    <>
      <AskParts />
      <h1 className="sentence">
        What would{" "}
        <Pick label="Left" value={left} onChoose={(it) => set({ left: it, begun: "" })} /> see
        beside{" "}
        <span className="keep">
          <Pick label="Right" value={right} onChoose={(it) => set({ right: it, begun: "" })} />?
        </span>
      </h1>
      {!begun || !left || !right ? (
        <div className="empty">
          <p>
            Choose two people. You will see what each sees, beside the other; nothing can be changed
            there. That you looked, and with whose eyes, stands in the trail.
          </p>
          <p>
            <Checkbox checked={factor} onChange={(event) => setFactor(event.target.checked)}>
              with their second factors, where they are enrolled
            </Checkbox>
          </p>
          <Button
            type="primary"
            disabled={!left || !right}
            onClick={() => set({ begun: "1", factor: factor ? "1" : "" })}
          >
            Look
          </Button>
        </div>
      ) : (
        <div className="side-by-side">
          {[left, right].map((key, at) => (
            <iframe
              key={`${key} ${at}`}
              title={`What ${key} would see`}
              src={`/look?as=${encodeURIComponent(key)}&factor=${params.get("factor") ?? ""}`}
            />
          ))}
        </div>
      )}
    </>
  );
}

interface PickProps {
  label: string;
  value: string;
  onChoose: (key: string) => void;
}

function Pick({ label, value, onChoose }: PickProps) {
  return (
    <Field
      label={label}
      value={value ? <ThingName kind="principals" reference={value} /> : "whom"}
      picker={(close) => (
        <PersonPicker
          label={label}
          value={value}
          onChoose={(key) => {
            onChoose(key);
            close();
          }}
        />
      )}
    />
  );
}
