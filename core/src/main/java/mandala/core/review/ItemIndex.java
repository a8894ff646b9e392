package mandala.core.review;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import mandala.core.change.Removal;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.rule.GroupRules;
import mandala.core.rule.Guests;

/**
 * What is assigned to whom, read once for many items of one model. Not over yet; of allows only.
 */
final class ItemIndex {

  final Catalogue catalogue;
  final Instant at;
  private final Map<Subject, List<Assignment>> bySubject = new HashMap<>();
  private final Map<GroupKey, List<Bridge>> byGroup = new HashMap<>();

  ItemIndex(Catalogue catalogue, Instant at) {
    this.catalogue = catalogue;
    this.at = at;
    for (Assignment it : catalogue.assignments().values()) {
      if (it.effect() == Assignment.Effect.ALLOW && !isOver(it.window())) {
        bySubject.computeIfAbsent(it.subject(), _ -> new ArrayList<>(2)).add(it);
      }
    }
    for (Bridge it : catalogue.bridges().values()) {
      if (it.status() == Bridge.Status.ACCEPTED && !isOver(it.window())) {
        byGroup.computeIfAbsent(it.group(), _ -> new ArrayList<>(2)).add(it);
      }
    }
  }

  boolean isOver(Window window) {
    return window.until() != null && !window.until().isAfter(at);
  }

  /** {@return what is assigned to a subject}, by key */
  List<Assignment> of(Subject subject) {
    return bySubject.getOrDefault(subject, List.of()).stream()
        .sorted(Comparator.comparing(it -> it.key().value()))
        .toList();
  }

  List<Bridge> bridges(GroupKey group) {
    return byGroup.getOrDefault(group, List.of());
  }

  /** {@return the guest memberships of a principal that are not over} */
  List<Guest> guests(int number) {
    return number < 0
        ? List.of()
        : catalogue.links().guests(number).stream().filter(it -> !isOver(it.window())).toList();
  }

  /** {@return what a principal has that could be removed}, of groups of some accounts only */
  List<ReviewItem> of(Principal who, Predicate<AccountKey> in) {
    PrincipalKey key = who.key();
    List<ReviewItem> found = new ArrayList<>();
    int number = catalogue.principals().number(key);
    memberships(who, number, in, found);
    if (who.pattern() != null) {
      found.add(new ReviewItem(new Removal.DropPattern(key), key));
    }
    of(new Subject.OfPrincipal(who.kind(), key))
        .forEach(it -> found.add(new ReviewItem(new Removal.Unassign(it.key()), key)));
    who.reach().stream()
        .map(Principal.Reach::unit)
        .distinct()
        .forEach(it -> found.add(new ReviewItem(new Removal.DropReach(key, it), key)));
    guests(number).stream()
        .map(Guest::account)
        .distinct()
        .forEach(it -> found.add(new ReviewItem(new Removal.EndGuest(key, it), key)));
    return found;
  }

  private void memberships(
      Principal who, int number, Predicate<AccountKey> in, List<ReviewItem> into) {
    Group.Member member = new Group.Member.OfPrincipal(who.kind(), who.key());
    Set<GroupKey> listed = new HashSet<>();
    for (int g : catalogue.links().listing(number)) {
      Group it = catalogue.groups().the(g);
      listed.add(it.key());
      if (in.test(it.account())) {
        into.add(new ReviewItem(new Removal.Leave(it.key(), member), who.key()));
      }
    }
    Set<AccountKey> tested = new HashSet<>(Set.of(who.account()));
    guests(number)
        .forEach(guest -> {
          for (AccountKey each : catalogue.accounts().keySet()) {
            if (Guests.covers(guest, each, catalogue)) {
              tested.add(each);
            }
          }
        });
    tested.removeIf(in.negate());
    for (AccountKey account : tested) {
      for (int g : catalogue.links().ruled(catalogue.accounts().number(account))) {
        Group it = catalogue.groups().the(g);
        if (it.rule() != null
            && !listed.contains(it.key())
            && GroupRules.isTested(who, account, at, catalogue)
            && GroupRules.passes(it.rule(), who, catalogue)) {
          ReviewItem item =
              new ReviewItem(new Removal.LoseAttribute(it.key(), who.key()), who.key());
          if (item.isIn(catalogue)) {
            into.add(item);
          }
        }
      }
    }
  }
}
