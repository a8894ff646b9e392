package mandala.core.lifecycle;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.Set;
import mandala.core.analysis.Peers;
import mandala.core.change.Draft;
import mandala.core.change.Rewritten;
import mandala.core.lifecycle.PersonnelList.Entry;
import mandala.core.lifecycle.PersonnelList.Fact;
import mandala.core.lifecycle.PersonnelList.Step;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Principal;
import mandala.core.model.Unit;
import mandala.core.model.Window;
import mandala.core.model.check.ModelCheck;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** What a list of the personnel office does with the people of a museum and its branch. */
class PersonnelListSpec {

  private static final Instant AT = Instant.parse("2026-12-01T00:00:00Z");
  private static final AccountKey MUSEUM = new AccountKey("museum");
  private static final PersonnelList ALL =
      new PersonnelList(MUSEUM, EnumSet.allOf(Fact.class), true);

  private final AccessModel.Builder model = AccessModel.builder();

  PersonnelListSpec() {
    model.add(Account.root("museum"));
    model.add(Account.below("museum", "branch"));
    model.add(Account.root("elsewhere"));
    unit("offices", "museum");
    unit("depot", "branch");
  }

  private void unit(String key, String account) {
    model.add(new Unit(new UnitKey(key), About.NONE, new AccountKey(account), null));
  }

  private static Principal principal(
      String key, String account, Principal.Kind kind, @Nullable String number) {
    return new Principal(
        new PrincipalKey(key),
        About.named(key),
        kind,
        new AccountKey(account),
        null,
        null,
        Principal.Status.ACTIVE,
        Window.ALWAYS,
        true,
        number == null ? Map.of("hall", "7") : Map.of("hall", "7", PersonnelList.NUMBER, number),
        null,
        List.of(),
        key + "@example.org",
        null,
        null);
  }

  private Principal person(String key, String account, @Nullable String number) {
    Principal it = principal(key, account, Principal.Kind.PERSON, number);
    model.add(it);
    return it;
  }

  private static Entry entry(String number, String key) {
    return new Entry(
        number, new PrincipalKey(key), key, key + "@example.org", null, null, null, Window.ALWAYS);
  }

  private static Entry entry(
      String number, String key, @Nullable String title, @Nullable String unit, Window window) {
    return new Entry(
        number,
        new PrincipalKey(key),
        key,
        key + "@example.org",
        title,
        unit == null ? null : new UnitKey(unit),
        null,
        window);
  }

  private static List<String> held(Catalogue in) {
    return in.principals().values().stream()
        .filter(it -> ALL.holds(in, it))
        .map(it -> it.key().value())
        .toList();
  }

  private static List<String> words(List<Step> steps) {
    return steps.stream().map(it -> it.what() + " " + it.after().key()).toList();
  }

  private static Catalogue applied(Catalogue in, List<Step> steps) {
    return Draft.of(PersonnelList.changes(in, steps)).appliedUnchecked(in);
  }

  private static Principal person(Catalogue in, PrincipalKey key) {
    return Objects.requireNonNull(in.principals().get(key));
  }

  @Test
  void whatItDoesNotOwnIsLeftAlone() {
    person("ada", "museum", null); // no number
    person("bas", "elsewhere", "1"); // not at home here
    model.add(principal("robot", "museum", Principal.Kind.SERVICE, "2"));
    person("cleo", "branch", "3");
    Catalogue in = new Catalogue(model.build());
    assertThat(held(in)).containsExactly("cleo");
    assertThat(words(ALL.steps(in, List.of(), Set.of(), AT))).containsExactly("LEAVES cleo");
    assertThat(new PersonnelList(MUSEUM, ALL.owned(), false).steps(in, List.of(), Set.of(), AT))
        .as("a list of some people")
        .isEmpty();
    assertThat(ALL.steps(in, List.of(), Set.of(new PrincipalKey("cleo")), AT))
        .as("named by a line that could not be read")
        .isEmpty();
  }

  @Test
  void whoJoinsIsInvitedWhereTheirUnitIs() {
    Catalogue in = new Catalogue(model.build());
    Window later = new Window(AT.plusSeconds(60), null);
    List<Step> steps =
        ALL.steps(
            in,
            List.of(
                entry("1", "ada", "registrar", "depot", later),
                entry("2", "bas", null, null, new Window(null, AT))),
            Set.of(),
            AT);
    assertThat(words(steps)).as("Bas left before").containsExactly("JOINS ada");
    Principal ada = person(applied(in, steps), new PrincipalKey("ada"));
    assertThat(ada.status()).isEqualTo(Principal.Status.INVITED);
    assertThat(ada.account()).isEqualTo(new AccountKey("branch"));
    assertThat(ada.window()).isEqualTo(later);
    assertThat(ada.attributes())
        .containsExactlyInAnyOrderEntriesOf(Map.of("number", "1", Peers.TITLE, "registrar"));
  }

  @Test
  void onlyTheFactsThatItHasChange() {
    person("ada", "museum", "1");
    Catalogue in = new Catalogue(model.build());
    Entry moved = entry("1", "ada", "registrar", "depot", Window.ALWAYS);
    PersonnelList titles = new PersonnelList(MUSEUM, Set.of(Fact.NAME, Fact.TITLE), true);
    Step step = titles.steps(in, List.of(moved), Set.of(), AT).getFirst();
    assertThat(step.facts()).containsExactly(Fact.TITLE);
    assertThat(step.after().unit()).isNull();
    assertThat(step.after().attributes()).containsEntry("hall", "7");
    Step all = ALL.steps(in, List.of(moved), Set.of(), AT).getFirst();
    assertThat(all.facts()).containsExactly(Fact.TITLE, Fact.UNIT);
    assertThat(all.after().account()).isEqualTo(new AccountKey("branch"));
    assertThat(ALL.steps(applied(in, List.of(all)), List.of(moved), Set.of(), AT))
        .as("taken once more, it does nothing")
        .isEmpty();
  }

