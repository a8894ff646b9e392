package mandala.core.lifecycle;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.lifecycle.WatchRule.Hit;
import mandala.core.lifecycle.WatchRule.What;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.check.ModelCheck;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** Whom a rule finds on a day, and what it does to them. */
class WatchRuleSpec {

  private static final Instant AT = Instant.parse("2026-12-01T00:00:00Z");
  private static final Instant KNOWN = AT.minus(Duration.ofDays(100));

  private final AccessModel.Builder model = AccessModel.builder();
  private final Map<String, Instant> seen = new HashMap<>();

  WatchRuleSpec() {
    model.add(Account.root("north"));
    model.add(Account.root("south"));
  }

  private void person(
      String key, String account, Principal.Status status, @Nullable Integer daysAgo) {
    principal(key, account, Principal.Kind.PERSON, status, Window.ALWAYS, daysAgo);
  }

  private void principal(
      String key,
      String account,
      Principal.Kind kind,
      Principal.Status status,
      Window window,
      @Nullable Integer daysAgo) {
    model.add(
        new Principal(
            new PrincipalKey(key),
            About.NONE,
            kind,
            new AccountKey(account),
            null,
            null,
            status,
            window,
            true,
            Map.of(),
            null,
            List.of(),
            null,
            null,
            null));
    if (daysAgo != null) {
      seen.put(key, AT.minus(Duration.ofDays(daysAgo)));
    }
  }

  private List<Hit> hits(WatchRule rule) {
    return rule.hits(Engine.of(model.build()), AT, it -> seen.get(it.key().value()), KNOWN);
  }

  private static List<String> keys(List<Hit> hits) {
    return hits.stream().map(it -> it.who().key().value()).toList();
  }

  private static WatchRule persons(@Nullable Integer warn, int after) {
    return new WatchRule(What.PERSONS, null, null, warn, after);
  }

  private AccessModel after(WatchRule rule) {
    Engine engine = Engine.of(model.build());
    List<Hit> acting =
        rule.hits(engine, AT, it -> seen.get(it.key().value()), KNOWN).stream()
            .filter(it -> it.acts(AT))
            .toList();
    AccessModel left =
        Draft.of(rule.changes(engine.catalogue(), acting, AT))
            .appliedUnchecked(engine.catalogue())
            .model();
    assertThat(ModelCheck.faultsOf(left)).isEmpty();
    return left;
  }

  private static Principal.Status status(AccessModel in, String key) {
    return Objects.requireNonNull(Engine.of(in).catalogue().principals().get(new PrincipalKey(key)))
        .status();
  }

  @Test
  void whoIsNotSeenForSoLongIsWarnedAndThenSuspended() {
    person("long", "north", Principal.Status.ACTIVE, 91);
    person("exactly", "north", Principal.Status.ACTIVE, 90);
    person("nearly", "north", Principal.Status.ACTIVE, 89);
    person("lately", "north", Principal.Status.ACTIVE, 59);
    List<Hit> hits = hits(persons(60, 90));
    assertThat(keys(hits)).containsExactly("long", "exactly", "nearly");
    assertThat(hits).extracting(it -> it.acts(AT)).containsExactly(true, true, false);
    assertThat(hits.getLast().due()).isEqualTo(AT.plus(Duration.ofDays(1)));
    AccessModel left = after(persons(60, 90));
    assertThat(status(left, "long")).isEqualTo(Principal.Status.SUSPENDED);
    assertThat(status(left, "exactly")).isEqualTo(Principal.Status.SUSPENDED);
    assertThat(status(left, "nearly")).isEqualTo(Principal.Status.ACTIVE);
  }

