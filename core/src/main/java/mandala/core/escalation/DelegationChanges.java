package mandala.core.escalation;

import java.util.ArrayList;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.model.About;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Principal;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.DelegationKey;

/** How somebody comes to act for another who has what is wanted. */
final class DelegationChanges {

  private final CandidateChanges candidates;

  DelegationChanges(CandidateChanges candidates) {
    this.candidates = candidates;
  }

  /** {@return a delegation of everything by each holder}, and being a guest where the holder is */
  List<CandidateChange> toward(Goal goal, List<Principal> holders) {
    List<CandidateChange> found = new ArrayList<>();
    for (Principal holder : holders) {
      boolean belongs = candidates.belongsTo(holder.account());
      boolean delegated =
          candidates.catalogue.delegations().values().stream().anyMatch(it -> lets(it, holder));
      if (!delegated) {
        found.add(new CandidateChange(new Change.Added(delegation(holder)), belongs ? 1 : 2, null));
      } else if (!belongs) {
        found.add(new CandidateChange(candidates.guest(holder.account()), 1, null));
      }
    }
    return found;
  }

  private boolean lets(Delegation it, Principal holder) {
    return it.principal().equals(holder.key())
        && it.delegate().equals(candidates.who.key())
        && it.limit() instanceof Delegation.Limit.All
        && it.scope().equals(EVERYTHING)
        && it.window().holdsAt(candidates.at);
  }

  private static final List<Clause> EVERYTHING = List.of(Clause.of(new Term.Everything()));

  private Delegation delegation(Principal holder) {
    String stem = candidates.who.key().value() + ".for." + holder.key().value();
    DelegationKey key = new DelegationKey(stem);
    for (int n = 2; candidates.catalogue.delegations().containsKey(key); n++) {
      key = new DelegationKey(stem + "." + n);
    }
    return new Delegation(
        key,
        About.NONE,
        holder.key(),
        candidates.who.key(),
        new Delegation.Limit.All(),
        EVERYTHING,
        Window.ALWAYS);
  }
}
