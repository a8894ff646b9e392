package mandala.server.catalog;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import mandala.core.model.Catalogue;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.UnitKey;
import mandala.document.ChangeText;
import mandala.server.authorization.RequestContext;
import mandala.server.figure.ExposureFigures;
import mandala.server.platform.Problem;
import mandala.server.session.SeenTimes;
import mandala.server.session.SignInFacts;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * Finds the people whom a filter asks for. What a test needs is looked up once, and the cheap tests
 * come first; nobody passes whom the viewer may not read.
 */
@Component
class PeopleSearch {

  private static final Duration DAY = Duration.ofDays(1);

  /** The longest span that a filter takes: ten years. */
  private static final int MOST_DAYS = 3_660;

  private final ExposureFigures exposures;
  private final SignInFacts signIns;
  private final SeenTimes seen;

  PeopleSearch(ExposureFigures exposures, SignInFacts signIns, SeenTimes seen) {
    this.exposures = exposures;
    this.seen = seen;
    this.signIns = signIns;
  }

  /**
   * What was found.
   *
   * @param readable all whom the viewer may read in the account
   * @param fitting those who fit, in order
   * @param newest exposure as it was counted last
   */
  record Found(List<Principal> readable, List<Principal> fitting, ExposureFigures.Newest newest) {}

  /**
   * {@return those who fit and whom the viewer may read}
   *
   * @throws Problem if there is no such account, unit, group, role, manager, state or order
   */
  Found found(PeopleFilter filter, RequestContext context) {
    return new One(filter, context, exposures.newest()).found();
  }

  /** What a list can be grouped by. */
  private enum Grouping {
    ACCOUNT,
    UNIT,
    MANAGER,
    ROLE,
    GROUP;

    /** The key that somebody has here themselves; null for what is found through others. */
    @Nullable String keyOf(Principal it) {
      return switch (this) {
        case ACCOUNT -> it.account().value();
        case UNIT -> it.unit() == null ? null : it.unit().value();
        case MANAGER -> it.manager() == null ? null : it.manager().value();
        case ROLE, GROUP -> null;
      };
    }
  }

  /**
   * People who have something in common.
   *
   * @param key of it, as the filter takes it: {@code -} for who has none; null where the viewer may
   *     not read it
   */
  record PeopleGroup(@Nullable String key, String name, int people) {}

  /**
   * {@return those who fit, by what they have in common}: by name, who has none last; of roles and
   * groups one can have several
   *
   * @throws Problem if there is no such grouping, and as {@link #found}
   */
  List<PeopleGroup> grouped(PeopleFilter filter, RequestContext context) {
    return new One(filter, context, exposures.newest()).grouped();
  }

  /** Somebody with what they are sorted by; who has nothing comes last, whichever way. */
  private record Keyed(Principal of, boolean last, Comparable<Object> by) {

    @SuppressWarnings("unchecked") // one column has values of one type
    static Keyed of(Principal it, @Nullable Comparable<?> by) {
      return new Keyed(it, by == null, (Comparable<Object>) (by == null ? (Comparable<?>) "" : by));
    }
  }

  /** One search: of one filter, by one viewer. */
  private final class One {

    private final PeopleFilter filter;
    private final RequestContext context;
    private final Catalogue in;
    private final Instant now;
    private final ExposureFigures.Newest newest;

    One(PeopleFilter filter, RequestContext context, ExposureFigures.Newest newest) {
      this.filter = filter;
      this.context = context;
      this.newest = newest;
      in = context.state().engine().catalogue();
      now = context.readPolicy().now();
    }

    Found found() {
      seen.refresh();
      Set<AccountKey> below = accounts();
      Set<PrincipalKey> guests = guests(below);
      List<String> kinds = PeopleFilter.words(filter.kind());
      boolean withGuests = kinds != null && kinds.contains("guest");
      List<Principal> readable =
          context.state().people().all().stream()
              .filter(
                  it -> below.contains(it.account()) || (withGuests && guests.contains(it.key())))
              .filter(context.readPolicy()::mayRead)
              .toList();
      Comparator<Keyed> order = order();
      Stream<Principal> fitting = readable.stream();
      for (Predicate<Principal> test : tests(kinds, guests)) {
        fitting = fitting.filter(test);
      }
      return new Found(readable, order == null ? fitting.toList() : sorted(fitting, order), newest);
    }

