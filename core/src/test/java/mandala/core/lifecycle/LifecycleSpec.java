package mandala.core.lifecycle;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import mandala.core.analysis.Peers;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.Rewritten;
import mandala.core.engine.Engine;
import mandala.core.lifecycle.ColleagueCopy.Exceptional;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** Two museums; a registrar of the one becomes one of the other, is copied, and is merged. */
class LifecycleSpec {

  private static final Instant AT = Instant.parse("2026-12-01T00:00:00Z");
  private static final Instant GRACE = Instant.parse("2027-01-01T00:00:00Z");
  private static final Instant LATER = Instant.parse("2027-06-01T00:00:00Z");
  private static final PersonMove TO_SOUTH =
      new PersonMove(new AccountKey("south"), null, null, "registrar", GRACE);

  private final AccessModel.Builder model = AccessModel.builder();
  private final List<Group.Member> northern = new ArrayList<>();
  private final List<Group.Member> southern = new ArrayList<>();

  LifecycleSpec() {
    model.add(Account.root("north"));
    model.add(Account.root("south"));
    for (String key : List.of("ada", "bas", "cleo", "dov")) {
      person(key, "north");
      northern.add(member(key));
    }
    for (String key : List.of("eva", "finn")) {
      person(key, "south");
      southern.add(member(key));
    }
  }

  private static Group.Member member(String key) {
    return new Group.Member.OfPrincipal(Principal.Kind.PERSON, new PrincipalKey(key));
  }

  private void person(String key, String account) {
    model.add(
        new Principal(
            new PrincipalKey(key),
            About.NONE,
            Principal.Kind.PERSON,
            new AccountKey(account),
            null,
            key.equals("bas") ? new PrincipalKey("ada") : null,
            Principal.Status.ACTIVE,
            Window.ALWAYS,
            false,
            Map.of(Peers.TITLE, "registrar"),
            null,
            List.of(),
            null,
            null,
            null));
  }

  private void group(String key, String account, List<Group.Member> members) {
    model.add(
        new Group(
            new GroupKey(key),
            About.NONE,
            new AccountKey(account),
            false,
            members,
            null,
            List.of(new PrincipalKey("ada"))));
  }

  private void assigned(
      String key, String account, @Nullable Instant from, @Nullable Instant until) {
    model.add(
        new Assignment(
            new AssignmentKey(key),
            About.NONE,
            new Subject.OfPrincipal(Principal.Kind.PERSON, new PrincipalKey("ada")),
            new Gives.OfRole(Supplied.OWNER),
            Assignment.Effect.ALLOW,
            List.of(Clause.of(new Term.Tree(ResourceKey.of(new AccountKey(account))))),
            List.of(),
            new Window(from, until),
            Assignment.Mode.STANDING,
            false));
  }

  private void guestOfSouth() {
    model.add(
        new Guest(
            About.NONE,
            new PrincipalKey("ada"),
            new AccountKey("south"),
            false,
            Window.ALWAYS,
            null));
  }

  private Engine engine() {
    return Engine.of(model.build());
  }

  private static Principal who(Catalogue in, String key) {
    Principal it = in.principals().get(new PrincipalKey(key));
    if (it == null) {
      throw new AssertionError("There is no " + key);
    }
    return it;
  }

  private static Ties ties(Engine engine) {
    return Ties.of(engine.catalogue(), who(engine.catalogue(), "ada"));
  }

  private static Tie tie(Ties ties, String id) {
    Tie it = ties.byId().get(id);
    if (it == null) {
      throw new AssertionError("There is no " + id + " among " + ties.byId().keySet());
    }
    return it;
  }

  private static PeerShare share(Engine engine, Principal of, Tie tie) {
    return PeerShare.of(engine, Peers.of(engine, of, AT), tie, AT);
  }

  private Fate usual(String id) {
    Engine engine = engine();
    Ties ties = ties(engine);
    Tie tie = tie(ties, id);
    return TO_SOUTH.usual(
        engine.catalogue(),
        ties.whose(),
        tie,
        share(engine, ties.whose(), tie),
        share(engine, TO_SOUTH.moved(ties.whose()), tie));
  }

