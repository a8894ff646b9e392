package mandala.server.lifecycle;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.lifecycle.PersonnelList;
import mandala.core.lifecycle.PersonnelList.Entry;
import mandala.core.lifecycle.PersonnelList.Step;
import mandala.core.lifecycle.PersonnelList.What;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.Unit;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.UnitKey;
import mandala.server.authorization.RequestContext;
import org.jspecify.annotations.Nullable;

/** Reads a list of the personnel office with the eyes of somebody. Not thread-safe. */
final class PersonnelReader {

  /** The most rows of one list. */
  static final int MOST = 200_000;

  /** Facts that a column can hold. */
  static final List<String> FACTS =
      List.of("number", "name", "email", "title", "unit", "manager", "from", "until");

  /** A row that could not be read. */
  record Faulty(ArrivalTable.Row row, String name, String number, List<String> why) {}

  /**
   * A list that was read.
   *
   * @param mapping which column holds which fact
   * @param steps what it does
   * @param holds how many people it owns before it
   */
  record Read(
      ArrivalTable table,
      Map<String, String> mapping,
      List<Faulty> faulty,
      List<Step> steps,
      int unchanged,
      int holds) {

    int count(What what) {
      return (int) steps.stream().filter(it -> it.what() == what).count();
    }

    /** {@return whether it would remove more than a share of its people}, in percent */
    boolean removesMoreThan(int share) {
      return 100L * count(What.LEAVES) > (long) share * holds;
    }

    /** {@return the rows that were not taken as a file}, null where there is none */
    @Nullable String notTaken() {
      return table.fileOf(
          faulty.stream()
              .map(it -> new ArrivalTable.Left(it.row(), String.join(" ", it.why())))
              .toList());
    }
  }

  /** A row whose person is known; their manager is looked for when all rows are. */
  private record Begun(ArrivalTable.Row row, Entry entry, List<String> faults) {}

  private final Catalogue in;
  private final RequestContext context;
  private final ArrivalTable table;
  private final Map<String, String> mapping;
  private final PersonnelList list;
  private final ListedThings there;
  private final Map<String, List<Principal>> byNumber = new HashMap<>();
  private final Map<String, PrincipalKey> numbers = new HashMap<>();
  private final Set<String> keys = new HashSet<>();
  private final Map<PrincipalKey, Long> lines = new HashMap<>();
  private final Map<String, Long> addresses = new HashMap<>();

  private PersonnelReader(String text, PersonnelOrder order, RequestContext context) {
    this.context = context;
    in = context.state().engine().catalogue();
    table = ArrivalTable.table(text, MOST);
    mapping = table.mapping(ArrivalTable.facts(FACTS, Map.of()), order.columns());
    list = order.list(mapping);
    there = new ListedThings(in, context, it -> in.isAtOrBelow(it, list.account()));
    for (Principal it : in.principals().values()) {
      keys.add(it.key().value());
      if (list.owns(in, it) && context.readPolicy().mayRead(it)) {
        byNumber
            .computeIfAbsent(
                ListedThings.plain(it.attributes().getOrDefault(PersonnelList.NUMBER, "")),
                _ -> new ArrayList<>())
            .add(it);
      }
    }
  }

  /**
   * {@return what a list does in the model in force}
   *
   * @throws mandala.server.platform.Problem if it is no table, or too long
   */
  static Read read(String text, PersonnelOrder order, RequestContext context) {
    return new PersonnelReader(text, order, context).read();
  }

  private String cell(ArrivalTable.Row row, String fact) {
    String column = mapping.get(fact);
    return column == null ? "" : row.cell(column);
  }

  private Read read() {
    List<Begun> begun = table.rows().stream().map(this::begin).toList();
    Map<PrincipalKey, Begun> whole = new LinkedHashMap<>();
    List<Faulty> faulty = new ArrayList<>();
    Set<PrincipalKey> spared = new HashSet<>();
    for (Begun it : begun) {
      Entry entry = managed(it);
      if (it.faults().isEmpty()) {
        whole.put(entry.who(), new Begun(it.row(), entry, it.faults()));
      } else {
        faulty.add(faulty(it));
        spared.add(entry.who());
      }
    }
    for (PrincipalKey it : inCircles(whole)) {
      Begun one = whole.remove(it);
      if (one != null) {
        one.faults().add("They would manage themselves, through others.");
        faulty.add(faulty(one));
        spared.add(it);
      }
    }
    List<Step> all =
        list.steps(
            in,
            whole.values().stream().map(Begun::entry).toList(),
            spared,
            context.readPolicy().now());
    List<Step> steps =
        all.stream()
            .filter(it -> {
              Principal before = it.before();
              return before == null || context.readPolicy().mayRead(before);
            })
            .toList();
    int changed = (int) steps.stream().filter(it -> it.what() != What.LEAVES).count();
    return new Read(table, mapping, faulty, steps, whole.size() - changed, holds());
  }

  private int holds() {
    return (int)
        byNumber.values().stream().flatMap(List::stream).filter(it -> list.holds(in, it)).count();
  }