    private Set<AccountKey> accounts() {
      AccountKey top = filter.in();
      if (top != null
          && (!in.accounts().containsKey(top)
              || !context.naming().tells(Kind.ACCOUNTS, top.value()))) {
        throw Problem.notFound("There is no account '" + top + "'. Choose one from the list.");
      }
      return in.accounts().keySet().stream()
          .filter(it -> top == null || in.isAtOrBelow(it, top))
          .collect(Collectors.toSet());
    }

    /** Who is a guest of one of the accounts looked at, from elsewhere. */
    private Set<PrincipalKey> guests(Set<AccountKey> below) {
      return in.guests().stream()
          .filter(it -> below.contains(it.account()) && context.readPolicy().mayRead(it, in))
          .map(Guest::principal)
          .collect(Collectors.toSet());
    }

    private List<Predicate<Principal>> tests(
        @Nullable List<String> kinds, Set<PrincipalKey> guests) {
      List<Predicate<Principal>> tests = new ArrayList<>();
      List<String> states = PeopleFilter.words(filter.state());
      if (states != null) {
        tests.add(it -> states.contains(PeopleFilter.word(it.status())));
      }
      if (kinds != null) {
        tests.add(it ->
            kinds.contains(PeopleFilter.word(it.kind()))
                || (kinds.contains("guest") && guests.contains(it.key())));
      }
      List<String> titles = PeopleFilter.words(filter.title());
      if (titles != null) {
        tests.add(it -> titles.contains(it.attributes().getOrDefault("title", "")));
      }
      tests.add(filter::names);
      addTimes(tests);
      addPlace(tests);
      addAccess(tests);
      String of = PeopleFilter.given(filter.of());
      if (of != null) {
        tests.add(inGroup(of));
      }
      String signIn = PeopleFilter.given(filter.signIn());
      if (signIn != null) {
        boolean wanted = yes("signIn", signIn, "password", "none");
        Set<PrincipalKey> have = signIns.withPassword();
        tests.add(it ->
            have.contains(it.key()) == wanted
                && it.kind() == Principal.Kind.PERSON
                && (context.readPolicy().isViewer(it.key()) || context.cannotChange(it) == null));
      }
      return tests;
    }

    private void addTimes(List<Predicate<Principal>> tests) {
      Integer unseen = days("unseen", filter.unseen());
      if (unseen != null) {
        Instant last = now.minus(DAY.multipliedBy(unseen));
        tests.add(it -> {
          Instant at = seen.of(it);
          return at == null || at.isBefore(last);
        });
      }
      Integer ends = days("ends", filter.ends());
      if (ends != null) {
        Instant last = now.plus(DAY.multipliedBy(ends));
        tests.add(it -> {
          Instant until = it.window().until();
          return until != null && until.isAfter(now) && !until.isAfter(last);
        });
      }
      String factor = PeopleFilter.given(filter.factor());
      if (factor != null) {
        boolean wanted = yes("factor", factor, "yes", "no");
        tests.add(it -> it.mfa() == wanted);
      }
    }

    private void addPlace(List<Predicate<Principal>> tests) {
      String unit = PeopleFilter.given(filter.unit());
      if (unit != null && unit.equals(PeopleFilter.NONE)) {
        tests.add(it -> it.unit() == null);
      } else if (unit != null) {
        UnitKey top = new UnitKey(known(Kind.UNITS, unit));
        tests.add(it -> it.unit() != null && in.isAtOrBelow(it.unit(), top));
      }
      String manager = PeopleFilter.given(filter.manager());
      if (manager != null && manager.equals(PeopleFilter.NONE)) {
        tests.add(it -> it.kind() == Principal.Kind.PERSON && it.manager() == null);
      } else if (manager != null) {
        PrincipalKey above = new PrincipalKey(known(Kind.PRINCIPALS, manager));
        tests.add(it -> above.equals(it.manager()));
      }
    }

    private void addAccess(List<Predicate<Principal>> tests) {
      String group = PeopleFilter.given(filter.group());
      if (group != null) {
        Set<PrincipalKey> members = members(group);
        boolean wanted = !group.equals(PeopleFilter.NONE);
        tests.add(it -> members.contains(it.key()) == wanted);
      }
      String role = PeopleFilter.given(filter.role());
      if (role != null) {
        Set<PrincipalKey> holders = holders(role);
        boolean wanted = !role.equals(PeopleFilter.NONE);
        tests.add(it -> holders.contains(it.key()) == wanted);
      }
      Long exposed = filter.exposed();
      if (exposed != null) {
        tests.add(it -> {
          ExposureFigures.Figure figure = figure(it);
          return figure != null && figure.exposure() >= exposed;
        });
      }
    }