  @Test
  void whatIsOfTheOldAccountAloneLastsForTheGrace() {
    group("desk", "north", northern);
    assertThat(usual("group:desk")).isEqualTo(new Fate.KeepUntil(GRACE));
  }

  @Test
  void whatIsOfTheNewAccountStays() {
    group("loans", "south", List.of(member("ada"), member("eva")));
    assertThat(usual("group:loans")).isEqualTo(new Fate.Keep());
  }

  @Test
  void aGuestOfTheNewAccountIsNoLongerOne() {
    guestOfSouth();
    assertThat(usual("guest:south")).isEqualTo(new Fate.End());
  }

  @Test
  void dutiesStayUntilSomebodyTakesThemOver() {
    group("desk", "north", northern);
    assertThat(usual("groups:desk")).isEqualTo(new Fate.Keep());
    assertThat(usual("report:bas")).isEqualTo(new Fate.Keep());
  }

  private Catalogue moved(String id) {
    Engine engine = engine();
    Ties ties = ties(engine);
    return Draft.of(
            TO_SOUTH.changes(
                engine.catalogue(),
                ties,
                Map.of(id, new Fate.KeepUntil(GRACE)),
                List.of(new GroupKey("staff"))))
        .appliedUnchecked(engine.catalogue());
  }

  @Test
  void forTheGraceTheyAreGuestsOfTheOldAccountAndJoinTheNewGroups() {
    group("desk", "north", northern);
    group("staff", "south", southern);
    Catalogue after = moved("group:desk");
    assertThat(after.guests())
        .containsExactly(
            new Guest(
                About.NONE,
                new PrincipalKey("ada"),
                new AccountKey("north"),
                false,
                new Window(null, GRACE),
                null));
    assertThat(Ties.of(after, who(after, "ada")).byId())
        .containsKeys("group:desk", "group:staff", "guest:north");
    Catalogue end =
        Draft.of(
                PersonMove.afterGrace(
                    after, Ties.of(after, who(after, "ada")), List.of("group:desk"), GRACE))
            .appliedUnchecked(after);
    assertThat(Ties.of(end, who(end, "ada")).byId())
        .containsKey("group:staff")
        .doesNotContainKeys("group:desk", "guest:north");
  }

  @Test
  void whatEndsBeforeTheGraceKeepsItsEndAndWhatBeginsAfterItNeverDoes() {
    group("staff", "south", southern);
    assigned("open", "north", null, null);
    assigned("short", "north", null, AT.plusSeconds(60));
    assigned("planned", "north", LATER, null);
    assertThat(window(moved("assignment:open"), "open")).isEqualTo(new Window(null, GRACE));
    assertThat(window(moved("assignment:short"), "short"))
        .isEqualTo(new Window(null, AT.plusSeconds(60)));
    assertThat(moved("assignment:planned").assignments().containsKey(new AssignmentKey("planned")))
        .isFalse();
  }

  private static @Nullable Window window(Catalogue in, String key) {
    Assignment it = in.assignments().get(new AssignmentKey(key));
    return it == null ? null : it.window();
  }

  private @Nullable Exceptional exception(String id) {
    Engine engine = engine();
    Ties ties = ties(engine);
    Tie tie = tie(ties, id);
    return ColleagueCopy.exception(tie, share(engine, ties.whose(), tie));
  }

  @Test
  void whatColleaguesHaveTooIsNoException() {
    group("desk", "north", northern);
    assertThat(exception("group:desk")).isNull();
  }

  @Test
  void whatFewHaveOrEndsIsAnException() {
    group("keys", "north", List.of(member("ada"), member("bas")));
    assigned("short", "north", null, LATER);
    assertThat(exception("group:keys")).isEqualTo(new Exceptional.Rare(new PeerShare(1, 3)));
    assertThat(exception("assignment:short")).isEqualTo(new Exceptional.Ends(LATER));
    assertThat(exception("report:bas")).isEqualTo(new Exceptional.NotForOthers());
  }

  @Test
  void whoManagesTheRecordThatStaysIsNotTheirOwnManagerAfterTheMerge() {
    Engine engine = engine();
    Catalogue in = engine.catalogue();
    Catalogue after =
        Draft.of(PersonMerge.of(in, who(in, "bas"), who(in, "ada"))).appliedUnchecked(in);
    assertThat(who(after, "bas").manager()).isNull();
    assertThat(after.principals().containsKey(new PrincipalKey("ada"))).isFalse();
  }

