import { useEffect, useRef } from "react";
import { useNavigate } from "react-router";

/** `/` search, `g` and a letter to go, `?` the rest. */
export function useShortcuts(self: string, onHelp: () => void) {
  const navigate = useNavigate();
  const before = useRef("");
  useEffect(() => {
    function press(event: KeyboardEvent) {
      const target = event.target as HTMLElement;
      if (
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        target.matches("input, textarea, select, [contenteditable]")
      ) {
        return;
      }
      const pages: Record<string, string> = {
        p: "/people",
        a: "/ask",
        r: "/rights",
        l: "/places",
        c: "/checks",
        t: "/trail",
        d: "/drafts/open",
        y: self,
      };
      const page = before.current === "g" ? pages[event.key] : undefined;
      before.current = event.key;
      if (page) void navigate(page);
      else if (event.key === "?") onHelp();
      else if (event.key === "/") {
        event.preventDefault();
        document.getElementById("search")?.focus();
      }
    }
    document.addEventListener("keydown", press);
    return () => document.removeEventListener("keydown", press);
  }, [navigate, self, onHelp]);
}
