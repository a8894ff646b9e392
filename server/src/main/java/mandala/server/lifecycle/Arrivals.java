package mandala.server.lifecycle;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mandala.core.analysis.Peers;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.model.About;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Thing;
import mandala.core.model.Unit;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.UnitKey;
import mandala.server.authorization.RequestContext;
import org.jspecify.annotations.Nullable;

/**
 * Reads a list of people into an account, row by row: who is new, who is there already, and what is
 * wrong with the rest. Not thread-safe.
 */
final class Arrivals {

  /** What a row comes to. */
  enum State {
    NEW,
    KNOWN,
    FAULTY
  }

  /**
   * A row that was read.
   *
   * @param known whom it names, where the viewer may read them
   * @param faults what is wrong, in sentences
   * @param groups that they join
   */
  record Arrival(
      ArrivalTable.Row row,
      State state,
      String name,
      String email,
      @Nullable Principal known,
      List<String> faults,
      @Nullable Principal fresh,
      List<Group> groups) {}

  private final RequestContext context;
  private final AccountKey account;
  private final Map<String, String> mapping;
  private final Map<String, Principal> byAddress = new HashMap<>();
  private final Map<String, List<Thing>> units = new HashMap<>();
  private final Map<String, List<Thing>> groups = new HashMap<>();
  private final Map<String, List<Thing>> people = new HashMap<>();
  private final Set<String> keys = new HashSet<>();
  private final Map<String, Long> seen = new HashMap<>();

  Arrivals(Catalogue in, RequestContext context, AccountKey account, Map<String, String> mapping) {
    this.context = context;
    this.account = account;
    this.mapping = mapping;
    for (Principal it : in.principals().values()) {
      keys.add(it.key().value());
      if (it.email() != null) {
        byAddress.put(it.email().toLowerCase(Locale.ROOT), it);
      }
      if (context.readPolicy().mayRead(it)) {
        put(people, it, it.key().value(), it.email());
      }
    }
    for (Unit it : in.units().values()) {
      if (it.account().equals(account) && context.naming().tells(Kind.UNITS, it.key().value())) {
        put(units, it, it.key().value(), null);
      }
    }
    for (Group it : in.groups().values()) {
      if (!it.retired() && context.readPolicy().mayRead(it, in)) {
        put(groups, it, it.key().value(), null);
      }
    }
  }

  private static void put(
      Map<String, List<Thing>> all, Thing it, String key, @Nullable String address) {
    Set<String> names = new HashSet<>();
    names.add(key);
    if (it.about().name() != null) {
      names.add(plain(it.about().name()));
    }
    if (address != null) {
      names.add(plain(address));
    }
    names.forEach(name -> all.computeIfAbsent(name, _ -> new ArrayList<>()).add(it));
  }

  private static String plain(String text) {
    return text.strip().toLowerCase(Locale.ROOT);
  }

  private String cell(ArrivalTable.Row row, String fact) {
    String column = mapping.get(fact);
    return column == null ? "" : row.cell(column);
  }