    /** Who is in a group that the viewer may be told of; with {@code -}, in any. */
    private Set<PrincipalKey> members(String group) {
      if (!group.equals(PeopleFilter.NONE)) {
        GroupKey key = new GroupKey(known(Kind.GROUPS, group));
        return keys(context.state().engine().having(new Subject.OfGroup(key), now));
      }
      return byGroup().values().stream().flatMap(Set::stream).collect(Collectors.toSet());
    }

    private Map<String, Set<PrincipalKey>> byGroup() {
      Function<Subject, List<Principal>> having = context.state().engine().having(now);
      Map<String, Set<PrincipalKey>> members = new LinkedHashMap<>();
      for (GroupKey it : in.groups().keySet()) {
        if (context.naming().tells(Kind.GROUPS, it.value())) {
          members.put(it.value(), keys(having.apply(new Subject.OfGroup(it))));
        }
      }
      return members;
    }

    /** Who holds a role that the viewer may be told of; with {@code -}, any. */
    private Set<PrincipalKey> holders(String role) {
      if (!role.equals(PeopleFilter.NONE)) {
        known(Kind.ROLES, role);
      }
      Set<PrincipalKey> holders = new HashSet<>();
      byRole()
          .forEach((key, them) -> {
            if (role.equals(PeopleFilter.NONE) || role.equals(key)) {
              holders.addAll(them);
            }
          });
      return holders;
    }

    private Map<String, Set<PrincipalKey>> byRole() {
      Map<String, Set<PrincipalKey>> holders = new LinkedHashMap<>();
      context
          .state()
          .engine()
          .roleHolders(now)
          .forEach((role, them) -> {
            if (context.naming().tells(Kind.ROLES, role.value())) {
              holders.put(
                  role.value(),
                  them.stream()
                      .mapToObj(it -> in.principals().the(it).key())
                      .collect(Collectors.toSet()));
            }
          });
      return holders;
    }

    /** A key of something that is there and that the viewer may be told of. */
    private String known(Kind kind, String key) {
      if (in.find(kind, key).isEmpty() || !context.naming().tells(kind, key)) {
        throw Problem.notFound(
            "There is no "
                + switch (kind) {
                  case UNITS -> "unit";
                  case ACCOUNTS -> "account";
                  case GROUPS -> "group";
                  case ROLES -> "role";
                  default -> "manager";
                }
                + " '"
                + key
                + "'. Choose one from the list, or - for people without.");
      }
      return key;
    }

    private ExposureFigures.@Nullable Figure figure(Principal it) {
      return context.readPolicy().maySeeAllOf(it.key()) ? newest.people().get(it.key()) : null;
    }

    // ---- groups and orders ----------------------------------------------------------------------

    List<PeopleGroup> grouped() {
      List<Principal> fitting = found().fitting();
      return switch (grouping()) {
        case ROLE -> bySets(fitting, Kind.ROLES, byRole(), "No role");
        case GROUP -> bySets(fitting, Kind.GROUPS, byGroup(), "No group");
        case UNIT -> by(fitting, Kind.UNITS, Grouping.UNIT, "No unit");
        case MANAGER -> by(fitting, Kind.PRINCIPALS, Grouping.MANAGER, "No manager");
        case ACCOUNT -> by(fitting, Kind.ACCOUNTS, Grouping.ACCOUNT, "No account");
      };
    }

    private Grouping grouping() {
      String by = String.valueOf(filter.by());
      for (Grouping it : Grouping.values()) {
        if (PeopleFilter.word(it).equals(by)) {
          return it;
        }
      }
      throw Problem.badRequest(
          "People can't be grouped by '" + by + "'",
          "Choose account, unit, manager, role or group.");
    }

    /** Whether somebody is in one group of a grouping. */
    private Predicate<Principal> inGroup(String of) {
      Grouping grouping = grouping();
      boolean none = of.equals(PeopleFilter.NONE);
      Set<PrincipalKey> them;
      switch (grouping) {
        case ROLE -> them = holders(of);
        case GROUP -> them = members(of);
        default -> {
          Kind kind =
              grouping == Grouping.UNIT
                  ? Kind.UNITS
                  : grouping == Grouping.MANAGER ? Kind.PRINCIPALS : Kind.ACCOUNTS;
          String wanted = none ? null : known(kind, of);
          return it -> Objects.equals(grouping.keyOf(it), wanted);
        }
      }
      return it -> them.contains(it.key()) != none;
    }

