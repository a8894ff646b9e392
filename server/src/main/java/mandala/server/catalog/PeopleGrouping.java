package mandala.server.catalog;

import java.time.Instant;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.BiConsumer;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import mandala.core.engine.Engine;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import mandala.document.ChangeText;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;

/** What people can have in common: a list is grouped by it, and filtered. */
enum PeopleGrouping {
  ACCOUNT(Kind.ACCOUNTS, "No account"),
  UNIT(Kind.UNITS, "No unit"),
  MANAGER(Kind.PRINCIPALS, "No manager"),
  ROLE(Kind.ROLES, "No role"),
  GROUP(Kind.GROUPS, "No group");

  private final Kind kind;
  private final String none;

  PeopleGrouping(Kind kind, String none) {
    this.kind = kind;
    this.none = none;
  }

  /**
   * People who have something in common.
   *
   * @param key of it, as the filter takes it: {@code -} for who has none; null where the viewer may
   *     not read it
   */
  record PeopleGroup(@Nullable String key, String name, int people) {}

  /**
   * {@return the grouping of a word}
   *
   * @throws Problem if there is none
   */
  static PeopleGrouping of(@Nullable String by) {
    return Stream.of(values())
        .filter(it -> PeopleFilter.word(it).equals(by))
        .findFirst()
        .orElseThrow(() ->
            Problem.badRequest(
                "People can't be grouped by '" + by + "'",
                "Choose account, unit, manager, role or group."));
  }

  /**
   * {@return whether somebody is in the group of a key}, {@code -} for who is in none
   *
   * @throws Problem if there is nothing of that key to the viewer's eyes
   */
  Predicate<Principal> test(String key, RequestContext context) {
    if (key.equals(PeopleFilter.NONE)) {
      if (this == ROLE || this == GROUP) {
        BitSet some = new BitSet();
        eachSet(context, (_, members) -> some.or(members));
        return it -> !some.get(number(it, context));
      }
      Function<Principal, Set<String>> keys = keys();
      return it -> keys.apply(it).isEmpty();
    }
    context.known(kind, key);
    if (this == GROUP) { // found from the one group, not by looking at all
      Set<PrincipalKey> members =
          context
              .state()
              .engine()
              .having(new Subject.OfGroup(new GroupKey(key)), context.readPolicy().now())
              .stream()
              .map(Principal::key)
              .collect(Collectors.toSet());
      return it -> members.contains(it.key());
    }
    if (this == ROLE) {
      Engine engine = context.state().engine();
      BitSet holders =
          engine
              .roleHolders(context.readPolicy().now())
              .getOrDefault(new RoleKey(key), new BitSet());
      return it -> holders.get(number(it, context));
    }
    Function<Principal, Set<String>> keys = keys();
    return it -> keys.apply(it).contains(key);
  }

  /**
   * {@return the groups of some people, with how many are in each}: by name, who is in none last;
   * of roles and groups one can be in several. What the viewer may not read is one group without a
   * name.
   */
  List<PeopleGroup> groups(List<Principal> people, RequestContext context) {
    Map<String, Integer> counts = new LinkedHashMap<>();
    int without =
        this == ROLE || this == GROUP
            ? countSets(people, context, counts)
            : countKeys(people, keys(), counts);
    ChangeText text = context.text();
    List<PeopleGroup> groups = new ArrayList<>();
    int hidden = 0;
    for (Map.Entry<String, Integer> it : counts.entrySet()) {
      if (context.naming().tells(kind, it.getKey())) {
        groups.add(new PeopleGroup(it.getKey(), text.name(kind, it.getKey()), it.getValue()));
      } else {
        hidden += it.getValue();
      }
    }
    groups.sort(
        Comparator.comparing((PeopleGroup it) -> it.name().toLowerCase(Locale.ROOT))
            .thenComparing(it -> String.valueOf(it.key())));
    if (hidden > 0) {
      groups.add(new PeopleGroup(null, "Not shown to you", hidden));
    }
    if (without > 0) {
      groups.add(new PeopleGroup(PeopleFilter.NONE, none, without));
    }
    return groups;
  }

  /** Counts who is in each group; {@return how many are in none} */
  private static int countKeys(
      List<Principal> people, Function<Principal, Set<String>> keys, Map<String, Integer> counts) {
    int without = 0;
    for (Principal it : people) {
      Set<String> its = keys.apply(it);
      without += its.isEmpty() ? 1 : 0;
      its.forEach(key -> counts.merge(key, 1, Integer::sum));
    }
    return without;
  }

  /** The same, of groups in which one can be several times: set by set, not person by person. */
  private int countSets(
      List<Principal> people, RequestContext context, Map<String, Integer> counts) {
    BitSet asked = new BitSet();
    people.forEach(it -> asked.set(number(it, context)));
    BitSet without = (BitSet) asked.clone();
    eachSet(
        context,
        (key, members) -> {
          members.and(asked);
          without.andNot(members);
          if (!members.isEmpty()) {
            counts.put(key, members.cardinality());
          }
        });
    return without.cardinality();
  }

  private static int number(Principal it, RequestContext context) {
    return context.state().engine().catalogue().principals().number(it.key());
  }

  /** Goes through roles or groups that may be named, each with the numbers of its holders. */
  private void eachSet(RequestContext context, BiConsumer<String, BitSet> sink) {
    Engine engine = context.state().engine();
    Instant now = context.readPolicy().now();
    if (this == ROLE) {
      engine
          .roleHolders(now)
          .forEach((role, holders) -> {
            if (context.naming().tells(Kind.ROLES, role.value())) {
              sink.accept(role.value(), holders);
            }
          });
      return;
    }
    Function<Subject, List<Principal>> having = engine.having(now);
    for (GroupKey group : engine.catalogue().groups().keySet()) {
      if (context.naming().tells(Kind.GROUPS, group.value())) {
        BitSet members = new BitSet();
        having.apply(new Subject.OfGroup(group)).forEach(it -> members.set(number(it, context)));
        if (!members.isEmpty()) {
          sink.accept(group.value(), members);
        }
      }
    }
  }

  /** The keys of the groups that somebody is in, where they are facts of theirs. */
  private Function<Principal, Set<String>> keys() {
    return switch (this) {
      case ACCOUNT -> it -> Set.of(it.account().value());
      case UNIT -> it -> one(it.unit());
      case MANAGER -> it -> one(it.manager());
      case ROLE, GROUP ->
          throw new IllegalStateException("Impossible state: " + this + " is no fact of a person");
    };
  }

  private static Set<String> one(@Nullable Key key) {
    return key == null ? Set.of() : Set.of(key.value());
  }
}
