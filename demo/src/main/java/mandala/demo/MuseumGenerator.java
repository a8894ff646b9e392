package mandala.demo;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import mandala.core.model.AccessModel;
import mandala.core.model.Clause;
import mandala.core.model.Principal;
import mandala.core.model.Rule;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.TypeKey;

/**
 * One museum: its units, people, groups, places and the assignments that every museum has. The
 * generator fills what the hand-written heart leaves open, up to the wanted size.
 */
final class MuseumGenerator {

  private static final List<String> THINGS =
      List.of(
          "chest",
          "map",
          "chart",
          "figure",
          "bowl",
          "lantern",
          "ledger",
          "portrait",
          "cloak",
          "clock",
          "model",
          "flag",
          "letter",
          "print",
          "whistle",
          "compass",
          "tapestry",
          "bell",
          "mask",
          "box",
          "drawing",
          "medal",
          "jug",
          "panel");
  private static final List<String> OF =
      List.of(
          "captain's",
          "weaver's",
          "miner's",
          "gilded",
          "painted",
          "carved",
          "broken",
          "small",
          "great",
          "harbour",
          "winter",
          "wedding",
          "travelling",
          "silver",
          "oak",
          "blue",
          "unsigned",
          "early",
          "late",
          "fisher's",
          "smith's",
          "double",
          "child's",
          "royal");
  private static final List<String> SUPPLIERS =
      List.of("Crane & Sons", "Northlight Frames", "Pale Paper", "Halden Glass", "Orrery Lamps");
  private static final List<String> DONORS =
      List.of("A friend", "The Ashby fund", "A sailor's family", "The Vell estate", "A reader");
  private static final List<String> STOCK =
      List.of("Postcards", "Tea towels", "Guide book", "Pencils", "Tote bag", "Jigsaw", "Mugs");
  private static final List<String> SHOWS =
      List.of("Low Water", "Long Threads", "After the Fire", "Hands", "Salt", "The Quiet Room");

  /** A job: its title, the end of its unit's key, and how often it occurs among a hundred. */
  private record Job(String title, String unit, int share) {}

  private static final List<Job> JOBS =
      List.of(
          new Job("Registrar", "registry", 10),
          new Job("Cataloguer", "registry", 10),
          new Job("Loans officer", "loans", 9),
          new Job("Art handler", "loans", 6),
          new Job("Curator", "care", 9),
          new Job("Conservator", "care", 8),
          new Job("Exhibitions officer", "shows", 8),
          new Job("Development officer", "office", 6),
          new Job("Buyer", "office", 4),
          new Job("Shop assistant", "front", 9),
          new Job("Guard", "house", 12),
          new Job("Building engineer", "house", 4),
          new Job("Visits officer", "front", 5));

  final String key;
  final String prefix;
  private final String name;
  private final AccessModel.Builder model;
  private final Random random;
  private final Names names;
  private final Map<String, List<String>> byTitle = new java.util.LinkedHashMap<>();
  private int people;

  MuseumGenerator(
      String key,
      String name,
      String prefix,
      AccessModel.Builder model,
      Random random,
      Names names) {
    this.key = key;
    this.name = name;
    this.prefix = prefix;
    this.model = model;
    this.random = random;
    this.names = names;
  }

  String at(String suffix) {
    return prefix + "-" + suffix;
  }

  void units() {
    model.add(
        DemoBuilders.unit(at("direction"), "Direction", key),
        DemoBuilders.unit(at("registry"), "Registry", key),
        DemoBuilders.unit(at("loans"), "Loans desk", key),
        DemoBuilders.unit(at("care"), "Object care", key),
        DemoBuilders.unit(at("shows"), "Exhibitions", key),
        DemoBuilders.unit(at("office"), "Office", key),
        DemoBuilders.unit(at("front"), "Front of house", key),
        DemoBuilders.unit(at("house"), "House and security", key));
  }

  /** Adds somebody by hand, and remembers the title. */
  Principal add(String who, String unit, String manager, String title, boolean mfa) {
    return add(
        DemoBuilders.person(
            who, key, at(unit), manager.isEmpty() ? null : Names.key(manager), title, mfa, seen()));
  }

