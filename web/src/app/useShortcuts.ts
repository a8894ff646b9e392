import { useEffect, useRef } from "react";
import { useNavigate } from "react-router";

const PAGES: Record<string, string> = {
  p: "/people",
  a: "/ask",
  r: "/rights",
  l: "/places",
  c: "/checks",
  v: "/reviews",
  t: "/trail",
  d: "/drafts/open",
  y: "/you",
};

/** Where a key belongs to what has the focus: fields, pickers, menus and dialogs. */
const BUSY = [
  "input:not([type=checkbox]), textarea, select, [contenteditable]",
  "[role=combobox], [role=listbox], [role=menu], [role=dialog], .ant-modal, .ant-popover",
].join(", ");

/** `/` to search, `g` and a letter to go to a page, `?` for help. Off while a field or dialog is. */
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
      const busy =
        event.defaultPrevented || (target instanceof Element && target.closest(BUSY) !== null);
      if (event.ctrlKey || event.metaKey || event.altKey || busy) {
        before.current = "";
        return;
      }
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