  /** {@return what a row comes to}; rows are read in their order, so that doubles are seen */
  Arrival read(ArrivalTable.Row row) {
    String name = cell(row, "name");
    String email = cell(row, "email");
    List<String> faults = new ArrayList<>();
    if (name.isEmpty()) {
      faults.add("There is no name.");
    } else if (name.length() > 200) {
      faults.add("The name is longer than 200 characters.");
    }
    Principal known = email.isEmpty() ? null : byAddress.get(plain(email));
    if (!email.isEmpty() && !Newcomer.isAddress(email)) {
      faults.add("'" + email + "' is no e-mail address.");
    }
    Long before = email.isEmpty() ? null : seen.putIfAbsent(plain(email), row.line());
    if (before != null) {
      faults.add("The address is on line " + before + " already.");
    }
    if (known != null && faults.isEmpty()) {
      return new Arrival(
          row,
          State.KNOWN,
          name,
          email,
          context.readPolicy().mayRead(known) ? known : null,
          List.of(),
          null,
          List.of());
    }
    Unit unit = (Unit) one(units, cell(row, "unit"), "unit", faults);
    Principal manager = (Principal) one(people, cell(row, "manager"), "manager", faults);
    List<Group> joins = new ArrayList<>();
    for (String each : cell(row, "group").split(";", -1)) {
      Group group = (Group) one(groups, each, "group", faults);
      if (group != null) {
        joins.add(group);
      }
    }
    Window window = window(row, faults);
    PrincipalKey key = key(cell(row, "key"), name, faults);
    if (!faults.isEmpty()) {
      return new Arrival(
          row, State.FAULTY, name, email, null, List.copyOf(faults), null, List.of());
    }
    keys.add(key.value());
    String title = cell(row, "title");
    Principal fresh =
        new Principal(
            key,
            About.named(name),
            Principal.Kind.PERSON,
            account,
            unit == null ? null : new UnitKey(unit.key().value()),
            manager == null ? null : manager.key(),
            Principal.Status.INVITED,
            window,
            false,
            title.isEmpty() ? Map.of() : Map.of(Peers.TITLE, title),
            null,
            List.of(),
            email.isEmpty() ? null : email,
            null,
            null);
    return new Arrival(row, State.NEW, name, email, null, List.of(), fresh, joins);
  }

  private static @Nullable Thing one(
      Map<String, List<Thing>> all, String named, String what, List<String> faults) {
    if (named.isBlank()) {
      return null;
    }
    List<Thing> found = all.getOrDefault(plain(named), List.of());
    if (found.size() == 1) {
      return found.getFirst();
    }
    faults.add(
        found.isEmpty()
            ? "There is no "
                + what
                + " '"
                + named.strip()
                + (what.equals("unit") ? "' in this account." : "' that you can choose.")
            : "Several are called '" + named.strip() + "': use the key of the " + what + ".");
    return null;
  }

  private Window window(ArrivalTable.Row row, List<String> faults) {
    Instant from = day(cell(row, "from"), faults);
    Instant until = day(cell(row, "until"), faults);
    if (from != null && until != null && !from.isBefore(until)) {
      faults.add("The last day is not after the first.");
    }
    return new Window(from, until);
  }

  private static @Nullable Instant day(String text, List<String> faults) {
    if (text.isEmpty()) {
      return null;
    }
    try {
      return LocalDate.parse(text).atStartOfDay(ZoneOffset.UTC).toInstant();
    } catch (DateTimeParseException _) {
      faults.add("'" + text + "' is no day: write 2026-11-28.");
      return null;
    }
  }

  private PrincipalKey key(String written, String name, List<String> faults) {
    if (written.isEmpty()) {
      return Newcomer.key(name, keys::contains);
    }
    String key = written.toLowerCase(Locale.ROOT);
    if (!key.matches("[a-z0-9][a-z0-9._-]*")
        || key.startsWith("mandala.")
        || key.equals(PrincipalKey.ANONYMOUS.value())) {
      faults.add("'" + written + "' can't be a key: use small letters, digits, hyphens and dots.");
    } else if (keys.contains(key)) {
      faults.add("The key '" + key + "' is taken.");
    }
    return new PrincipalKey(key.isEmpty() ? "person" : key);
  }

  /** {@return the changes that bring new people in}, each group changed once */
  static List<Change> changes(List<Arrival> arrivals) {
    List<Change> changes = new ArrayList<>();
    Map<GroupKey, Group> joined = new LinkedHashMap<>();
    Map<GroupKey, Group> was = new HashMap<>();
    for (Arrival it : arrivals) {
      Principal fresh = it.fresh();
      if (fresh == null) {
        continue;
      }
      changes.add(new Change.Added(fresh));
      for (Group group : it.groups()) {
        was.putIfAbsent(group.key(), group);
        joined.merge(
            group.key(),
            Rewritten.with(group, new Group.Member.OfPrincipal(fresh.kind(), fresh.key())),
            (one, _) ->
                Rewritten.with(one, new Group.Member.OfPrincipal(fresh.kind(), fresh.key())));
      }
    }
    joined.forEach((key, after) ->
        changes.add(new Change.Altered(Objects.requireNonNull(was.get(key)), after)));
    return changes;
  }
}
