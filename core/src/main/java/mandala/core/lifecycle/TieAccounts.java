package mandala.core.lifecycle;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.ResourceCollection;
import mandala.core.model.Term;
import mandala.core.model.Unit;
import mandala.core.model.key.AccountKey;
import org.jspecify.annotations.Nullable;

/** Of which accounts a tie is. */
public final class TieAccounts {

  private TieAccounts() {}

  /** {@return whether a tie is of one account or those below it only, and not of another's} */
  static boolean isWithin(Catalogue in, Tie tie, AccountKey old, AccountKey other) {
    Set<AccountKey> accounts = of(in, tie);
    return !accounts.isEmpty()
        && accounts.stream().allMatch(it -> in.isAtOrBelow(it, old) && !in.isAtOrBelow(it, other));
  }

  /** {@return the accounts that a tie names}; none where it names no one in particular */
  public static Set<AccountKey> of(Catalogue in, Tie tie) {
    Set<AccountKey> all = new LinkedHashSet<>();
    switch (tie) {
      case Tie.Membership(var group) -> all.add(group.account());
      case Tie.GuestOf(var guest, int _) -> all.add(guest.account());
      case Tie.Owns(var place) -> all.add(place.account());
      case Tie.Reaches(var _, var reach) -> {
        Unit unit = in.units().get(reach.unit());
        if (unit != null) {
          all.add(unit.account());
        }
      }
      case Tie.Follows(var _, var pattern) -> {
        if (pattern.account() != null) {
          all.add(pattern.account());
        }
      }
      case Tie.Assigned(var assignment) ->
          Stream.of(assignment.scope(), assignment.viewScope())
              .flatMap(List::stream)
              .map(Clause::terms)
              .flatMap(List::stream)
              .forEach(it -> named(in, it, all));
      default -> {}
    }
    return all;
  }

  private static void named(Catalogue in, Term term, Set<AccountKey> all) {
    @Nullable AccountKey account =
        switch (term) {
          case Term.Tree(var resource) -> in.has(resource) ? in.accountOf(resource) : null;
          case Term.Only(var resource) -> in.has(resource) ? in.accountOf(resource) : null;
          case Term.InAccount(var key) -> key;
          case Term.InUnit(var key) -> {
            Unit unit = in.units().get(key);
            yield unit == null ? null : unit.account();
          }
          case Term.InCollection(var key) -> {
            ResourceCollection collection = in.collections().get(key);
            yield collection == null ? null : collection.account();
          }
          default -> null;
        };
    if (account != null) {
      all.add(account);
    }
  }
}
