/** The pages of people and of groups, which share their tabs. */
export const SUBJECT_TABS = [
  { to: "/people", label: "People" },
  { to: "/groups", label: "Groups" },
];
