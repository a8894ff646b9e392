import type { DraftView } from "@/entities/draft/queries";

/** A change of the fixture. */
export const change = {
  kind: "groups",
  kindName: "groups",
  key: "guards",
  name: "Guards",
  act: "alters",
  sentences: ["Ada Finch joins Guards"],
  refusals: [],
};

/** A draft as the server tells it, one's own, with one change. */
export function draft(more: object = {}): DraftView {
  return {
    id: "d1",
    name: "Night shift",
    owner: { key: "ilse", name: "Ilse Varga" },
    mine: true,
    proposedName: "",
    needs: { reason: false, reference: false },
    restorable: false,
    requests: [],
    state: "open",
    version: 1,
    base: 38,
    revision: 38,
    changedAt: "2026-11-28T09:00:00Z",
    content: "abcdef0123456789",
    changes: [change],
    clashes: [],
    faults: [],
    refusals: [],
    reasons: [],
    approvals: [],
    approvers: [],
    appliers: [],
    mayApprove: false,
    judging: false,
    comments: [],
    ...more,
  };
}
