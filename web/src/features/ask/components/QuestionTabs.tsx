import { PageTabs } from "@/shared/ui/PageTabs";

const TABS = [
  { to: "/ask", label: "What can they do" },
  { to: "/ask/who", label: "Who can" },
  { to: "/ask/why", label: "Why, or why not" },
  { to: "/ask/chains", label: "How could they get it" },
  { to: "/ask/differ", label: "How do they differ" },
  { to: "/side", label: "Side by side" },
];

/** The forms of question. */
export function QuestionTabs() {
  return <PageTabs label="Questions" tabs={TABS} />;
}
