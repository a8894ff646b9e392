import { useEffect, useRef } from "react";
import { useNavigate } from "react-router";

const PAGES: Record<string, string> = {
  p: "/people",
  a: "/ask",
  r: "/rights",
  l: "/places",
  c: "/checks",
  t: "/trail",
  d: "/drafts/open",
  y: "/you",
};

/** `/` to search, `g` and a letter to go to a page, `?` for help. Off while one types. */
export function useShortcuts(onHelp: () => void) {
  const navigate = useNavigate();
  const before = useRef("");
  const help = useRef(onHelp);
  useEffect(() => {
    help.current = onHelp;
  });
  useEffect(() => {
    function press(event: KeyboardEvent) {
      const { target } = event;
      const typing =
        target instanceof Element && target.matches("input, textarea, select, [contenteditable]");
      if (event.ctrlKey || event.metaKey || event.altKey || typing) return;
      const page = before.current === "g" ? PAGES[event.key] : undefined;
      before.current = event.key;
      if (page) void navigate(page);
      else if (event.key === "?") help.current();
      else if (event.key === "/") {
        event.preventDefault();
        document.getElementById("search")?.focus();
      }
    }
    document.addEventListener("keydown", press);
    return () => document.removeEventListener("keydown", press);
  }, [navigate]);
}
