package mandala.core;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
import mandala.core.analysis.Peers;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.Rewritten;
import mandala.core.engine.Engine;
import mandala.core.lifecycle.ColleagueCopy;
import mandala.core.lifecycle.ComingBack;
import mandala.core.lifecycle.Fate;
import mandala.core.lifecycle.Parting;
import mandala.core.lifecycle.PeerShare;
import mandala.core.lifecycle.PersonMerge;
import mandala.core.lifecycle.PersonMove;
import mandala.core.lifecycle.SharedSplit;
import mandala.core.lifecycle.Tie;
import mandala.core.lifecycle.Ties;
import mandala.core.model.About;
import mandala.core.model.Account;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.check.ModelCheck;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Session;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** What becomes of people's ties, on random models. */
class LifecycleTest {

  private static final Instant AT = Instant.parse("2026-04-15T12:00:00Z");
  private static final Map<String, Integer> MET = new HashMap<>();

  private Catalogue in = new Catalogue(RandomModels.model(1));
  private Random random = new Random(1);

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 400) / 2);
  }

  @AfterAll
  static void eachCaseWasMet() {
    assertThat(MET).containsKeys("rights", "handed", "grace", "lingers", "back", "merged duty");
  }

  private static void met(String what) {
    MET.merge(what, 1, Integer::sum);
  }

  private void begin(long seed) {
    in = new Catalogue(RandomModels.model(seed));
    Set<Guest> guests = new HashSet<>();
    for (Guest it : in.guests()) {
      in = guests.add(it) ? in : in.without(it); // two that say the same are one
    }
    random = new Random(seed * 31 + 7);
  }

  /**
   * The same without what two with the same facts and ties have each of their own: what is said of
   * what somebody owns, and what they activated.
   */
  private void beginComparable(long seed) {
    begin(seed);
    for (Activation it : in.activations()) {
      in = in.without(it);
    }
    for (Assignment it : List.copyOf(in.assignments().values())) {
      if (isRelative(it.scope()) || isRelative(it.viewScope())) {
        in = in.without(it);
      }
    }
    for (Bridge it : List.copyOf(in.bridges().values())) {
      if (isRelative(it.scope())) {
        in = in.without(it);
      }
    }
  }

  private static boolean isRelative(List<Clause> scope) {
    return scope.stream()
        .flatMap(it -> it.terms().stream())
        .anyMatch(it -> it instanceof Term.OwnedBy);
  }

  private Principal any() {
    List<Principal> all = List.copyOf(in.principals().values());
    return all.get(random.nextInt(all.size()));
  }

  /** {@return the model after changes}, which has no faults */
  private Catalogue after(Catalogue before, List<Change> changes) {
    Catalogue after = Draft.of(changes).appliedUnchecked(before);
    assertThat(ModelCheck.faultsOf(after.model())).isEmpty();
    return after;
  }

  private static Principal who(Catalogue in, PrincipalKey key) {
    Principal it = in.principals().get(key);
    if (it == null) {
      throw new AssertionError("There is no " + key);
    }
    return it;
  }

  private static Set<String> rights(Catalogue in, PrincipalKey who) {
    Engine engine = Engine.of(in.model());
    Session session = new Session(who, AT, true, null);
    Set<String> all = new HashSet<>();
    List<ResourceKey> places = AllPlaces.of(in.model());
    for (Permission permission : in.permissions().values()) {
      for (ResourceKey place : places) {
        if (engine.decide(session.asks(permission.key(), place)).allowed()) {
          all.add(permission.key() + " " + place);
        }
      }
    }
    return all;
  }

  private static List<String> ids(Ties ties) {
    return List.copyOf(ties.byId().keySet());
  }

  private static Principal renamed(Principal it, String key) {
    return new Principal(
        new PrincipalKey(key),
        About.named("Newcomer"),
        it.kind(),
        it.account(),
        it.unit(),
        it.manager(),
        it.status(),
        it.window(),
        it.mfa(),
        it.attributes(),
        null,
        List.of(),
        null,
        null,
        it.sponsor());
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void whoPartsHasNothingAndLeavesNothingBehind(long seed) {
    begin(seed);
    Principal who = any();
    Ties ties = Ties.of(in, who);
    Principal heir = any();
    Map<String, Fate> fates = new HashMap<>();
    for (Tie it : ties.all()) {
      boolean person = heir.kind() == Principal.Kind.PERSON || !(it instanceof Tie.Sponsors);
      if (it instanceof Tie.Owns && !heir.key().equals(who.key()) && person) {
        fates.put(it.id(), new Fate.HandTo(heir));
      }
    }

    Catalogue after = after(in, Parting.changes(in, ties, fates));

    assertThat(who(after, who.key()).status()).isEqualTo(Principal.Status.LEFT);
    assertThat(ids(Ties.of(after, who(after, who.key())))).isEmpty();
    assertThat(rights(after, who.key())).isEmpty();
    if (!fates.isEmpty()) {
      met("handed");
      assertThat(ids(Ties.of(after, who(after, heir.key())))).containsAll(fates.keySet());
    }
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void whoseRecordGoesIsNamedByNothing(long seed) {
    begin(seed);
    Principal whose = any();
    Catalogue after = after(in, Parting.removal(in, whose));
    assertThat(after.principals()).doesNotContainKey(whose.key());
    assertThat(Ties.of(after, whose).all())
        .as("but what their own record says")
        .allMatch(it -> it.thing().equals(whose));
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void whatEndsAtOnceComesBackAsItWas(long seed) {
    begin(seed);
    Principal who = any();
    Ties ties = Ties.of(in, who);

    Catalogue after = after(in, Parting.atOnce(in, ties));

    assertThat(rights(after, who.key())).isEmpty();
    assertThat(after.delegations().values())
        .noneMatch(it -> it.delegate().equals(who.key()) || it.principal().equals(who.key()));
    Catalogue back =
        after(
            after,
            List.of(
                new Change.Altered(
                    who(after, who.key()), Rewritten.status(who(after, who.key()), who.status()))));
    if (ties.all().stream().noneMatch(it -> it instanceof Tie.Activated)) {
      assertThat(rights(back, who.key())).isEqualTo(rights(in, who.key()));
    }
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void aCopyOfEverythingHasWhatTheColleagueHas(long seed) {
    beginComparable(seed);
    Principal colleague = any();
    Ties ties = Ties.of(in, colleague);
    Principal fresh = renamed(colleague, "newcomer");

    Catalogue after = after(in, ColleagueCopy.of(in, ties, fresh, ids(ties)));

    Set<String> before = rights(in, colleague.key());
    assertThat(rights(after, fresh.key())).isEqualTo(before);
    if (!before.isEmpty()) {
      met("rights");
    }
    // the colleague loses nothing, and passes no duty on
    assertThat(rights(after, colleague.key())).isEqualTo(before);
    assertThat(Ties.of(after, who(after, fresh.key())).all())
        .allMatch(it -> it.sort() == Tie.Sort.ACCESS);
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void whoComesBackHasWhatIsChosenAndNothingByItself(long seed) {
    beginComparable(seed);
    Principal who = any();
    Ties had = Ties.of(in, who);
    Catalogue left = after(in, Parting.changes(in, had, Map.of()));
    Principal gone = who(left, who.key());

    Catalogue bare = after(left, ComingBack.changes(left, gone, gone, had, Set.of()));
    assertThat(who(bare, who.key()).status()).isEqualTo(Principal.Status.INVITED);
    assertThat(ids(Ties.of(bare, who(bare, who.key())))).isEmpty();

    Catalogue back = after(left, ComingBack.changes(left, gone, gone, had, ids(had)));
    Principal invited = who(back, who.key());
    Catalogue active =
        after(back, List.of(new Change.Altered(invited, Rewritten.status(invited, who.status()))));
    Set<String> before = rights(in, who.key());
    assertThat(rights(active, who.key())).isEqualTo(before);
    if (!before.isEmpty()) {
      met("back");
    }
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void aMoveEndsWhatIsOfTheOldAccountAtTheEndOfItsGrace(long seed) {
    begin(seed);
    Principal who = any();
    Ties ties = Ties.of(in, who);
    List<Account> accounts = List.copyOf(in.accounts().values());
    Account to = accounts.get(random.nextInt(accounts.size()));
    Instant grace = random.nextBoolean() ? Instant.parse("2026-05-01T00:00:00Z") : null;
    PersonMove move = new PersonMove(to.key(), null, null, "Keeper", grace);
    Engine engine = Engine.of(in.model());
    Peers before = Peers.of(engine, who, AT);
    Peers then = Peers.of(engine, move.moved(who), AT);
    Map<String, Fate> fates = new HashMap<>();
    List<String> kept = new ArrayList<>();
    for (Tie it : ties.all()) {
      Fate fate =
          move.usual(
              in,
              who,
              it,
              PeerShare.of(engine, before, it, AT),
              PeerShare.of(engine, then, it, AT));
      fates.put(it.id(), fate);
      if (fate instanceof Fate.KeepUntil) {
        kept.add(it.id());
      }
    }

    List<Change> changes = move.changes(in, ties, fates, List.of());
    Catalogue after = after(in, changes);
    Principal moved = who(after, who.key());
    assertThat(moved.account()).isEqualTo(to.key());
    assertThat(moved.attributes()).containsEntry(Peers.TITLE, "Keeper");
    fates.forEach((id, fate) -> {
      if (fate instanceof Fate.End) {
        assertThat(ids(Ties.of(after, moved))).doesNotContain(id);
      }
    });
    if (!kept.isEmpty() && !in.isAtOrBelow(who.account(), to.key())) {
      met("lingers");
      assertThat(after.guests())
          .anyMatch(it ->
              it.principal().equals(who.key())
                  && it.account().equals(who.account())
                  && grace != null
                  && grace.equals(it.window().until()));
    }
    if (grace != null) {
      met("grace");
      Catalogue end =
          after(after, PersonMove.afterGrace(after, Ties.of(after, moved), kept, grace));
      Ties left = Ties.of(end, who(end, who.key()));
      assertThat(left.all())
          .noneMatch(it ->
              it.window() != null && grace.equals(it.window().until()) && kept.contains(it.id()))
          .noneMatch(it -> it instanceof Tie.Membership && kept.contains(it.id()));
    } else {
      assertThat(kept).isEmpty();
    }
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void ofTwoRecordsOneStaysWithTheTiesOfBoth(long seed) {
    begin(seed);
    Principal kept = any();
    Principal gone = any();
    if (kept.key().equals(gone.key()) || kept.kind() != gone.kind()) {
      assertThatThrownBy(() -> PersonMerge.of(in, kept, gone))
          .isInstanceOf(IllegalArgumentException.class);
      return;
    }
    Ties has = Ties.of(in, kept);
    Ties hands = Ties.of(in, gone);

    Catalogue after = after(in, PersonMerge.of(in, kept, gone));

    assertThat(after.principals().get(gone.key())).isNull();
    Ties both = Ties.of(after, who(after, kept.key()));
    for (Ties each : List.of(has, hands)) {
      for (Tie it : each.all()) {
        if (it instanceof Tie.Membership || it instanceof Tie.Reaches) {
          assertThat(ids(both)).contains(it.id());
        }
        if (it instanceof Tie.Owns || it instanceof Tie.AnswersFor) {
          met("merged duty");
          assertThat(ids(both)).contains(it.id());
        }
      }
    }
    assertThat(said(both)).containsAll(said(has)).containsAll(said(hands));
  }

  /** {@return what is assigned to somebody, whatever the keys} */
  private static Set<Assignment> said(Ties ties) {
    Set<Assignment> all = new HashSet<>();
    for (Tie it : ties.all()) {
      if (it instanceof Tie.Assigned(Assignment assignment)) {
        all.add(Rewritten.subject(assignment, new AssignmentKey("some"), Subject.Public.ANYONE));
      }
    }
    return all;
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void whoSharedASignInHasTheirPartOfIt(long seed) {
    begin(seed);
    Principal shared = any();
    Ties ties = Ties.of(in, shared);
    Principal one = renamed(shared, "one");
    Principal other = renamed(shared, "other");
    Map<String, Principal> duties = new HashMap<>();
    ties.all().stream()
        .filter(it -> it instanceof Tie.Owns)
        .forEach(it -> duties.put(it.id(), one));

    Catalogue after =
        after(
            in,
            SharedSplit.changes(
                in,
                ties,
                List.of(
                    new SharedSplit.Part(one, ids(ties)), new SharedSplit.Part(other, Set.of())),
                duties));

    assertThat(rights(after, shared.key())).isEmpty();
    assertThat(ids(Ties.of(after, who(after, shared.key())))).isEmpty();
    assertThat(ids(Ties.of(after, who(after, one.key())))).containsAll(duties.keySet());
    for (Group group : in.groups().values()) {
      if (group.lists(shared)) {
        Group is = after.groups().get(group.key());
        assertThat(is.lists(one)).isTrue();
        assertThat(is.lists(other)).isFalse();
      }
    }
    assertThat(after.assignments().values())
        .noneMatch(it -> it.subject().equals(new Subject.OfPrincipal(other.kind(), other.key())));
  }
}