  @Test
  void ofWhomNothingIsKnownTimeCountsFromTheRuleOrTheirBeginning() {
    person("never", "north", Principal.Status.ACTIVE, null);
    principal(
        "begins",
        "north",
        Principal.Kind.PERSON,
        Principal.Status.ACTIVE,
        new Window(AT.minus(Duration.ofDays(50)), null),
        null);
    assertThat(keys(hits(persons(null, 100)))).containsExactly("never");
    assertThat(keys(hits(persons(null, 101)))).isEmpty();
    assertThat(keys(hits(persons(null, 50)))).containsExactly("never", "begins");
  }

  @Test
  void othersAreLeftAlone() {
    person("owner", "north", Principal.Status.ACTIVE, 400);
    person("away", "north", Principal.Status.SUSPENDED, 400);
    person("gone", "north", Principal.Status.LEFT, 400);
    person("asked", "north", Principal.Status.INVITED, 400);
    person("other", "south", Principal.Status.ACTIVE, 400);
    person("in", "north", Principal.Status.ACTIVE, 400);
    principal("feed", "north", Principal.Kind.SERVICE, Principal.Status.ACTIVE, Window.ALWAYS, 400);
    model.add(
        new Assignment(
            new AssignmentKey("owns"),
            About.NONE,
            new Subject.OfPrincipal(Principal.Kind.PERSON, new PrincipalKey("owner")),
            new Gives.OfRole(Supplied.OWNER),
            Assignment.Effect.ALLOW,
            List.of(Clause.of(new Term.Tree(ResourceKey.of(new AccountKey("north"))))),
            List.of(),
            Window.ALWAYS,
            Assignment.Mode.STANDING,
            false));
    AccountKey north = new AccountKey("north");
    assertThat(keys(hits(new WatchRule(What.PERSONS, north, null, null, 90))))
        .containsExactly("in");
    assertThat(keys(hits(new WatchRule(What.SERVICES, north, null, null, 90))))
        .containsExactly("feed");
    assertThat(keys(hits(new WatchRule(What.INVITATIONS, north, null, null, 90))))
        .containsExactly("asked");
    model.add(
        new Group(
            new GroupKey("some"),
            About.NONE,
            north,
            false,
            List.of(new Group.Member.OfPrincipal(Principal.Kind.PERSON, new PrincipalKey("other"))),
            null,
            List.of()));
    assertThat(keys(hits(new WatchRule(What.PERSONS, null, new GroupKey("some"), null, 90))))
        .containsExactly("other");
    assertThat(keys(hits(new WatchRule(What.PERSONS, null, new GroupKey("none"), null, 90))))
        .as("a group that is gone has nobody")
        .isEmpty();
  }

  @Test
  void guestsEndAndInvitedPeopleLeaveTogether() {
    person("guest", "south", Principal.Status.ACTIVE, 200);
    person("first", "north", Principal.Status.INVITED, 200);
    person("second", "north", Principal.Status.INVITED, 200);
    model.add(
        new Guest(
            About.NONE,
            new PrincipalKey("guest"),
            new AccountKey("north"),
            false,
            Window.ALWAYS,
            null),
        new Group(
            new GroupKey("both"),
            About.NONE,
            new AccountKey("north"),
            false,
            List.of(
                new Group.Member.OfPrincipal(Principal.Kind.PERSON, new PrincipalKey("first")),
                new Group.Member.OfPrincipal(Principal.Kind.PERSON, new PrincipalKey("second"))),
            null,
            List.of()));
    AccessModel left = after(new WatchRule(What.GUESTS, new AccountKey("north"), null, null, 90));
    assertThat(left.guests()).extracting(Guest::window).containsExactly(new Window(null, AT));
    assertThat(status(left, "guest")).isEqualTo(Principal.Status.ACTIVE);
    AccessModel lapsed = after(new WatchRule(What.INVITATIONS, null, null, 30, 90));
    assertThat(status(lapsed, "first")).isEqualTo(Principal.Status.LEFT);
    assertThat(status(lapsed, "second")).isEqualTo(Principal.Status.LEFT);
    assertThat(lapsed.groups()).allMatch(it -> it.members().isEmpty());
  }
}
