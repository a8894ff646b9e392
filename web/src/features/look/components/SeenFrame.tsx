import { useEffect } from "react";
import { api } from "../../../api/client";
import { eyes, leave } from "../../../lib/eyes";
import { when } from "../../../lib/words";
import type { Who } from "../../session";

/** Ends the view on the server, too; whatever becomes of that, one looks as oneself again. */
async function end(key: string) {
  await api
    .DELETE("/api/views/{principal}", { params: { path: { principal: key } } })
    .catch(() => undefined);
  leave(`/people/${encodeURIComponent(key)}`);
}

/** The frame of an impersonated view: on every page, at every width, and one key leaves it. */
export function SeenFrame({ who, by }: { who: Who; by: Who }) {
  const whose = eyes();
  const framed = window.parent !== window;
  useEffect(() => {
    document.body.classList.add("seen");
    function press(event: KeyboardEvent) {
      const target = event.target as HTMLElement;
      if (event.key === "x" && !target.matches("input, textarea, select")) {
        void end(who.key);
      }
    }
    document.addEventListener("keydown", press);
    return () => {
      document.body.classList.remove("seen");
      document.removeEventListener("keydown", press);
    };
  }, [who.key]);
  return (
    <div className="seen-bar" role="status">
      <span>
        What <strong>{who.name}</strong> would see
        {whose?.factor ? " with a second factor" : " without a second factor"}
        {whose?.at && ` on ${when(whose.at)}`}. Nothing can be changed. You are {by.name}.
      </span>
      {!framed && (
        <button type="button" onClick={() => void end(who.key)}>
          leave <kbd>x</kbd>
        </button>
      )}
    </div>
  );
}