  @Test
  void whoIsLentIsAGuestInSomeGroupsAndLeavesNothingBehind() {
    group("north-desk", "north", northern);
    group("south-desk", "south", southern);
    group("south-night", "south", List.of(member("ada")));
    Catalogue before = new Catalogue(model.build());
    Principal ada = who(before, "ada");
    Loan loan = new Loan(new AccountKey("south"), null, GRACE, new PrincipalKey("eva"));
    List<GroupKey> joins = List.of(new GroupKey("south-desk"));

    Catalogue lent = Draft.of(loan.changes(before, ada, joins)).appliedUnchecked(before);
    assertThat(lent.guests())
        .containsExactly(
            new Guest(
                About.NONE,
                ada.key(),
                loan.account(),
                false,
                new Window(null, GRACE),
                loan.sponsor()));
    assertThat(lent.groups().values())
        .filteredOn(it -> it.lists(ada))
        .extracting(Group::key)
        .containsAll(joins);
    assertThat(lent.principals().get(ada.key())).as("at home where she was").isEqualTo(ada);
    assertThatThrownBy(() -> loan.changes(lent, ada, joins))
        .hasMessage("They are a guest there in that time already");

    Catalogue after =
        Draft.of(loan.afterwards(lent, Ties.of(lent, ada), joins)).appliedUnchecked(lent);
    assertThat(after.model()).isEqualTo(before.model());
  }

  @Test
  void whoStaysForLongerStaysInTheGroupsOfTheLoan() {
    group("south-desk", "south", southern);
    Catalogue before = new Catalogue(model.build());
    Principal ada = who(before, "ada");
    Loan loan = new Loan(new AccountKey("south"), null, GRACE, new PrincipalKey("eva"));
    List<GroupKey> joins = List.of(new GroupKey("south-desk"));
    Catalogue lent = Draft.of(loan.changes(before, ada, joins)).appliedUnchecked(before);

    PersonMove move = new PersonMove(loan.account(), null, null, "registrar", null);
    Catalogue home =
        Draft.of(move.changes(lent, Ties.of(lent, ada), Map.of(), List.of()))
            .appliedUnchecked(lent);
    Guest guest = lent.guests().iterator().next();
    Catalogue longer =
        Draft.of(
                List.of(
                    new Change.Removed(guest),
                    new Change.Added(Rewritten.window(guest, new Window(null, LATER)))))
            .appliedUnchecked(lent);
    for (Catalogue at : List.of(home, longer)) {
      Ties ties = Ties.of(at, who(at, "ada"));
      Catalogue after = Draft.of(loan.afterwards(at, ties, joins)).appliedUnchecked(at);
      assertThat(after.groups().values())
          .filteredOn(it -> it.lists(ada))
          .extracting(Group::key)
          .containsAll(joins);
      assertThat(after.guests()).noneMatch(it -> GRACE.equals(it.window().until()));
    }
    assertThat(loan.afterwards(longer, Ties.of(longer, ada), joins)).isEmpty();
  }

  @Test
  void nobodyIsLentToWhereTheyBelong() {
    Catalogue in = new Catalogue(model.build());
    Principal ada = who(in, "ada");
    Loan home = new Loan(new AccountKey("north"), AT, GRACE, new PrincipalKey("eva"));
    assertThatThrownBy(() -> home.changes(in, ada, List.of()))
        .hasMessage("They belong to the account already");
    assertThatThrownBy(() -> new Loan(home.account(), GRACE, GRACE, home.sponsor()))
        .hasMessage("It ends before it begins");
    Loan first = new Loan(new AccountKey("south"), AT, GRACE, new PrincipalKey("eva"));
    Loan later = new Loan(new AccountKey("south"), GRACE, LATER, new PrincipalKey("eva"));
    Catalogue lent = Draft.of(first.changes(in, ada, List.of())).appliedUnchecked(in);
    assertThat(later.changes(lent, ada, List.of())).as("one after the other").hasSize(1);
  }
}
