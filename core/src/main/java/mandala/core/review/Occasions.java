package mandala.core.review;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mandala.core.analysis.Peers;
import mandala.core.authority.Authority;
import mandala.core.change.Change;
import mandala.core.change.ListedPermissions;
import mandala.core.change.Removal;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.RoleKey;
import org.jspecify.annotations.Nullable;

/**
 * What happened to a model from one state to a later one that gives cause to a review, and the
 * items that it is about. All answers are of the later state, each item once, in a stable order.
 */
public final class Occasions {

  private final Catalogue before;
  private final Catalogue after;
  private final ReviewItems items;
  private final WiderGrant wider;
  private final List<Thing> touched;

  /**
   * Looks at what lies between two states.
   *
   * @param changes that lead from the one to the other, or more than these
   * @param items of the later state
   */
  public Occasions(Catalogue before, ReviewItems items, Collection<Change> changes) {
    this.before = before;
    this.items = items;
    after = items.catalogue();
    wider = new WiderGrant(after);
    Map<Object, Thing> distinct = new LinkedHashMap<>();
    for (Change change : changes) {
      for (Thing it : change.things()) {
        distinct.putIfAbsent(it.key() == null ? it : List.of(it.getClass(), it.key()), it);
      }
    }
    touched = List.copyOf(distinct.values());
  }

  /**
   * {@return all that people have who moved}: who have another account, unit, manager or title, and
   * were there before
   */
  public List<ReviewItem> moved() {
    List<ReviewItem> found = new ArrayList<>();
    for (Thing each : touched) {
      if (each instanceof Principal it
          && it.kind() == Principal.Kind.PERSON
          && isMoved(before.principals().get(it.key()), after.principals().get(it.key()))) {
        found.addAll(items.of(it.key()));
      }
    }
    return distinct(found);
  }

  private static boolean isMoved(@Nullable Principal was, @Nullable Principal is) {
    return was != null
        && is != null
        && !(was.account().equals(is.account())
            && Objects.equals(was.unit(), is.unit())
            && Objects.equals(was.manager(), is.manager())
            && Objects.equals(was.attributes().get(Peers.TITLE), is.attributes().get(Peers.TITLE)));
  }

  /** {@return permissions that roles came to allow by their own sets}, of roles that were there */
  public List<ReviewItem> widened() {
    List<ReviewItem> found = new ArrayList<>();
    if (touched.stream().noneMatch(it -> it instanceof Role || it instanceof PermissionSet)) {
      return found;
    }
    for (Role is : after.roles().values()) {
      Role was = before.roles().get(is.key());
      if (was != null && !is.retired() && !is.key().value().startsWith(Supplied.PREFIX)) {
        Set<PermissionKey> more = new HashSet<>(ListedPermissions.allowedBy(is, after));
        more.removeAll(ListedPermissions.allowedBy(was, before));
        more.forEach(
            it -> found.add(new ReviewItem(new Removal.TakeFromRole(is.key(), it), is.key())));
      }
    }
    return distinct(found);
  }

  /**
   * {@return what was given}: what was not there, and assignments that may give more than before
   */
  public List<ReviewItem> given() {
    List<ReviewItem> found = new ArrayList<>();
    for (Thing each : touched) {
      switch (each) {
        case Principal it -> addNew(items.of(it.key()), found);
        case Guest it -> addNew(items.of(it.principal()), found);
        case Assignment it -> addAssignment(it, found);
        case Group it -> addMembers(after.groups().get(it.key()), found);
        case Bridge it ->
            addNew(List.of(new ReviewItem(new Removal.EndBridge(it.key()), it.key())), found);
        case Delegation it ->
            addNew(
                List.of(new ReviewItem(new Removal.Undelegate(it.key()), it.principal())), found);
        default -> {
          // gives nobody anything by itself
        }
      }
    }
    return distinct(found);
  }

  private void addNew(List<ReviewItem> some, List<ReviewItem> into) {
    some.stream().filter(it -> it.isIn(after) && !it.isIn(before)).forEach(into::add);
  }

  private void addAssignment(Assignment touched, List<ReviewItem> into) {
    Assignment was = before.assignments().get(touched.key());
    Assignment is = after.assignments().get(touched.key());
    if (is != null
        && is.effect() == Assignment.Effect.ALLOW
        && (was == null || wider.is(was, is))) {
      Key about =
          switch (is.subject()) {
            case Subject.OfPrincipal(var _, var key) -> key;
            case Subject.OfGroup(var key) -> key;
            case Subject.OfPattern(var key) -> key;
            case Subject.OfAccount(var key) -> key;
            case Subject.Public _ -> is.key();
          };
      into.add(new ReviewItem(new Removal.Unassign(is.key()), about));
    }
  }

  private void addMembers(@Nullable Group is, List<ReviewItem> into) {
    if (is == null || is.retired()) {
      return;
    }
    Group was = before.groups().get(is.key());
    Set<Group.Member> members = was == null ? Set.of() : Set.copyOf(was.members());
    for (Group.Member each : is.members()) {
      if (!members.contains(each)) {
        Key about = each instanceof Group.Member.OfPrincipal(var _, var who) ? who : (Key) is.key();
        into.add(new ReviewItem(new Removal.Leave(is.key(), each), about));
      }
    }
    if (is.rule() != null && (was == null || !is.rule().equals(was.rule()))) {
      into.add(new ReviewItem(new Removal.DropRule(is.key()), is.key()));
    }
  }

  /**
   * {@return guest memberships that end soon}
   *
   * @param within how long after the instant they end at most
   */
  public static List<ReviewItem> ending(Catalogue of, Instant at, Duration within) {
    return distinct(
        of.guests().stream()
            .filter(it -> it.window().holdsAt(at) && it.window().until() != null)
            .filter(it -> !Objects.requireNonNull(it.window().until()).isAfter(at.plus(within)))
            .map(it ->
                new ReviewItem(new Removal.EndGuest(it.principal(), it.account()), it.principal()))
            .toList());
  }

  /** {@return the accounts in which a role gives something}, by itself or inherited by others */
  public static Set<AccountKey> accountsOf(RoleKey role, Catalogue in) {
    Set<AccountKey> accounts = new HashSet<>();
    Set<RoleKey> through = new HashSet<>(Set.of(role));
    boolean more = true;
    while (more) {
      more = false;
      for (Role each : in.roles().values()) {
        boolean inherits = each.inherits().stream().anyMatch(through::contains);
        more |= inherits && through.add(each.key());
      }
    }
    for (Assignment it : in.assignments().values()) {
      if (it.gives() instanceof Gives.OfRole(RoleKey key) && through.contains(key)) {
        Authority.anchorsOf(it, in).stream()
            .map(in::accountOf)
            .filter(Objects::nonNull)
            .forEach(accounts::add);
      }
    }
    for (Bridge it : in.bridges().values()) {
      if (it.gives() instanceof Gives.OfRole(RoleKey key) && through.contains(key)) {
        accounts.add(it.account());
      }
    }
    return accounts;
  }

  private static List<ReviewItem> distinct(List<ReviewItem> some) {
    Map<String, ReviewItem> byId = new LinkedHashMap<>();
    some.forEach(it -> byId.putIfAbsent(it.id(), it));
    return byId.values().stream().sorted(Comparator.comparing(ReviewItem::id)).toList();
  }
}
