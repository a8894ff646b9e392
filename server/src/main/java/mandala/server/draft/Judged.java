package mandala.server.draft;

import java.util.List;
import mandala.core.authority.Authority;
import mandala.core.authority.Refusal;
import mandala.core.authority.SecondPerson;
import mandala.core.change.Draft;
import mandala.core.change.Rebase;
import mandala.core.engine.Engine;
import mandala.core.engine.Session;
import mandala.core.model.Catalogue;
import mandala.core.model.check.Fault;
import mandala.core.model.check.ModelCheck;
import mandala.server.model.LiveModel;
import org.jspecify.annotations.Nullable;

/**
 * All that is to be said of a draft over a state of the model, before its impact.
 *
 * @param state the state that it would change
 * @param rebase the draft carried over to that state
 * @param catalogue the model after it, faulty or not
 * @param after an engine of the model after it, null where it has faults
 * @param faults of the model after it
 * @param authority by which its author is judged
 * @param refusals why the author may not make it
 * @param reasons why a second person must approve
 */
record Judged(
    LiveModel.State state,
    Rebase rebase,
    Catalogue catalogue,
    @Nullable Engine after,
    List<Fault> faults,
    Authority authority,
    List<Refusal> refusals,
    List<SecondPerson.Reason> reasons) {

  /** {@return the judgement of a draft}; what clashes is left out of it */
  static Judged of(LiveModel.State state, Draft kept, Session author) {
    Engine before = state.engine();
    Rebase rebase = Rebase.of(kept, before.catalogue());
    Draft draft = rebase.draft();
    Catalogue catalogue = draft.appliedUnchecked(before.catalogue());
    Engine after = null;
    List<Fault> faults = List.of();
    try {
      after = draft.isEmpty() ? before : before.after(draft.inOrder());
    } catch (IllegalArgumentException e) {
      faults = ModelCheck.faultsOf(catalogue.model());
      if (faults.isEmpty()) {
        faults = List.of(new Fault("$", String.valueOf(e.getMessage()), "Look at the draft again"));
      }
    }
    Authority authority = Authority.of(before, draft, author);
    List<Refusal> refusals = new java.util.ArrayList<>(authority.refusals());
    List<SecondPerson.Reason> reasons = List.of();
    if (after != null && !draft.isEmpty()) {
      refusals.addAll(authority.ownerless(after));
      reasons = SecondPerson.reasons(before, after, draft, author);
    }
    return new Judged(
        state, rebase, catalogue, after, faults, authority, List.copyOf(refusals), reasons);
  }

  Draft draft() {
    return rebase.draft();
  }

  String content() {
    return DraftRow.contentOf(draft());
  }
}
