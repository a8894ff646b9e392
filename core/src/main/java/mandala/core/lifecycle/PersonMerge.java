package mandala.core.lifecycle;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.core.change.Change;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Guest;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import org.jspecify.annotations.Nullable;

/**
 * Two records that are one person become one: what ties the one is the other's, and its record
 * goes. Where both say something of which there is one, the record that stays says it.
 */
public final class PersonMerge {

  private final Principal kept;
  private final Principal gone;
  private final Ties has;
  private final Ties hands;
  private final TieChanges changes;
  private final Catalogue in;

  private PersonMerge(Catalogue in, Principal kept, Principal gone) {
    this.in = in;
    this.kept = kept;
    this.gone = gone;
    this.has = Ties.of(in, kept);
    this.hands = Ties.of(in, gone);
    this.changes = new TieChanges(in);
  }

  /**
   * {@return the changes that merge one record into another}, the removal among them
   *
   * @throws IllegalArgumentException if they are one, or of two kinds
   */
  public static List<Change> of(Catalogue in, Principal kept, Principal gone) {
    if (kept.key().equals(gone.key())) {
      throw new IllegalArgumentException("A record merges with another one, not with itself");
    }
    if (kept.kind() != gone.kind()) {
      throw new IllegalArgumentException("A person and a service are never one");
    }
    return new PersonMerge(in, kept, gone).changes();
  }

  private List<Change> changes() {
    changes.alter(kept, _ -> merged());
    for (Tie it : hands.all()) {
      if (isHad(it)) {
        it.end(changes, gone);
      } else if (!(it instanceof Tie.Follows)) {
        it.hand(changes, gone, kept);
      }
    }
    changes.remove(gone);
    return changes.all();
  }

  /** What the kept record has as well, or can't have, ends instead of being there twice. */
  private boolean isHad(Tie tie) {
    return switch (tie) {
      case Tie.Assigned(Assignment it) ->
          has.all().stream()
              .anyMatch(
                  its -> its instanceof Tie.Assigned(Assignment same) && saysTheSame(same, it));
      case Tie.GuestOf(Guest it, int _) ->
          has.all().stream()
              .anyMatch(its ->
                  its instanceof Tie.GuestOf(Guest same, int _)
                      && same.account().equals(it.account())
                      && same.window().equals(it.window())
                      && same.withSubaccounts() == it.withSubaccounts());
      case Tie.Activated _ -> true;
      default -> false;
    };
  }

  private static boolean saysTheSame(Assignment one, Assignment other) {
    return one.gives().equals(other.gives())
        && one.effect() == other.effect()
        && one.scope().equals(other.scope())
        && one.viewScope().equals(other.viewScope())
        && one.window().equals(other.window())
        && one.mode() == other.mode()
        && one.crossesSeals() == other.crossesSeals();
  }

  /** The facts of the kept record, with what only the other one says. */
  private Principal merged() {
    Map<String, String> attributes = new HashMap<>(gone.attributes());
    attributes.putAll(kept.attributes());
    boolean sameHome = kept.account().equals(gone.account());
    return new Principal(
        kept.key(),
        kept.about(),
        kept.kind(),
        kept.account(),
        kept.unit() == null && sameHome ? gone.unit() : kept.unit(),
        manager(),
        kept.status(),
        kept.window(),
        kept.mfa(),
        attributes,
        kept.pattern() == null ? gone.pattern() : kept.pattern(),
        reach(),
        kept.email() == null ? gone.email() : kept.email(),
        later(),
        other(kept.sponsor() == null ? gone.sponsor() : kept.sponsor(), gone.sponsor()));
  }

  /** Nobody reports to themselves, or answers for themselves. */
  private @Nullable PrincipalKey other(@Nullable PrincipalKey it, @Nullable PrincipalKey instead) {
    PrincipalKey one = gone.key().equals(it) ? instead : it;
    return kept.key().equals(one) || gone.key().equals(one) ? null : one;
  }

  /** Whom the kept record reports to: of the two managers the first who does not report to it. */
  private @Nullable PrincipalKey manager() {
    for (PrincipalKey it : candidates(kept, gone)) {
      if (!isUnder(it)) {
        return it;
      }
    }
    return null;
  }

  private static List<PrincipalKey> candidates(Principal... of) {
    List<PrincipalKey> all = new ArrayList<>();
    for (Principal it : of) {
      if (it.manager() != null) {
        all.add(it.manager());
      }
    }
    return all;
  }

  /** {@return whether somebody is one of the two records, or reports to one of them} */
  private boolean isUnder(PrincipalKey it) {
    for (Principal at = in.principals().get(it); at != null; ) {
      if (at.key().equals(kept.key()) || at.key().equals(gone.key())) {
        return true;
      }
      at = at.manager() == null ? null : in.principals().get(at.manager());
    }
    return false;
  }

  private List<Principal.Reach> reach() {
    List<Principal.Reach> all = new ArrayList<>(kept.reach());
    for (Principal.Reach more : gone.reach()) {
      if (kept.reach().stream().noneMatch(it -> it.unit().equals(more.unit()))) {
        all.add(more);
      }
    }
    return all;
  }

  private @Nullable Instant later() {
    Instant one = kept.lastSeen();
    Instant other = gone.lastSeen();
    return one == null || (other != null && other.isAfter(one)) ? other : one;
  }
}
