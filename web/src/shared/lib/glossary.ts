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
  exposure:
    "Exposure adds up what somebody can do: 1 for each right of low risk, 3 for moderate, 10 for high, 30 for critical.",
  "not observed":
    "A right is not observed where no source reports its use over the whole window. It may be used, so it is never called unused.",
  "view scope":
    "A view scope is a wider place where an assignment gives only its view permissions.",
} as const;

export type GlossaryWord = keyof typeof GLOSSARY;
