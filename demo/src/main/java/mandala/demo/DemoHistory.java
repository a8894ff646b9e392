package mandala.demo;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.function.Function;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.Rewritten;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.UnitKey;

/**
 * How the demo came to be as it is: half a year of revisions, the oldest first, the same at every
 * call. Told backwards from the model of today, so that the last of them leaves exactly that: each
 * step says what to take back of the model as it then stood.
 *
 * @param first the model before all of them
 * @param began when that was
 * @param revisions one after the other
 */
public record DemoHistory(AccessModel first, Instant began, List<Made> revisions) {

  private static final long SEED = 20_260_525L;
  private static final Instant BEGAN = Instant.parse("2026-05-25T08:00:00Z");
  private static final int WEEKS = 25;

  /** Copies its revisions. */
  public DemoHistory {
    revisions = List.copyOf(revisions);
  }

  /**
   * A revision.
   *
   * @param author who made it
   * @param title what the draft was called
   */
  public record Made(Instant at, PrincipalKey author, String title, List<Change> changes) {
    /** Copies its changes. */
    public Made {
      changes = List.copyOf(changes);
    }
  }

  /** What to take back, of the model that it left. */
  private record Step(
      Instant at, String author, String title, Function<Catalogue, List<Change>> undo) {}

  /** {@return the half year before a model}, which is the demo's */
  public static DemoHistory of(AccessModel now) {
    List<Step> steps = new ArrayList<>(told());
    steps.addAll(weekly(now));
    steps.sort(Comparator.comparing(Step::at).reversed());
    List<Made> made = new ArrayList<>();
    Catalogue at = new Catalogue(now);
    for (Step step : steps) {
      List<Change> undo = step.undo().apply(at);
      Catalogue before = Draft.of(undo).appliedUnchecked(at);
      List<Change> changes = undo.stream().map(Change::inverse).toList();
      made.addFirst(new Made(step.at(), new PrincipalKey(step.author()), step.title(), changes));
      at = before;
    }
    return new DemoHistory(at.model().sorted(), BEGAN, made);
  }

  /** What the planted troubles come from. */
  private static List<Step> told() {
    return List.of(
        step(
            "2026-06-02T09:10:00Z",
            "ilse.varga",
            "Odile moves to Quillhaven",
            DemoHistory::odileMoves),
        step(
            "2026-06-09T10:00:00Z",
            "marten.holloway",
            "The archive is sealed",
            it -> {
              Account osier = it.accounts().get(new AccountKey("osier"));
              return osier == null
                  ? List.of()
                  : List.of(new Change.Altered(osier, Rewritten.unsealed(osier)));
            }),
        step(
            "2026-06-24T14:30:00Z",
            "ilse.varga",
            "A second catalogue role",
            it ->
                List.of(
                    removed(it, Kind.ASSIGNMENTS, "hester-records"),
                    removed(it, Kind.ROLES, "records-cataloguer"))),
        step(
            "2026-06-30T16:20:00Z",
            "ilse.varga",
            "Hanne Sorrel leaves",
            it -> {
              Principal hanne = person(it, "hanne.sorrel");
              return List.of(
                  new Change.Altered(hanne, Rewritten.status(hanne, Principal.Status.ACTIVE)));
            }),
        step(
            "2026-07-20T11:05:00Z",
            "ilse.varga",
            "Closed papers for the archive",
            it -> {
              Group readers = it.groups().get(new GroupKey("o-closed-readers"));
              Group.Member staff = new Group.Member.OfGroup(new GroupKey("o-staff"));
              return readers == null
                  ? List.of()
                  : List.of(new Change.Altered(readers, Rewritten.without(readers, staff)));
            }),
        step(
            "2026-08-17T09:40:00Z",
            "ilse.varga",
            "Petra signs while Samir is away",
            undoing(Kind.ASSIGNMENTS, "petra-signs")),
        step(
            "2026-09-03T15:15:00Z",
            "ilse.varga",
            "Labels are printed by the printer",
            undoing(Kind.ASSIGNMENTS, "printer-registrar")),
        step(
            "2026-09-21T13:00:00Z",
            "ilse.varga",
            "Volunteers do not lend",
            undoing(Kind.ASSIGNMENTS, "t-volunteers-no-desk")),
        step(
            "2026-10-01T08:30:00Z",
            "ilse.varga",
            "Nell Harrow looks at three clocks",
            it -> {
              List<Change> undo = new ArrayList<>();
              undo.add(removed(it, Kind.ASSIGNMENTS, "nell-clocks"));
              it.guests().stream()
                  .filter(guest -> guest.principal().value().equals("nell.harrow"))
                  .forEach(guest -> undo.add(new Change.Removed(guest)));
              return undo;
            }),
        step(
            "2026-10-12T10:45:00Z",
            "ilse.varga",
            "Noor deputises, when switched on",
            undoing(Kind.ASSIGNMENTS, "noor-deputy")),
        step(
            "2026-10-30T17:00:00Z",
            "petra.lowe",
            "Noor acts for me while I am away",
            undoing(Kind.DELEGATIONS, "petra-leave")),
        step(
            "2026-11-09T09:00:00Z",
            "ilse.varga",
            "No moving for Ines until better",
            undoing(Kind.ASSIGNMENTS, "ines-no-disposal")));
  }

