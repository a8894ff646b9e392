/** Mandala's own words, each in one plain sentence. The Help panel lists them all. */
export const GLOSSARY = {
  account: "An account is a part of the organisation that owns resources and is home to people.",
  seal: "A seal keeps out assignments that come from above, unless they say that they cross seals.",
  gate: "A gate is a permission that must be usable before another one works, such as opening a desk before editing its loans.",
  reach: "Reach lists further units that an assignment to “their own unit” covers for one person.",
  bridge: "A bridge gives a group of one account access in another account, for a time.",
  pattern: "A pattern is the starting point for people of one job; assignments can name it.",
  draft: "A draft collects your changes. Nothing takes effect until you apply it.",
  revision: "A revision is one numbered version of the model, made each time a draft is applied.",
  trail: "The trail records who did what and when, and shows whether a record was altered.",
  route: "A route leads from a person to a permission: group, assignment, role, set and scope.",
  exclusion:
    "An exclusion lists permissions that one person must not hold together (separation of duties).",
  expectation:
    "An expectation is a statement about access that must stay true, checked at every revision.",
  mandala:
    "The mandala shows one person’s access: a sector for each area; rings for view, change and administer; darker means riskier.",
  "just-in-time":
    "A just-in-time assignment gives nothing until its holder activates it, and ends by itself.",
  delegation: "A delegation lets one person act for another, within limits and for a time.",
  "impersonated view":
    "An impersonated view shows Mandala as another person sees it. It can’t change anything and is recorded in the trail.",
  "escalation path":
    "An escalation path is a series of changes by which somebody could give themselves an access they don’t have.",
  "view scope":
    "A view scope is a wider place where an assignment gives only its view permissions.",
} as const;

export type GlossaryWord = keyof typeof GLOSSARY;

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
  ["g t", "Go to Trail"],
  ["g d", "Go to your open draft"],
  ["g y", "Go to your own access"],
  ["?", "Open Help"],
  ["Esc", "Close what is open"],
];
