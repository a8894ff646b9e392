package mandala.server.lifecycle;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;
import mandala.core.analysis.Peers;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.model.About;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Principal;
import mandala.core.model.Unit;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.UnitKey;
import mandala.server.authorization.RequestContext;
import mandala.server.field.DeclaredField;
import mandala.server.field.DeclaredFields;
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
  private final ListedThings there;
  private final Map<String, DeclaredField> declared;
  private final Set<String> keys = new HashSet<>();
  private final Map<String, Long> seen = new HashMap<>();

  /**
   * Looks through a model once.
   *
   * @param declared fields that hold in the account, by key
   */
  Arrivals(
      Catalogue in,
      RequestContext context,
      AccountKey account,
      Map<String, String> mapping,
      Map<String, DeclaredField> declared) {
    this.declared = declared;
    this.context = context;
    this.account = account;
    this.mapping = mapping;
    this.there = new ListedThings(in, context, account::equals);
    in.principals().keySet().forEach(it -> keys.add(it.value()));
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
    Principal known = email.isEmpty() ? null : there.byAddress(email);
    if (!email.isEmpty() && !Newcomer.isAddress(email)) {
      faults.add("'" + email + "' is no e-mail address.");
    }
    Long before = email.isEmpty() ? null : seen.putIfAbsent(ListedThings.plain(email), row.line());
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
    Unit unit = there.unit(cell(row, "unit"), faults);
    Principal manager = there.manager(cell(row, "manager"), faults);
    List<Group> joins = new ArrayList<>();
    for (String each : cell(row, "group").split(";", -1)) {
      Group group = there.group(each, faults);
      if (group != null) {
        joins.add(group);
      }
    }
    Window window = ListedThings.window(cell(row, "from"), cell(row, "until"), faults);
    Map<String, String> attributes = attributes(row);
    faults.addAll(DeclaredFields.faults(declared, Principal.Kind.PERSON, attributes));
    PrincipalKey key = key(cell(row, "key"), name, faults);
    if (!faults.isEmpty()) {
      return new Arrival(
          row, State.FAULTY, name, email, null, List.copyOf(faults), null, List.of());
    }
    keys.add(key.value());
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
            attributes,
            null,
            List.of(),
            email.isEmpty() ? null : email,
            null,
            null);
    return new Arrival(row, State.NEW, name, email, null, List.of(), fresh, joins);
  }

  private Map<String, String> attributes(ArrivalTable.Row row) {
    Map<String, String> attributes = new HashMap<>();
    Stream.concat(Stream.of(Peers.TITLE), declared.keySet().stream())
        .forEach(it -> {
          String value = cell(row, it);
          if (!value.isEmpty()) {
            attributes.put(it, value);
          }
        });
    return attributes;
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