  Principal add(Principal person) {
    model.add(person);
    people++;
    byTitle
        .computeIfAbsent(person.attributes().getOrDefault("title", ""), _ -> new ArrayList<>())
        .add(person.key().value());
    return person;
  }

  private Instant seen() {
    int days = random.nextInt(10) < 8 ? random.nextInt(6) : random.nextInt(70);
    return Instant.parse("2026-11-23T06:00:00Z")
        .minusSeconds(days * 86_400L + random.nextInt(36_000));
  }

  /** Fills up to a number of people; the director leads, a head leads each unit. */
  void fill(int wanted) {
    String director = add(names.next(), "direction", "", "Museum director", true).key().value();
    Map<String, String> heads = new java.util.LinkedHashMap<>();
    List<Job> headJobs =
        List.of(
            new Job("Head registrar", "registry", 1),
            new Job("Loans lead", "loans", 1),
            new Job("Keeper of the collection", "care", 1),
            new Job("Head of exhibitions", "shows", 1),
            new Job("Head of development", "office", 1),
            new Job("Shop manager", "front", 1),
            new Job("Head of buildings", "house", 1));
    for (Job job : headJobs) {
      Principal head =
          add(
              DemoBuilders.person(
                  names.next(), key, at(job.unit()), director, job.title(), true, seen()));
      heads.put(job.unit(), head.key().value());
    }
    int next = 0;
    while (people < wanted) {
      Job job = JOBS.get(pick(next++));
      add(
          DemoBuilders.person(
              names.next(),
              key,
              at(job.unit()),
              heads.get(job.unit()),
              job.title(),
              random.nextInt(3) == 0,
              seen()));
    }
  }

  private int pick(int turn) {
    if (turn < JOBS.size()) {
      return turn; // every house has every job
    }
    int at = random.nextInt(100);
    for (int i = 0; i < JOBS.size(); i++) {
      at -= JOBS.get(i).share();
      if (at < 0) {
        return i;
      }
    }
    return 0;
  }

  String head(String title) {
    return all(title).getFirst();
  }

  List<String> all(String title) {
    return byTitle.getOrDefault(title, List.of());
  }

  void groups() {
    model.add(
        DemoBuilders.ruled(
            at("staff"),
            name + " staff",
            key,
            new Rule(Rule.Match.ALL, List.of(new Rule.Test("account", Rule.Op.IS, List.of(key))))),
        DemoBuilders.ruled(at("registrars"), "Registrars", key, DemoBuilders.titled("Registrar")),
        DemoBuilders.ruled(
            at("loans-staff"),
            "Loans desk staff",
            key,
            DemoBuilders.titled("Loans officer", "Loans lead")),
        DemoBuilders.ruled(
            at("collections"), "Collections", key, DemoBuilders.titled("Cataloguer", "Curator")),
        DemoBuilders.ruled(at("handlers"), "Art handlers", key, DemoBuilders.titled("Art handler")),
        DemoBuilders.ruled(at("guards"), "Guards", key, DemoBuilders.titled("Guard")),
        DemoBuilders.ruled(
            at("shop-staff"), "Shop staff", key, DemoBuilders.titled("Shop assistant")),
        DemoBuilders.ruled(
            at("show-makers"),
            "Exhibition makers",
            key,
            DemoBuilders.titled("Exhibitions officer")));
  }

