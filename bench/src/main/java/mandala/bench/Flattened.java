package mandala.bench;

import java.io.IOException;
import java.io.InputStream;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Permission;
import mandala.core.model.Permission.AccessClass;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.ResourceCollection;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Unit;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.TypeKey;
import mandala.core.model.key.UnitKey;
import mandala.core.rule.GroupRules;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;

/**
 * Loads a model into tables of PostgreSQL, the way somebody would who answers questions about
 * access in SQL: things as numbers, resources in pre-order, clauses as stretches of positions,
 * nothing but what is in force at the instant of the questions. {@code flatten.sql} then adds the
 * closures. Written apart from the engine and sharing none of its code, so that the same answers
 * mean something.
 */
final class Flattened {

  private final Catalogue catalogue;
  private final Connection connection;
  private final Map<Object, Integer> numbers = new HashMap<>();
  private final Map<ResourceKey, Integer> position = new LinkedHashMap<>();
  private final List<ResourceKey> places = new ArrayList<>();
  private int[] end = {};
  private int[] seal = {};
  private final Map<Given, Integer> given = new LinkedHashMap<>();
  private final Map<Clause, List<Stretch>> stretches = new HashMap<>();
  private int lines;

  private record Given(Gives gives, boolean denies) {}

  private record Stretch(int from, int to, int floor) {}

  Flattened(Catalogue catalogue, Connection connection) {
    this.catalogue = catalogue;
    this.connection = connection;
  }

