import { useEffect, useState } from "react";
import { Button, Checkbox } from "antd";
import { useMutation } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { answerOf, api } from "../../../api/client";
import { ProblemNote } from "../../../components/ProblemNote";
import { Waiting } from "../../../components/Waiting";
import { instantOf, ThingName } from "../../model";
import { nameOf } from "../../../lib/eyes";

/** Begins an impersonated view, after a notice; in a frame of one that gave it already, at once. */
export function LookPage() {
  const [params] = useSearchParams();
  const key = params.get("as") ?? "";
  const framed = window.parent !== window;
  const [factor, setFactor] = useState(params.get("factor") === "1");
  const [day, setDay] = useState("");
  const begin = useMutation({
    mutationFn: () => answerOf(api.POST("/api/views", { body: { principal: key } })),
    onSuccess: () => {
      const at = day ? instantOf(day) : (params.get("at") ?? undefined);
      window.name = nameOf({ key, factor, ...(at && { at }) });
      window.location.replace(params.get("to") ?? "/you");
    },
  });
  const { mutate } = begin;
  useEffect(() => {
    if (framed) mutate();
  }, [framed, mutate]);
  if (framed && !begin.isError) return <Waiting what="the view" />;
  return (
    <main className="notice">
      <h1>
        See Mandala as <ThingName kind="principals" reference={key} /> would
      </h1>
      <p>
        You will see what they see and nothing else. Nothing can be changed there. That you looked,
        and with whose eyes, stands in the trail.
      </p>
      {!framed && (
        <>
          <p>
            <Checkbox checked={factor} onChange={(event) => setFactor(event.target.checked)}>
              as if signed in with their second factor, where they are enrolled
            </Checkbox>
          </p>
          <p>
            <label>
              on{" "}
              <input
                className="plain-input"
                type="date"
                value={day}
                onChange={(event) => setDay(event.target.value)}
              />{" "}
              <span className="note">today, where none is chosen</span>
            </label>
          </p>
          <p className="acts">
            <Button type="primary" loading={begin.isPending} onClick={() => mutate()}>
              Look
            </Button>
            <Button onClick={() => window.history.back()}>Back</Button>
          </p>
        </>
      )}
      {begin.isError && <ProblemNote problem={begin.error} />}
    </main>
  );
}