  private static Faulty faulty(Begun it) {
    return new Faulty(it.row(), it.entry().name(), it.entry().number(), List.copyOf(it.faults()));
  }

  private Begun begin(ArrivalTable.Row row) {
    List<String> faults = new ArrayList<>();
    String number = cell(row, "number");
    String name = cell(row, "name");
    String email = cell(row, "email");
    if (number.isEmpty()) {
      faults.add("There is no personnel number.");
    } else if (number.length() > 100) {
      faults.add("The personnel number is longer than 100 characters.");
    }
    if (name.isEmpty()) {
      faults.add("There is no name.");
    } else if (name.length() > 200) {
      faults.add("The name is longer than 200 characters.");
    }
    Principal known = known(number, email, faults);
    PrincipalKey who =
        known == null
            ? Newcomer.key(name.isEmpty() ? "person" : name, keys::contains)
            : known.key();
    if (known == null) {
      keys.add(who.value());
    }
    Long before = lines.putIfAbsent(who, row.line());
    if (before == null && !number.isEmpty()) {
      PrincipalKey other = numbers.putIfAbsent(ListedThings.plain(number), who);
      before = other == null ? null : lines.get(other);
    }
    if (before != null) {
      faults.add("The same person is on line " + before + " already.");
    }
    address(row, email, who, faults);
    Unit unit = there.unit(cell(row, "unit"), faults);
    String title = cell(row, "title");
    return new Begun(
        row,
        new Entry(
            number,
            who,
            name,
            email.isEmpty() ? null : email,
            title.isEmpty() ? null : title,
            unit == null ? null : new UnitKey(unit.key().value()),
            null,
            ListedThings.window(cell(row, "from"), cell(row, "until"), faults)),
        faults);
  }

  /** By number, else by address, so that whom Mandala has already gets their number. */
  private @Nullable Principal known(String number, String email, List<String> faults) {
    List<Principal> found = byNumber.getOrDefault(ListedThings.plain(number), List.of());
    if (found.size() > 1) {
      faults.add("Several people have this personnel number: correct it on their pages.");
    }
    Principal it = found.isEmpty() ? null : found.getFirst();
    if (it == null && !email.isEmpty()) {
      Principal has = there.byAddress(email);
      if (has != null
          && list.isPersonOf(in, has)
          && (number.isEmpty() || !list.owns(in, has))
          && context.readPolicy().mayRead(has)) {
        it = has;
      }
    }
    if (it != null && context.cannotChange(it) != null) {
      faults.add("Whoever takes this list can't change them.");
    }
    return it;
  }

  private void address(ArrivalTable.Row row, String email, PrincipalKey who, List<String> faults) {
    if (email.isEmpty()) {
      return;
    }
    if (!Newcomer.isAddress(email)) {
      faults.add("'" + email + "' is no e-mail address.");
    }
    Principal has = there.byAddress(email);
    if (has != null && !has.key().equals(who)) {
      faults.add("Somebody else has the address '" + email + "'.");
    }
    Long before = addresses.putIfAbsent(ListedThings.plain(email), row.line());
    if (before != null) {
      faults.add("The address is on line " + before + " already.");
    }
  }

  /** A manager is named by number, or as in any list. */
  private Entry managed(Begun it) {
    String named = cell(it.row(), "manager");
    Entry entry = it.entry();
    PrincipalKey manager = named.isEmpty() ? null : numbers.get(ListedThings.plain(named));
    if (manager == null && !named.isEmpty()) {
      List<Principal> numbered = byNumber.getOrDefault(ListedThings.plain(named), List.of());
      Principal found =
          numbered.size() == 1 ? numbered.getFirst() : there.manager(named, it.faults());
      manager = found == null ? null : found.key();
    }
    if (entry.who().equals(manager)) {
      it.faults().add("Nobody manages themselves.");
    }
    return new Entry(
        entry.number(),
        entry.who(),
        entry.name(),
        entry.email(),
        entry.title(),
        entry.unit(),
        manager,
        entry.window());
  }

  /** {@return who of the list would be above themselves after it} */
  private Set<PrincipalKey> inCircles(Map<PrincipalKey, Begun> whole) {
    Set<PrincipalKey> in = new HashSet<>();
    if (!list.owned().contains(PersonnelList.Fact.MANAGER)) {
      return in;
    }
    Set<PrincipalKey> done = new HashSet<>();
    for (PrincipalKey start : whole.keySet()) {
      List<PrincipalKey> path = new ArrayList<>();
      Set<PrincipalKey> on = new HashSet<>();
      PrincipalKey at = start;
      while (at != null && !done.contains(at) && on.add(at)) {
        path.add(at);
        at = above(at, whole);
      }
      if (at != null && on.contains(at)) {
        in.addAll(path.subList(path.indexOf(at), path.size()));
      }
      done.addAll(path);
    }
    return in;
  }

  private @Nullable PrincipalKey above(PrincipalKey at, Map<PrincipalKey, Begun> whole) {
    Begun listed = whole.get(at);
    if (listed != null) {
      return listed.entry().manager();
    }
    Principal it = in.principals().get(at);
    return it == null ? null : it.manager();
  }
}