  void assignments() {
    toGroup("staff", "staff", DemoBuilders.account(key));
    toGroup(
        "registrars",
        "registrar",
        DemoBuilders.tree(at("rooms")),
        DemoBuilders.tree(at("loans-desk")));
    toGroup("loans-staff", "loans-officer", DemoBuilders.tree(at("loans-desk")));
    toGroup("collections", "cataloguer", DemoBuilders.tree(at("rooms")));
    toGroup(
        "handlers", "handler", DemoBuilders.tree(at("rooms")), DemoBuilders.tree(at("loans-desk")));
    toGroup("guards", "guard", DemoBuilders.tree(at("buildings")), DemoBuilders.tree(at("rooms")));
    model.add(
        DemoBuilders.grant(
            at("guards-strongroom"),
            DemoBuilders.toGroup(at("guards")),
            DemoBuilders.role("strongroom-visitor"),
            DemoBuilders.only(at("strongroom"))));
    toGroup("shop-staff", "shop-assistant", DemoBuilders.tree(at("shop")));
    toGroup("show-makers", "exhibitions-officer", DemoBuilders.tree(at("programme")));
    model.add(
        DemoBuilders.grant(
            at("own-records"),
            new Subject.OfAccount(new AccountKey(key)),
            new mandala.core.model.Gives.OfSet(new PermissionSetKey("cataloguing")),
            Clause.of(new Term.OfType(new TypeKey("object")), new Term.OwnedBy(Term.Owner.SELF))));
    toHead("Museum director", "museum-director", DemoBuilders.account(key));
    toHead(
        "Head registrar",
        "head-registrar",
        DemoBuilders.tree(at("rooms")),
        DemoBuilders.tree(at("strongroom")));
    toHead("Loans lead", "loans-lead", DemoBuilders.tree(at("loans-desk")));
    toHead("Keeper of the collection", "keeper", DemoBuilders.tree(at("rooms")));
    toHead("Keeper of the collection", "strongroom-keeper", DemoBuilders.tree(at("strongroom")));
    toHead("Head of exhibitions", "head-of-exhibitions", DemoBuilders.tree(at("programme")));
    toHead("Head of development", "head-of-development", DemoBuilders.tree(at("donors")));
    toHead("Shop manager", "shop-manager", DemoBuilders.tree(at("shop")));
    toHead("Head of buildings", "head-of-buildings", DemoBuilders.tree(at("buildings")));
    each("Development officer", "development-officer", DemoBuilders.tree(at("donors")));
    each("Buyer", "buyer", DemoBuilders.tree(at("purchasing")));
    each(
        "Conservator",
        "conservator",
        DemoBuilders.tree(at("studio")),
        DemoBuilders.tree(at("rooms")));
    each("Building engineer", "building-engineer", DemoBuilders.tree(at("buildings")));
    each("Visits officer", "visits-officer", DemoBuilders.account(key));
    String engineer = all("Building engineer").getFirst();
    model.add(
        DemoBuilders.onDemand(
            DemoBuilders.grant(
                at("alarm-on-demand"),
                DemoBuilders.toPerson(engineer),
                DemoBuilders.role("security-lead"),
                DemoBuilders.tree(at("buildings")))));
  }

  private void toGroup(String group, String role, Clause... scope) {
    model.add(
        DemoBuilders.grant(
            at(group + "." + role),
            DemoBuilders.toGroup(at(group)),
            DemoBuilders.role(role),
            scope));
  }

  private void toHead(String title, String role, Clause... scope) {
    String who = head(title);
    model.add(
        DemoBuilders.grant(
            who + "." + role, DemoBuilders.toPerson(who), DemoBuilders.role(role), scope));
  }

  private void each(String title, String role, Clause... scope) {
    for (String who : all(title)) {
      model.add(
          DemoBuilders.grant(
              who + "." + role, DemoBuilders.toPerson(who), DemoBuilders.role(role), scope));
    }
  }

