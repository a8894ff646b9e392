/** Which question answers what; the Help panel shows it. */
export const QUESTIONS: { ask: string; to: string; when: string }[] = [
  { ask: "What can they do?", to: "/ask", when: "You want one person’s whole access." },
  {
    ask: "Who can?",
    to: "/ask/who",
    when: "You want everyone who holds a permission on a resource.",
  },
  {
    ask: "Why, or why not?",
    to: "/ask/why",
    when: "You know the person and the permission, and want the routes.",
  },
  { ask: "How could they get it?", to: "/ask/escalation", when: "You look for escalation paths." },
  {
    ask: "How do they differ?",
    to: "/ask/differ",
    when: "You compare two people, roles, dates or revisions.",
  },
  { ask: "Side by side", to: "/side", when: "You want to see Mandala as two people see it." },
];

/** The keyboard shortcuts, in the order of the Help panel. */
export const KEYS: [keys: string, does: string][] = [
  ["/", "Search"],
  ["g p", "Go to People"],
  ["g r", "Go to Rights"],
  ["g l", "Go to Places"],
  ["g a", "Go to Ask"],
  ["g c", "Go to Checks"],
  ["g v", "Go to Reviews"],
  ["g t", "Go to Trail"],
  ["g d", "Go to your open draft"],
  ["g y", "Go to your own access"],
  ["?", "Open Help"],
  ["Esc", "Close what is open"],
];
