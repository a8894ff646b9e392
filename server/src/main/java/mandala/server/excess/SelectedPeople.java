package mandala.server.excess;

import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.document.Naming;
import mandala.server.authorization.AskablePrincipal;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;

/**
 * People whom a question is about together: of those that an order names, the ones all of whose
 * access the viewer may see.
 *
 * @param name what they are called
 * @param people in the order of their keys
 * @param part whether some were left out
 */
record SelectedPeople(String name, List<PrincipalKey> people, boolean part) {

  /** Maximum number of references in one order. */
  static final int MOST = 500;

  /** All whom the viewer may see. */
  static final String EVERYBODY = "everybody";

  /**
   * {@return the people of an order}
   *
   * @param of {@code person:K}, {@code service:K}, {@code group:K} for its members, {@code role:K}
   *     for its holders, {@code account:K} for who is at home or a guest there, or {@code
   *     everybody}; together where there are several
   * @param at when they are members or holders
   * @throws Problem if one names nothing that the viewer may name, or nobody is left
   */
  static SelectedPeople of(List<String> of, Instant at, RequestContext context) {
    Engine engine = context.asked().engine();
    Set<PrincipalKey> all = new LinkedHashSet<>();
    String first = "";
    for (String each : of) {
      String name = add(each, engine, at, context, all);
      first = first.isEmpty() ? name : first;
    }
    List<PrincipalKey> told =
        all.stream()
            .filter(context.readPolicy()::maySeeAllOf)
            .sorted(SelectedPeople::order)
            .toList();
    if (told.isEmpty()) {
      throw Problem.forbidden(
          "There is nobody among them whose whole access you can see. Choose others, or ask the"
              + " administrator of their account.");
    }
    return new SelectedPeople(
        of.size() == 1 ? first : told.size() + " people", told, told.size() < all.size());
  }

  private static int order(PrincipalKey one, PrincipalKey other) {
    return one.value().compareTo(other.value());
  }

  private static String add(
      String reference,
      Engine engine,
      Instant at,
      RequestContext context,
      Set<PrincipalKey> people) {
    int colon = reference.indexOf(':');
    String kind = colon < 0 ? reference : reference.substring(0, colon);
    String key = colon < 0 ? "" : reference.substring(colon + 1);
    Catalogue catalogue = engine.catalogue();
    Naming naming = context.naming();
    switch (kind) {
      case "person", "service" -> {
        Principal who = AskablePrincipal.of(context, key, null).principal();
        if (catalogue.principals().containsKey(who.key())) {
          people.add(who.key());
        }
        return who.about().nameOr(who.key());
      }
      case "group" -> {
        Group group =
            key.isBlank() || !naming.tells(Kind.GROUPS, key)
                ? null
                : catalogue.groups().get(new GroupKey(key));
        if (group != null) {
          keys(engine.having(new Subject.OfGroup(group.key()), at)).forEach(people::add);
          return group.about().nameOr(group.key());
        }
      }
      case "role" -> {
        Role role =
            key.isBlank() || !naming.tells(Kind.ROLES, key)
                ? null
                : catalogue.roles().get(new RoleKey(key));
        if (role != null) {
          catalogue.principals().values().stream()
              .map(Principal::key)
              .filter(it -> engine.rolesHeld(it, at).contains(role.key()))
              .forEach(people::add);
          return role.about().nameOr(role.key());
        }
      }
      case "account" -> {
        if (!key.isBlank()
            && naming.tells(Kind.ACCOUNTS, key)
            && catalogue.accounts().containsKey(new AccountKey(key))) {
          AccountKey account = new AccountKey(key);
          keys(engine.having(new Subject.OfAccount(account), at)).forEach(people::add);
          return catalogue.nameOf(ResourceKey.of(account));
        }
      }
      case EVERYBODY -> {
        keys(catalogue.principals().values()).forEach(people::add);
        people.add(PrincipalKey.ANONYMOUS);
        return "Everybody";
      }
      default -> {
        // it names nothing
      }
    }
    throw Problem.notFound(
        "There is no '"
            + reference
            + "' whose people you can see. Write person:, service:, group:, role: or account: with"
            + " a key, or everybody.");
  }

  private static List<PrincipalKey> keys(Iterable<Principal> people) {
    List<PrincipalKey> keys = new ArrayList<>();
    people.forEach(it -> keys.add(it.key()));
    return keys;
  }
}