  /** Adds the places of a museum, {@code scale} 1 for the largest. */
  void places(double scale) {
    String rooms = top("rooms", "Collection rooms", "collection-room");
    List<String> keepers = new ArrayList<>(all("Cataloguer"));
    keepers.addAll(all("Curator"));
    int roomCount = Math.max(3, (int) Math.round(6 * scale));
    for (int room = 1; room <= roomCount; room++) {
      String key = at("room-" + room);
      model.add(
          DemoBuilders.with(
              DemoBuilders.place(key, "Room " + room, "collection-room", this.key, rooms),
              null,
              at("care"),
              Map.of("zone", room <= 2 ? "public" : "store"),
              false));
      objects(key, (int) (62 * scale), keepers, "r" + room);
    }
    model.add(
        DemoBuilders.with(
            DemoBuilders.place(at("strongroom"), "Strongroom", "strongroom", this.key, null),
            null,
            null,
            Map.of("zone", "secure"),
            true));
    objects(at("strongroom"), (int) (40 * scale), keepers, "v");
    loans(scale);
    many(
        "studio",
        "Conservation",
        "studio",
        "treatment",
        "Treatment",
        (int) (45 * scale),
        "Conservator");
    shows(scale);
    many("donors", "Donors' ledger", "ledger", "gift", "Gift", (int) (60 * scale), "");
    many("purchasing", "Purchasing", "purchasing", "order", "Order", (int) (62 * scale), "Buyer");
    many("payroll", "Payroll", "payroll", "pay-run", "Month", 11, "");
    many(
        "buildings", "Buildings and climate", "building", "probe", "Probe", (int) (30 * scale), "");
    many("shop", "The shop", "shop", "stock-line", "", (int) (40 * scale), "");
  }

  private String top(String suffix, String title, String type) {
    model.add(DemoBuilders.place(at(suffix), title, type, key, null));
    return at(suffix);
  }

  private void objects(String parent, int count, List<String> keepers, String mark) {
    for (int i = 1; i <= count; i++) {
      String title =
          OF.get(random.nextInt(OF.size())) + " " + THINGS.get(random.nextInt(THINGS.size()));
      model.add(
          DemoBuilders.with(
              DemoBuilders.place(
                  at("obj-" + mark + "-" + i),
                  Character.toUpperCase(title.charAt(0)) + title.substring(1),
                  "object",
                  key,
                  parent),
              random.nextInt(4) == 0 ? keepers.get(random.nextInt(keepers.size())) : null,
              null,
              Map.of(),
              false));
    }
  }

  private void loans(double scale) {
    String desk = at("loans-desk");
    model.add(
        DemoBuilders.with(
            DemoBuilders.place(desk, "Loans desk", "loan-desk", key, null),
            null,
            at("loans"),
            Map.of(),
            false),
        DemoBuilders.place(at("loans-out"), "Outgoing, 2026", "loan-desk", key, desk),
        DemoBuilders.place(at("loans-in"), "Incoming, 2026", "loan-desk", key, desk));
    List<String> officers = all("Loans officer");
    int count = (int) (110 * scale);
    for (int i = 1; i <= count; i++) {
      boolean out = i % 3 != 0;
      model.add(
          DemoBuilders.with(
              DemoBuilders.place(
                  at("loan-" + (100 + i)),
                  "Loan " + (100 + i),
                  "loan",
                  key,
                  at(out ? "loans-out" : "loans-in")),
              officers.get(i % officers.size()),
              null,
              Map.of(),
              false));
    }
  }

  private void shows(double scale) {
    String programme = top("programme", "Exhibitions", "programme");
    int count = Math.max(4, (int) (11 * scale));
    for (int i = 0; i < count; i++) {
      String show = SHOWS.get(i % SHOWS.size()) + (i < SHOWS.size() ? "" : " " + (2025 + i / 6));
      model.add(DemoBuilders.place(at("show-" + (i + 1)), show, "exhibition", key, programme));
    }
  }

  private void many(
      String suffix, String title, String topType, String type, String what, int count, String by) {
    String parent = top(suffix, title, topType);
    List<String> owners = all(by);
    for (int i = 1; i <= count; i++) {
      String label =
          switch (type) {
            case "gift" -> DONORS.get(random.nextInt(DONORS.size())) + ", " + (2016 + i % 10);
            case "order" -> SUPPLIERS.get(i % SUPPLIERS.size()) + ", order " + (2600 + i);
            case "stock-line" ->
                STOCK.get(i % STOCK.size()) + " " + (char) ('A' + i / STOCK.size());
            case "pay-run" -> "Wages 2026-" + (i < 10 ? "0" : "") + i;
            default -> what + " " + i;
          };
      model.add(
          DemoBuilders.with(
              DemoBuilders.place(at(type + "-" + i), label, type, key, parent),
              owners.isEmpty() ? null : owners.get(i % owners.size()),
              null,
              Map.of(),
              false));
    }
  }
}