  @Test
  void whoLeavesHandsOverToTheNextWhoStays() {
    Principal top = person("top", "museum", "1");
    Principal middle = managed("middle", "2", top);
    Principal low = managed("low", "3", middle);
    Principal other = managed("other", "4", middle);
    model.add(
        new Group(
            new GroupKey("guards"),
            About.NONE,
            MUSEUM,
            false,
            List.of(new Group.Member.OfPrincipal(Principal.Kind.PERSON, low.key())),
            null,
            List.of(low.key())));
    Catalogue in = new Catalogue(model.build());
    Entry underTop =
        new Entry("4", other.key(), "other", "other@example.org", null, null, null, Window.ALWAYS);
    List<Step> steps = ALL.steps(in, List.of(entry("1", "top"), underTop), Set.of(), AT);
    assertThat(words(steps))
        .containsExactlyInAnyOrder("CHANGES other", "LEAVES middle", "LEAVES low");
    Catalogue after = applied(in, steps);
    Group guards = Objects.requireNonNull(after.groups().get(new GroupKey("guards")));
    assertThat(guards.members()).isEmpty();
    assertThat(guards.owners()).as("its manager leaves as well").containsExactly(top.key());
    assertThat(person(after, other.key()).manager()).as("the list says: nobody").isNull();
    assertThat(ModelCheck.faultsOf(after.model())).isEmpty();
  }

  private Principal managed(String key, String number, Principal manager) {
    Principal it = principal(key, "museum", Principal.Kind.PERSON, number);
    Principal under = Rewritten.facts(it, null, manager.key(), it.attributes());
    model.add(under);
    return under;
  }

  @Test
  void whoComesBackIsInvitedWithNothingGiven() {
    Principal gone =
        Rewritten.status(
            principal("ada", "museum", Principal.Kind.PERSON, "1"), Principal.Status.LEFT);
    model.add(gone);
    Catalogue in = new Catalogue(model.build());
    assertThat(held(in)).isEmpty();
    assertThat(ALL.steps(in, List.of(), Set.of(), AT)).as("left already").isEmpty();
    List<Step> steps = ALL.steps(in, List.of(entry("1", "ada")), Set.of(), AT);
    assertThat(words(steps)).containsExactly("RETURNS ada");
    assertThat(person(applied(in, steps), gone.key()).status()).isEqualTo(Principal.Status.INVITED);
  }

  /**
   * Random people and lists: afterwards the owned people are who is in the list, as it has them.
   */
  @Test
  void afterwardsTheModelSaysWhatTheListSays() {
    for (int seed = 0; seed < 200; seed++) {
      Random random = new Random(seed);
      AccessModel.Builder people = AccessModel.builder();
      people.add(Account.root("museum"));
      people.add(Account.below("museum", "branch"));
      people.add(new Unit(new UnitKey("offices"), About.NONE, MUSEUM, null));
      people.add(new Unit(new UnitKey("depot"), About.NONE, new AccountKey("branch"), null));
      List<Entry> entries = new ArrayList<>();
      for (int i = 0; i < 12; i++) {
        String key = "p" + i;
        if (random.nextInt(4) > 0) {
          Principal it =
              principal(
                  key,
                  random.nextBoolean() ? "museum" : "branch",
                  Principal.Kind.PERSON,
                  random.nextInt(3) > 0 ? String.valueOf(i) : null);
          Principal.Status[] all = Principal.Status.values();
          people.add(Rewritten.status(it, all[random.nextInt(all.length)]));
        }
        if (random.nextInt(3) > 0) {
          entries.add(
              entry(
                  String.valueOf(i),
                  key,
                  random.nextBoolean() ? "guard" : null,
                  random.nextBoolean() ? random.nextBoolean() ? "offices" : "depot" : null,
                  random.nextInt(5) == 0 ? new Window(null, AT) : Window.ALWAYS));
        }
      }
      Catalogue in = new Catalogue(people.build());
      List<Step> steps = ALL.steps(in, entries, Set.of(), AT);
      Catalogue after = applied(in, steps);
      assertThat(ModelCheck.faultsOf(after.model())).as("seed %d", seed).isEmpty();

      Set<PrincipalKey> present = new HashSet<>();
      for (Entry it : entries) {
        boolean over = AT.equals(it.window().until());
        Principal is = after.principals().get(it.who());
        if (over) {
          assertThat(is == null || is.status() == Principal.Status.LEFT)
              .as("seed %d", seed)
              .isTrue();
          continue;
        }
        present.add(it.who());
        Principal there = Objects.requireNonNull(is);
        assertThat(there.status()).as("seed %d", seed).isNotEqualTo(Principal.Status.LEFT);
        assertThat(there.unit()).isEqualTo(it.unit());
        assertThat(there.attributes().get(Peers.TITLE)).isEqualTo(it.title());
        assertThat(there.attributes()).containsEntry(PersonnelList.NUMBER, it.number());
      }
      for (Principal was : in.principals().values()) {
        Principal is = person(after, was.key());
        if (!present.contains(was.key())) {
          boolean named = entries.stream().anyMatch(it -> it.who().equals(was.key()));
          assertThat(is.status())
              .as("seed %d, %s", seed, was.key())
              .isEqualTo(ALL.owns(in, was) || named ? Principal.Status.LEFT : was.status());
        }
      }
      assertThat(ALL.steps(after, entries, Set.of(), AT)).as("seed %d, twice", seed).isEmpty();
    }
  }
}
