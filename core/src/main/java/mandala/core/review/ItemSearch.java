package mandala.core.review;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import mandala.core.authority.Authority;
import mandala.core.change.ListedPermissions;
import mandala.core.change.Removal;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Exclusion;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Pattern;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.shrink.Contents;
import org.jspecify.annotations.Nullable;

/** One look through a model for what is in a scope. */
final class ItemSearch {
  private final ReviewScope scope;
  private final Set<AccountKey> accounts = new HashSet<>();
  private final ItemIndex index;
  private final Catalogue catalogue;
  private final ItemRisks inPlace;
  private final Map<String, ReviewItem> found = new LinkedHashMap<>();

  ItemSearch(ItemIndex index, Contents contents, ReviewScope scope) {
    this.index = index;
    this.scope = scope;
    catalogue = index.catalogue;
    inPlace = new ItemRisks(index, contents, scope.place());
    for (AccountKey each : catalogue.accounts().keySet()) {
      if (scope.accounts().isEmpty()
          || scope.accounts().stream().anyMatch(it -> catalogue.isAtOrBelow(each, it))) {
        accounts.add(each);
      }
    }
  }

  List<ReviewItem> all() {
    for (ReviewScope.Content each : ReviewScope.Content.values()) {
      if (scope.contents().contains(each)) {
        add(each);
      }
    }
    return List.copyOf(found.values());
  }

  private void add(ReviewScope.Content content) {
    switch (content) {
      case PEOPLE -> principals(Principal.Kind.PERSON);
      case SERVICES -> principals(Principal.Kind.SERVICE);
      case GUESTS -> sorted(catalogue.principals().values(), Principal::key).forEach(this::guest);
      case GROUPS -> sorted(catalogue.groups().values(), Group::key).forEach(this::group);
      case ROLES -> sorted(catalogue.roles().values(), Role::key).forEach(this::role);
      case PATTERNS ->
          sorted(catalogue.patterns().values(), Pattern::key).stream()
              .filter(it -> isShared(it.account()))
              .forEach(it -> put(assignmentsTo(new Subject.OfPattern(it.key()), it.key())));
      case EVERYBODY -> everybody();
      case BRIDGES -> sorted(catalogue.bridges().values(), Bridge::key).forEach(this::bridge);
      case DELEGATIONS ->
          sorted(catalogue.delegations().values(), Delegation::key).forEach(this::delegation);
      case EXEMPTIONS ->
          sorted(catalogue.exclusions().values(), Exclusion::key).forEach(this::exemptions);
      case OWNERS -> owners();
    }
  }

  private static <T> List<T> sorted(Collection<T> things, Function<T, Key> key) {
    return things.stream().sorted(Comparator.comparing(it -> key.apply(it).value())).toList();
  }

  private boolean isShared(@Nullable AccountKey account) {
    return account == null ? scope.accounts().isEmpty() : accounts.contains(account);
  }

  private void put(List<ReviewItem> some) {
    for (ReviewItem it : some) {
      Permission.Risk risk = inPlace.of(it);
      if (ReviewItems.givesNoPermission(it)
          || (risk != null && risk.compareTo(scope.least()) >= 0)) {
        found.putIfAbsent(it.id(), it);
      }
    }
  }

  private List<ReviewItem> assignmentsTo(Subject subject, Key about) {
    return index.of(subject).stream()
        .map(it -> new ReviewItem(new Removal.Unassign(it.key()), about))
        .toList();
  }

  private void principals(Principal.Kind kind) {
    for (Principal it : sorted(catalogue.principals().values(), Principal::key)) {
      if (it.kind() == kind && accounts.contains(it.account())) {
        put(index.of(it, _ -> true));
      }
    }
  }

  private void guest(Principal who) {
    int number = catalogue.principals().number(who.key());
    List<AccountKey> in =
        index.guests(number).stream().map(Guest::account).filter(accounts::contains).toList();
    if (in.isEmpty()) {
      return;
    }
    put(index.of(who, accounts::contains).stream().filter(it -> isOfGuest(it, in)).toList());
  }