  private static Step step(
      String at, String author, String title, Function<Catalogue, List<Change>> undo) {
    return new Step(Instant.parse(at), author, title, undo);
  }

  private static Function<Catalogue, List<Change>> undoing(Kind kind, String key) {
    return it -> List.of(removed(it, kind, key));
  }

  private static Change removed(Catalogue in, Kind kind, String key) {
    Thing thing = in.find(kind, key).getFirst();
    return new Change.Removed(thing);
  }

  private static Principal person(Catalogue in, String key) {
    Principal it = in.principals().get(new PrincipalKey(key));
    if (it == null) {
      throw new IllegalStateException("Impossible state: the demo lacks " + key);
    }
    return it;
  }

  /** Before, she was at home in Fernwick, and no guest there. */
  private static List<Change> odileMoves(Catalogue it) {
    Principal odile = person(it, "odile.farrow");
    List<Change> undo = new ArrayList<>();
    it.guests().stream()
        .filter(guest -> guest.principal().equals(odile.key()))
        .forEach(guest -> undo.add(new Change.Removed(guest)));
    undo.add(
        new Change.Altered(
            odile, Rewritten.home(odile, new AccountKey("fernwick"), new UnitKey("f-registry"))));
    return undo;
  }

  /** Who has a story of their own. */
  private static final Set<String> TOLD_OF =
      Set.of(
          "bas.quill",
          "dario.penn",
          "gil.moreau",
          "hester.vane",
          "ilse.varga",
          "ines.marlow",
          "marten.holloway",
          "nell.harrow",
          "noor.haddad",
          "odile.farrow",
          "petra.lowe",
          "samir.dalca",
          "tomas.brandt",
          "vera.lindqvist");

  /** Somebody comes or changes their job every week; each of them once. */
  private static List<Step> weekly(AccessModel now) {
    Random random = new Random(SEED);
    List<Principal> people =
        new ArrayList<>(
            now.principals().stream()
                .filter(it -> it.kind() == Principal.Kind.PERSON && it.pattern() == null)
                .filter(it -> it.status() == Principal.Status.ACTIVE)
                .filter(it -> !it.account().value().equals("dunlow"))
                .filter(it -> !TOLD_OF.contains(it.key().value()))
                .toList());
    Collections.shuffle(people, random);
    List<Step> steps = new ArrayList<>();
    for (int week = 0; week < WEEKS; week++) {
      String who = people.get(week).key().value();
      String name = people.get(week).about().nameOr(people.get(week).key());
      String before = title(people.get(WEEKS + random.nextInt(people.size() - WEEKS)));
      Instant at =
          BEGAN
              .plus(Duration.ofDays(7L * week + 1 + random.nextInt(4)))
              .plus(Duration.ofMinutes(random.nextInt(540)));
      String author =
          people.get(week).account().value().equals("fernwick") ? "dario.penn" : "ilse.varga";
      boolean begins = week % 3 == 2;
      steps.add(
          new Step(
              at,
              author,
              name + (begins ? " begins" : " changes jobs"),
              it -> begins ? invited(person(it, who)) : titled(person(it, who), before)));
    }
    return steps;
  }

  private static String title(Principal it) {
    return it.attributes().getOrDefault("title", "Volunteer");
  }

  private static List<Change> invited(Principal it) {
    return List.of(new Change.Altered(it, Rewritten.status(it, Principal.Status.INVITED)));
  }

  private static List<Change> titled(Principal it, String title) {
    Map<String, String> attributes = new HashMap<>(it.attributes());
    String was = attributes.put("title", title);
    if (title.equals(was)) { // the same job elsewhere
      attributes.put("title", "Volunteer");
    }
    return List.of(
        new Change.Altered(it, Rewritten.facts(it, it.unit(), it.manager(), attributes)));
  }
}
