import { useEffect } from "react";
import { Button } from "antd";
import type { Who } from "@/entities/session";
import { api } from "@/shared/api/client";
import { impersonation, leave } from "@/shared/lib/impersonation";
import { dateOf } from "@/shared/lib/words";
import styles from "./ImpersonationBar.module.css";

/** Ends the view on the server too; even if that fails, this window leaves it. */
async function end(key: string) {
  await api
    .DELETE("/api/views/{principal}", { params: { path: { principal: key } } })
    .catch(() => undefined);
  leave(`/people/${encodeURIComponent(key)}`);
}

/** Marks an impersonated view on every page; `x` leaves it. */
export function ImpersonationBar({ who, by }: { who: Who; by: Who }) {
  const view = impersonation();
  const framed = window.parent !== window;
  useEffect(() => {
    function press(event: KeyboardEvent) {
      const { target } = event;
      const typing = target instanceof Element && target.matches("input, textarea, select");
      if (event.key === "x" && !typing) void end(who.key);
    }
    document.addEventListener("keydown", press);
    return () => document.removeEventListener("keydown", press);
  }, [who.key]);
  return (
    <div className={styles["bar"]} role="status">
      <span>
        You see what <strong>{who.name}</strong> would see
        {view?.factor ? " with a second factor" : " without a second factor"}
        {view?.at && ` on ${dateOf(view.at)}`}. You can't change anything. You are {by.name}.
      </span>
      {!framed && (
        <Button ghost size="small" onClick={() => void end(who.key)}>
          Leave this view <kbd>x</kbd>
        </Button>
      )}
    </div>
  );
}