    private List<PeopleGroup> by(List<Principal> them, Kind kind, Grouping grouping, String none) {
      Map<String, Integer> counts = new LinkedHashMap<>();
      int without = 0;
      for (Principal it : them) {
        String key = grouping.keyOf(it);
        if (key == null) {
          without++;
        } else {
          counts.merge(key, 1, Integer::sum);
        }
      }
      return named(kind, counts, without, none);
    }

    private List<PeopleGroup> bySets(
        List<Principal> them, Kind kind, Map<String, Set<PrincipalKey>> sets, String none) {
      Set<PrincipalKey> left = keys(them);
      Map<String, Integer> counts = new LinkedHashMap<>();
      Set<PrincipalKey> all = Set.copyOf(left);
      sets.forEach((key, members) -> {
        int count = 0;
        for (PrincipalKey it : members) {
          if (all.contains(it)) {
            count++;
            left.remove(it);
          }
        }
        if (count > 0) {
          counts.put(key, count);
        }
      });
      return named(kind, counts, left.size(), none);
    }

    /** What may not be read is one group without a name. */
    private List<PeopleGroup> named(
        Kind kind, Map<String, Integer> counts, int without, String none) {
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

    private static Set<PrincipalKey> keys(List<Principal> them) {
      return them.stream().map(Principal::key).collect(Collectors.toCollection(HashSet::new));
    }

    /** Whole days of a filter. */
    private static @Nullable Integer days(String name, @Nullable Integer days) {
      if (days != null && (days < 0 || days > MOST_DAYS)) {
        throw Problem.badRequest(
            "'" + name + "' can't be " + days,
            "Give a number of days from 0 to " + MOST_DAYS + ".");
      }
      return days;
    }

    private static boolean yes(String name, String given, String yes, String no) {
      if (!given.equals(yes) && !given.equals(no)) {
        throw Problem.badRequest(
            "'" + name + "' can't be '" + given + "'", "Write " + yes + " or " + no + ".");
      }
      return given.equals(yes);
    }

    /** {@return the order asked for}, null for that of names, in which people are kept */
    private @Nullable Comparator<Keyed> order() {
      String sort = PeopleFilter.given(filter.sort());
      if (sort == null) {
        return null;
      }
      Comparator<Keyed> plain = (one, other) -> one.by().compareTo(other.by());
      return Comparator.comparing(Keyed::last)
          .thenComparing((one, other) ->
              one.last()
                  ? 0
                  : sort.startsWith("-") ? plain.compare(other, one) : plain.compare(one, other));
    }

    private List<Principal> sorted(Stream<Principal> them, Comparator<Keyed> order) {
      Function<Principal, @Nullable Comparable<?>> by = column(String.valueOf(filter.sort()));
      return them.map(it -> Keyed.of(it, by.apply(it))).sorted(order).map(Keyed::of).toList();
    }

    private Function<Principal, @Nullable Comparable<?>> column(String sort) {
      ChangeText text = context.text();
      return switch (sort.startsWith("-") ? sort.substring(1) : sort) {
        case "name" -> it -> it.about().nameOr(it.key()).toLowerCase(Locale.ROOT);
        case "title" -> it -> it.attributes().getOrDefault("title", "");
        case "state" -> it -> PeopleFilter.word(it.status());
        case "account" -> it -> text.name(Kind.ACCOUNTS, it.account().value());
        case "unit" -> it -> it.unit() == null ? "" : text.name(Kind.UNITS, it.unit().value());
        case "seen" ->
            it -> {
              Instant at = seen.of(it);
              return at == null ? Instant.EPOCH : at;
            };
        case "ends" -> it -> it.window().until();
        case "exposure" -> of(ExposureFigures.Figure::exposure);
        case "unused" -> of(ExposureFigures.Figure::unused);
        case "share" -> of(ExposureFigures.Figure::share);
        default ->
            throw Problem.badRequest(
                "People can't be sorted by '" + sort + "'",
                "Choose name, title, state, unit, account, seen, ends, exposure, unused or share,"
                    + " with a minus before it to turn the order round.");
      };
    }

    private Function<Principal, @Nullable Comparable<?>> of(
        Function<ExposureFigures.Figure, Comparable<?>> value) {
      return it -> {
        ExposureFigures.Figure figure = figure(it);
        return figure == null ? null : value.apply(figure);
      };
    }
  }
}
