import { useLocation } from "react-router";
import { PageTabs } from "@/shared/ui/PageTabs";
import { carriedTo } from "../model";

const TABS = [
  { to: "/ask", label: "What can they do" },
  { to: "/ask/who", label: "Who can" },
  { to: "/ask/why", label: "Why, or why not" },
  { to: "/ask/escalation", label: "How could they get it" },
  { to: "/ask/differ", label: "How do they differ" },
  { to: "/side", label: "Side by side" },
];

/** The forms of question; each begins with person, permission, place, date and factor of the last. */
export function QuestionTabs() {
  const { pathname, search } = useLocation();
  const params = new URLSearchParams(search);
  return (
    <PageTabs
      label="Questions"
      active={pathname}
      tabs={TABS.map(({ to, label }) => ({
        to,
        label,
        search: to === pathname ? search : carriedTo(to, pathname, params),
      }))}
    />
  );
}