  /** Whether it is of these accounts; where somebody reaches and began is of their home. */
  private boolean isOfGuest(ReviewItem it, List<AccountKey> in) {
    return switch (it.removal()) {
      case Removal.Unassign(AssignmentKey key) -> {
        Assignment assignment = catalogue.assignments().get(key);
        yield assignment != null && isHere(assignment);
      }
      case Removal.EndGuest(var _, AccountKey account) -> in.contains(account);
      case Removal.DropPattern _, Removal.DropReach _ -> false;
      default -> true;
    };
  }

  /** Whether an assignment gives something in one of the accounts. */
  private boolean isHere(Assignment it) {
    return Authority.anchorsOf(it, catalogue).stream()
        .map(catalogue::accountOf)
        .anyMatch(account -> account != null && accounts.contains(account));
  }

  private void group(Group it) {
    if (!accounts.contains(it.account()) || it.retired()) {
      return;
    }
    List<ReviewItem> some = new ArrayList<>();
    for (Group.Member member : it.members()) {
      if (member instanceof Group.Member.OfGroup) {
        some.add(new ReviewItem(new Removal.Leave(it.key(), member), it.key()));
      }
    }
    if (it.rule() != null) {
      some.add(new ReviewItem(new Removal.DropRule(it.key()), it.key()));
    }
    some.addAll(assignmentsTo(new Subject.OfGroup(it.key()), it.key()));
    put(some);
  }

  private void role(Role it) {
    if (isShared(it.account()) && !it.retired() && !isSupplied(it.key())) {
      put(
          ListedPermissions.allowedBy(it, catalogue).stream()
              .sorted(Comparator.comparing(PermissionKey::value))
              .map(each -> new ReviewItem(new Removal.TakeFromRole(it.key(), each), it.key()))
              .toList());
    }
  }

  private static boolean isSupplied(Key key) {
    return key.value().startsWith(Supplied.PREFIX);
  }

  private void everybody() {
    for (AccountKey it :
        catalogue.accounts().keySet().stream()
            .filter(accounts::contains)
            .sorted(Comparator.comparing(AccountKey::value))
            .toList()) {
      put(assignmentsTo(new Subject.OfAccount(it), it));
    }
    for (Subject.Public each : Subject.Public.values()) {
      for (Assignment it : index.of(each)) {
        if (isHere(it)) {
          put(List.of(new ReviewItem(new Removal.Unassign(it.key()), it.key())));
        }
      }
    }
  }

  private void bridge(Bridge it) {
    Group group = catalogue.groups().get(it.group());
    if (it.status() == Bridge.Status.ACCEPTED
        && !index.isOver(it.window())
        && (accounts.contains(it.account())
            || (group != null && accounts.contains(group.account())))) {
      put(List.of(new ReviewItem(new Removal.EndBridge(it.key()), it.key())));
    }
  }

  private void delegation(Delegation it) {
    Principal whose = catalogue.principals().get(it.principal());
    if (whose != null && accounts.contains(whose.account()) && !index.isOver(it.window())) {
      put(List.of(new ReviewItem(new Removal.Undelegate(it.key()), it.principal())));
    }
  }

  private void exemptions(Exclusion it) {
    if (isShared(it.account())) {
      put(
          it.exempt().stream()
              .filter(each -> each.until() == null || each.until().isAfter(index.at))
              .map(Exclusion.Exemption::principal)
              .distinct()
              .map(who -> new ReviewItem(new Removal.EndExemption(it.key(), who), who))
              .toList());
    }
  }

  private void owners() {
    List<ReviewItem> some = new ArrayList<>();
    for (Group it : sorted(catalogue.groups().values(), Group::key)) {
      if (accounts.contains(it.account())) {
        it.owners().forEach(who -> some.add(owner(it.key(), who)));
      }
    }
    for (Role it : sorted(catalogue.roles().values(), Role::key)) {
      if (isShared(it.account())) {
        it.owners().forEach(who -> some.add(owner(it.key(), who)));
      }
    }
    for (Resource it : catalogue.resources().values()) {
      if (it.owner() != null && accounts.contains(it.account())) {
        some.add(owner(it.key(), it.owner()));
      }
    }
    put(some);
  }

  private static ReviewItem owner(Key thing, PrincipalKey who) {
    return new ReviewItem(new Removal.Disown(thing, who), who);
  }
}