  /** {@return a file of SQL beside this class} */
  static String sql(String name) {
    try (InputStream in = Flattened.class.getResourceAsStream(name)) {
      if (in == null) {
        throw new IllegalStateException("Impossible state: no " + name);
      }
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** {@return the number of a key or a subject} in the tables */
  int number(Object key) {
    return numbers.computeIfAbsent(key, _ -> numbers.size());
  }

  /** {@return the position of a resource} */
  int position(ResourceKey key) {
    Integer at = position.get(key);
    if (at == null) {
      throw new IllegalStateException("Impossible state: no position of " + key);
    }
    return at;
  }

  void load() throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute("drop schema public cascade; create schema public");
      statement.execute(sql("tables.sql"));
    }
    places();
    people();
    definitions();
    grants();
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql("flatten.sql"));
      statement.execute("vacuum analyze");
    }
  }

  // ---- rows

  /** Rows of one table on their way. */
  private final class Rows {
    private final String table;
    private final StringBuilder text = new StringBuilder();

    Rows(String table) {
      this.table = table;
    }

    void add(@Nullable Object... values) {
      for (int i = 0; i < values.length; i++) {
        text.append(i == 0 ? "" : "\t").append(values[i] == null ? "\\N" : values[i]);
      }
      text.append('\n');
    }

    void send() throws SQLException {
      try {
        connection
            .unwrap(PGConnection.class)
            .getCopyAPI()
            .copyIn("copy " + table + " from stdin", new StringReader(text.toString()));
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }
  }

  private @Nullable Integer numberOr(@Nullable Object key) {
    return key == null ? null : number(key);
  }

  private static boolean inForce(Window window) {
    return window.holdsAt(Settlement.NOW);
  }

  // ---- places

  private void places() throws SQLException {
    Map<ResourceKey, List<ResourceKey>> below = new HashMap<>();
    List<ResourceKey> roots = new ArrayList<>();
    List<ResourceKey> all = new ArrayList<>();
    catalogue.accounts().keySet().forEach(key -> all.add(ResourceKey.of(key)));
    catalogue.units().keySet().forEach(key -> all.add(ResourceKey.of(key)));
    catalogue.groups().keySet().forEach(key -> all.add(ResourceKey.of(key)));
    all.addAll(catalogue.resources().keySet());
    for (ResourceKey key : all) {
      ResourceKey parent = catalogue.parentOf(key);
      (parent == null ? roots : below.computeIfAbsent(parent, _ -> new ArrayList<>())).add(key);
    }
    end = new int[all.size()];
    seal = new int[all.size()];
    roots.forEach(root -> number(root, below, -1));
    Rows rows = new Rows("resource");
    for (ResourceKey key : places) {
      ResourceKey parent = catalogue.parentOf(key);
      AccountKey account = account(key);
      rows.add(
          position(key),
          parent == null ? -1 : position(parent),
          number(catalogue.typeOf(key)),
          number(account),
          position(ResourceKey.of(account)),
          numberOr(catalogue.unitOf(key)),
          numberOr(catalogue.ownerOf(key)),
          seal[position(key)],
          catalogue.isLive(account));
    }
    rows.send();
  }

  private AccountKey account(ResourceKey key) {
    AccountKey account = catalogue.accountOf(key);
    if (account == null) {
      throw new IllegalStateException("Impossible state: no account of " + key);
    }
    return account;
  }

  private void number(ResourceKey key, Map<ResourceKey, List<ResourceKey>> below, int sealAbove) {
    int at = places.size();
    places.add(key);
    position.put(key, at);
    seal[at] = catalogue.isSealed(key) ? at : sealAbove;
    below.getOrDefault(key, List.of()).forEach(inner -> number(inner, below, seal[at]));
    end[at] = places.size();
  }

  // ---- people

  private void people() throws SQLException {
    Map<PrincipalKey, Set<AccountKey>> guestOf = guests();
    Rows principals = new Rows("principal");
    Rows belongs = new Rows("belongs");
    Rows managers = new Rows("manager");
    Rows units = new Rows("own_unit");
    Rows has = new Rows("has");
    for (Principal it : catalogue.principals().values()) {
      int id = number(it.key());
      boolean active =
          it.status() == Principal.Status.ACTIVE
              && inForce(it.window())
              && catalogue.isLive(it.account());
      boolean factor = it.kind() == Principal.Kind.PERSON && it.mfa();
      principals.add(id, number(it.account()), active, factor);
      Set<AccountKey> doors = guestOf.getOrDefault(it.key(), Set.of());
      for (AccountKey account : catalogue.accounts().keySet()) {
        if (catalogue.isAtOrBelow(account, it.account()) || doors.contains(account)) {
          belongs.add(id, number(account));
        }
      }
      if (it.manager() != null) {
        managers.add(id, number(it.manager()));
      }
      for (Unit unit : catalogue.units().values()) {
        boolean own = it.unit() != null && catalogue.isAtOrBelow(unit.key(), it.unit());
        boolean full = own || reaches(it, unit.key(), Principal.Level.FULL);
        if (full || reaches(it, unit.key(), Principal.Level.VIEW)) {
          units.add(id, number(unit.key()), full);
        }
      }
      has.add(id, number(new Subject.OfPrincipal(it.kind(), it.key())));
      has.add(id, number(Subject.Public.ANYONE));
      has.add(id, number(Subject.Public.SIGNED_IN));
      has.add(id, number(new Subject.OfAccount(it.account())));
      doors.stream()
          .filter(door -> !door.equals(it.account()))
          .forEach(door -> has.add(id, number(new Subject.OfAccount(door))));
      if (it.pattern() != null) {
        has.add(id, number(new Subject.OfPattern(it.pattern())));
      }
    }
    groups(guestOf, has);
    for (Rows rows : List.of(principals, belongs, managers, units, has)) {
      rows.send();
    }
  }

  private boolean reaches(Principal it, UnitKey unit, Principal.Level level) {
    return it.reach().stream()
        .anyMatch(reach -> reach.level() == level && catalogue.isAtOrBelow(unit, reach.unit()));
  }

  private Map<PrincipalKey, Set<AccountKey>> guests() {
    Map<PrincipalKey, Set<AccountKey>> guestOf = new HashMap<>();
    for (Guest guest : catalogue.model().guests()) {
      if (inForce(guest.window())) {
        for (AccountKey account : catalogue.accounts().keySet()) {
          if (guest.withSubaccounts()
              ? catalogue.isAtOrBelow(account, guest.account())
              : account.equals(guest.account())) {
            guestOf
                .computeIfAbsent(guest.principal(), _ -> new java.util.LinkedHashSet<>())
                .add(account);
          }
        }
      }
    }
    return guestOf;
  }

  private void groups(Map<PrincipalKey, Set<AccountKey>> guestOf, Rows has) throws SQLException {
    Rows nested = new Rows("nested");
    for (Group group : catalogue.groups().values()) {
      if (group.retired()) {
        continue;
      }
      Set<Integer> members = new java.util.LinkedHashSet<>();
      int id = number(new Subject.OfGroup(group.key()));
      for (Group.Member member : group.members()) {
        switch (member) {
          case Group.Member.OfPrincipal(var _, PrincipalKey key) -> members.add(number(key));
          case Group.Member.OfGroup(GroupKey key) ->
              nested.add(number(new Subject.OfGroup(key)), id);
        }
      }
      if (group.rule() != null) {
        for (Principal it : catalogue.principals().values()) {
          boolean tested =
              it.account().equals(group.account())
                  || guestOf.getOrDefault(it.key(), Set.of()).contains(group.account());
          if (tested && GroupRules.passes(group.rule(), it, catalogue)) {
            members.add(number(it.key()));
          }
        }
      }
      members.forEach(member -> has.add(member, id));
    }
    nested.send();
  }

  // ---- what is given

  private void definitions() throws SQLException {
    Rows permissions = new Rows("permission");
    Rows types = new Rows("type_of");
    Rows implies = new Rows("implies");
    Rows requires = new Rows("requires");
    for (Permission it : catalogue.permissions().values()) {
      permissions.add(number(it.key()), it.accessClass() == AccessClass.VIEW);
      it.on().forEach(type -> types.add(number(it.key()), number(type)));
      it.implies().forEach(implied -> implies.add(number(it.key()), number(implied)));
      it.requires().forEach(gate -> requires.add(number(it.key()), number(gate)));
    }
    Rows setPermissions = new Rows("set_permission");
    Rows includes = new Rows("includes");
    for (PermissionSet it : catalogue.sets().values()) {
      it.allow().forEach(key -> setPermissions.add(number(it.key()), number(key), false));
      it.deny().forEach(key -> setPermissions.add(number(it.key()), number(key), true));
      it.includes().forEach(inner -> includes.add(number(it.key()), number(inner)));
    }
    Rows roles = new Rows("role");
    Rows inherits = new Rows("inherits");
    Rows roleSets = new Rows("role_set");
    for (Role it : catalogue.roles().values()) {
      if (!it.retired()) {
        roles.add(number(it.key()), it.requiresMfa());
        it.inherits().forEach(junior -> inherits.add(number(it.key()), number(junior)));
        it.sets().forEach(set -> roleSets.add(number(it.key()), number(set)));
      }
    }
    for (Rows rows :
        List.of(
            permissions,
            types,
            implies,
            requires,
            setPermissions,
            includes,
            roles,
            inherits,
            roleSets)) {
      rows.send();
    }
  }

  // ---- who has what where

  private void grants() throws SQLException {
    Rows rows = new Rows("line");
    for (Assignment it : catalogue.assignments().values()) {
      if (inForce(it.window())) {
        it.scope().forEach(clause -> line(rows, it, clause, false));
        it.viewScope().forEach(clause -> line(rows, it, clause, true));
      }
    }
    for (Bridge it : catalogue.bridges().values()) {
      bridge(rows, it);
    }
    rows.send();
    Rows activated = new Rows("activated");
    catalogue.model().activations().stream()
        .filter(it -> inForce(it.window()))
        .map(it -> List.of(number(it.principal()), number(it.assignment())))
        .distinct()
        .forEach(it -> activated.add(it.get(0), it.get(1)));
    activated.send();
    Rows gives = new Rows("given");
    given.forEach((it, id) ->
        gives.add(
            id,
            it.gives() instanceof Gives.OfRole(RoleKey key) ? number(key) : null,
            it.gives() instanceof Gives.OfSet(PermissionSetKey key) ? number(key) : null,
            it.gives() instanceof Gives.OfPermission(PermissionKey key) ? number(key) : null,
            it.denies()));
    gives.send();
  }

  private int given(Gives gives, boolean denies) {
    return given.computeIfAbsent(new Given(gives, denies), _ -> given.size());
  }

  private void line(Rows rows, Assignment it, Clause clause, boolean viewOnly) {
    AccountKey home = clause.relative() ? home(it.subject()) : null;
    for (Stretch stretch : stretches(clause)) {
      add(
          rows,
          cut(stretch, home),
          clause,
          number(it.key()),
          number(it.subject()),
          given(it.gives(), it.effect() == Assignment.Effect.DENY),
          viewOnly,
          it.crossesSeals(),
          it.mode() == Assignment.Mode.JUST_IN_TIME,
          it.subject() instanceof Subject.Public,
          null);
    }
  }

  private void bridge(Rows rows, Bridge it) {
    Group group = catalogue.groups().get(it.group());
    if (group == null
        || it.status() != Bridge.Status.ACCEPTED
        || !inForce(it.window())
        || !catalogue.isLive(group.account())) {
      return;
    }
    for (Clause clause : it.scope()) {
      for (Stretch stretch : stretches(clause)) {
        add(
            rows,
            cut(stretch, it.account()),
            clause,
            -1,
            number(new Subject.OfGroup(it.group())),
            given(it.gives(), false),
            false,
            false,
            false,
            false,
            number(group.account()));
      }
    }
  }

  private void add(
      Rows rows,
      Stretch stretch,
      Clause clause,
      int assignment,
      int subject,
      int gives,
      boolean viewOnly,
      boolean crosses,
      boolean jit,
      boolean open,
      @Nullable Integer bridgeFrom) {
    if (stretch.from() < stretch.to()) {
      Integer type = null;
      for (Term term : clause.terms()) {
        if (term instanceof Term.OfType(TypeKey key)) {
          type = number(key);
        }
      }
      rows.add(
          lines++,
          assignment,
          subject,
          gives,
          stretch.from(),
          stretch.to(),
          stretch.floor(),
          type,
          viewOnly,
          clause.terms().contains(new Term.OwnAccount()),
          clause.terms().contains(new Term.OwnUnit()),
          clause.terms().contains(new Term.OwnedBy(Term.Owner.SELF)),
          clause.terms().contains(new Term.OwnedBy(Term.Owner.TEAM)),
          crosses,
          jit,
          open,
          bridgeFrom);
    }
  }

  private @Nullable AccountKey home(Subject subject) {
    return switch (subject) {
      case Subject.OfGroup(GroupKey key) -> {
        Group group = catalogue.groups().get(key);
        yield group == null ? null : group.account();
      }
      case Subject.OfAccount(AccountKey key) -> key;
      case Subject.OfPattern(PatternKey key) -> {
        var pattern = catalogue.patterns().get(key);
        yield pattern == null ? null : pattern.account();
      }
      case Subject.OfPrincipal _, Subject.Public _ -> null;
    };
  }

  private Stretch cut(Stretch it, @Nullable AccountKey within) {
    if (within == null) {
      return it;
    }
    int top = position(ResourceKey.of(within));
    return new Stretch(Math.max(it.from(), top), Math.min(it.to(), end[top]), it.floor());
  }

  /** The fixed terms of a clause, but its type, as stretches of positions. */
  private List<Stretch> stretches(Clause clause) {
    List<Stretch> known = stretches.get(clause);
    if (known == null) {
      known = List.of(new Stretch(0, places.size(), -1));
      for (Term term : clause.terms()) {
        List<Stretch> both = new ArrayList<>();
        for (Stretch one : known) {
          for (Stretch other : of(term)) {
            int from = Math.max(one.from(), other.from());
            int to = Math.min(one.to(), other.to());
            if (from < to) {
              both.add(new Stretch(from, to, Math.max(one.floor(), other.floor())));
            }
          }
        }
        known = both;
      }
      stretches.put(clause, known);
    }
    return known;
  }

  private List<Stretch> of(Term term) {
    return switch (term) {
      case Term.Tree(ResourceKey key) -> List.of(tree(position(key), position(key)));
      case Term.Only(ResourceKey key) ->
          List.of(new Stretch(position(key), position(key) + 1, position(key)));
      case Term.InCollection(CollectionKey key) -> members(key);
      case Term.InAccount(AccountKey key) -> {
        int floor = position(ResourceKey.of(key));
        yield singles(at -> key.equals(catalogue.accountOf(places.get(at))), _ -> floor);
      }
      case Term.InUnit(UnitKey key) ->
          singles(
              at -> {
                UnitKey unit = catalogue.unitOf(places.get(at));
                return unit != null && catalogue.isAtOrBelow(unit, key);
              },
              at -> position(ResourceKey.of(account(places.get(at)))));
      case Term.Labelled(Map<String, String> wanted) ->
          singles(
              at -> catalogue.labelsOf(places.get(at)).entrySet().containsAll(wanted.entrySet()),
              _ -> -1);
      case Term.OwnedBy(Term.Owner owner) when owner == Term.Owner.NONE ->
          singles(at -> catalogue.ownerOf(places.get(at)) == null, _ -> -1);
      case Term.Everything _, Term.OwnAccount _, Term.OfType _, Term.OwnUnit _, Term.OwnedBy _ ->
          List.of(new Stretch(0, places.size(), -1));
    };
  }

  private Stretch tree(int at, int floor) {
    return new Stretch(at, end[at], floor);
  }

  /** Members that lie below another are left out. */
  private List<Stretch> members(CollectionKey key) {
    ResourceCollection collection = catalogue.collections().get(key);
    Deque<Stretch> found = new ArrayDeque<>();
    if (collection != null) {
      collection.members().stream()
          .map(this::position)
          .sorted()
          .filter(at -> found.isEmpty() || found.getLast().to() <= at)
          .forEach(at -> found.add(tree(at, -1)));
    }
    return List.copyOf(found);
  }

  /** Positions one by one, neighbours of the same floor joined. */
  private List<Stretch> singles(
      java.util.function.IntPredicate covered, java.util.function.IntUnaryOperator floor) {
    List<Stretch> found = new ArrayList<>();
    for (int at = 0; at < places.size(); at++) {
      if (covered.test(at)) {
        Stretch last = found.isEmpty() ? null : found.getLast();
        if (last != null && last.to() == at && last.floor() == floor.applyAsInt(at)) {
          found.set(found.size() - 1, new Stretch(last.from(), at + 1, last.floor()));
        } else {
          found.add(new Stretch(at, at + 1, floor.applyAsInt(at)));
        }
      }
    }
    return found;
  }
}
