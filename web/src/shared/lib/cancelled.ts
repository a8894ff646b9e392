/** Says that a person thought better of an act before anything was sent. */
export class Cancelled extends Error {}
