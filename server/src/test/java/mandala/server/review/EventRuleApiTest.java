package mandala.server.review;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.model.About;
import mandala.core.model.Assignment;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.server.Altered;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.MovableClock;
import mandala.server.model.LiveModel;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.annotation.Import;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** A rule makes a small round where something happens: once, and of that only. */
@ApiTest
@Import(MovableClock.Moves.class)
@DirtiesContext
class EventRuleApiTest {

  private static final String RULES = "/api/reviews/rules";

  @Autowired private Environment environment;
  @Autowired private LiveModel model;
  @Autowired private JdbcTemplate database;
  @Autowired private MovableClock clock;
  @Autowired private EventWatch watch;

  private final List<Change> undo = new ArrayList<>();

  @BeforeEach
  void noRuleYet() {
    clock.reset();
    List.of("review_act", "review_answer", "review_item", "review_round", "review_rule")
        .forEach(it -> database.update("delete from " + it));
    database.update("delete from notice");
  }

  @AfterEach
  void asItWas() {
    undo.reversed().forEach(it -> model.change(List.of(it)));
    undo.clear();
  }

  private void change(Change change) {
    model.change(List.of(change));
    undo.add(change.inverse());
  }

  private Caller as(String who) {
    database.update("update credential set totp_last_step = -1");
    return Caller.as(who, environment);
  }

  private static JsonNode ok(Caller.Answer answer) {
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    return answer.json();
  }

  private static String rule(String event, String risk) {
    return """
    {"title": "By event", "event": "%s", "accounts": ["quillhaven", "fernwick"],
     "risk": "%s", "within": 14, "days": 7, "passOn": true,
     "stages": [{"order": ["manager", "thing-owner", "person:anselm.reeve"]}]}
    """
        .formatted(event, risk);
  }

  private long made(String rule) {
    return ok(as("anselm.reeve").send("POST", RULES, rule)).get("number").longValue();
  }

  private Principal principal(String key) {
    return Objects.requireNonNull(
        model.engine().catalogue().principals().get(new PrincipalKey(key)));
  }

  private void moves(String who, String title) {
    Principal it = principal(who);
    Map<String, String> attributes = new HashMap<>(it.attributes());
    attributes.put("title", title);
    Principal moved = Rewritten.facts(it, it.unit(), it.manager(), attributes);
    change(new Change.Altered(it, moved));
  }

  private Instant today() {
    return clock.instant().truncatedTo(ChronoUnit.DAYS);
  }

  private List<Map<String, Object>> rounds() {
    return database.queryForList(
        "select number, title, state, cause, ends from review_round order by number");
  }

  private List<String> asked() {
    return database.queryForList("select id from review_item order by round, id", String.class);
  }

  // ---- what makes a round -----------------------------------------------------------------------

  @Test
  void whoMovesIsReviewedOnceByTheirManager() {
    made(rule("moved", "low"));
    watch.run(clock.instant());
    assertThat(rounds()).as("nobody moved yet").isEmpty();
    moves("odile.farrow", "Archivist");
    watch.run(clock.instant());
    assertThat(rounds())
        .singleElement()
        .satisfies(it ->
            assertThat(it)
                .containsEntry("title", "By event, revision " + model.state().revision())
                .containsEntry("state", "open")
                .containsEntry("cause", "somebody moved"));
    assertThat(asked()).isNotEmpty().allMatch(id -> isOf(id, "odile"));
    assertThat(database.queryForList("select distinct decider from review_item", String.class))
        .containsExactly("tomas.brandt");
    assertThat(database.queryForList("select person from notice", String.class))
        .contains("tomas.brandt");
    int many = asked().size();
    watch.run(clock.instant());
    moves("odile.farrow", "Keeper");
    watch.run(clock.instant());
    assertThat(asked()).as("what is open already is not asked again").hasSize(many);
    assertThat(rounds()).hasSize(1);
  }

  private boolean isOf(String id, String who) {
    String about =
        Objects.requireNonNull(
            database.queryForObject(
                "select about from review_item where id = ?", String.class, id));
    return about.startsWith(who);
  }

  @Test
  void aRoleThatIsWidenedIsReviewed() {
    made(rule("widened", "low"));
    PermissionSet set = // of a role that all accounts share, used at Fernwick
        Objects.requireNonNull(
            model.engine().catalogue().sets().get(new PermissionSetKey("loan-handling")));
    PermissionKey more =
        model.engine().catalogue().permissions().keySet().stream()
            .filter(it -> !it.value().startsWith("mandala.") && !set.allow().contains(it))
            .filter(it -> !set.deny().contains(it))
            .findFirst()
            .orElseThrow();
    List<PermissionKey> allow = new ArrayList<>(set.allow());
    allow.add(more);
    change(
        new Change.Altered(
            set,
            new PermissionSet(
                new PermissionSetKey(set.key().value()),
                set.about(),
                set.account(),
                allow,
                set.deny(),
                set.includes())));
    watch.run(clock.instant());
    assertThat(asked()).isNotEmpty().allMatch(it -> it.matches("role \\S+ " + more));
    assertThat(asked()).contains("role courier " + more);
    watch.run(clock.instant());
    assertThat(rounds()).hasSize(1);
  }

  @Test
  void aGuestsEndThatComesNearIsReviewedOncePerEnd() {
    made(rule("ending", "low"));
    watch.run(clock.instant());
    int already = asked().size();
    Guest guest = guest(today().plus(Duration.ofDays(30)));
    change(new Change.Added(guest));
    watch.run(clock.instant());
    assertThat(asked()).as("its end is far").hasSize(already);
    Guest near = guest(today().plus(Duration.ofDays(10)));
    change(new Change.Altered(guest, near));
    watch.run(clock.instant());
    assertThat(asked()).contains("guest fernwick noemi.mbeki").hasSize(already + 1);
    watch.run(clock.instant());
    assertThat(asked()).hasSize(already + 1);
    database.update("update review_item set state = 'done'");
    watch.run(clock.instant());
    assertThat(asked()).as("it was decided").hasSize(already + 1);
    change(new Change.Altered(near, guest(today().plus(Duration.ofDays(12)))));
    watch.run(clock.instant());
    assertThat(asked()).as("prolonged, it ends at another time").hasSize(already + 2);
  }

  private static Guest guest(Instant until) {
    return new Guest(
        About.NONE,
        new PrincipalKey("noemi.mbeki"),
        new AccountKey("fernwick"),
        false,
        new Window(null, until),
        new PrincipalKey("tomas.brandt"));
  }

  @Test
  void criticalAccessThatIsGivenIsReviewedAndWhatIsNarrowedIsNot() {
    made(rule("given", "high"));
    Assignment hers =
        Objects.requireNonNull(
            model.engine().catalogue().assignments().get(new AssignmentKey("petra-signs")));
    Assignment twice = Altered.with(hers, "key", "petra-signs-twice");
    change(new Change.Added(twice));
    watch.run(clock.instant());
    assertThat(asked()).containsExactly("assignment petra-signs-twice");
    database.update("update review_item set state = 'done'");
    Assignment ends =
        new Assignment(
            twice.key(),
            twice.about(),
            twice.subject(),
            twice.gives(),
            twice.effect(),
            twice.scope(),
            twice.viewScope(),
            new Window(null, today().plus(Duration.ofDays(30))),
            twice.mode(),
            twice.crossesSeals());
    change(new Change.Altered(twice, ends));
    watch.run(clock.instant());
    assertThat(rounds()).as("an end date gives nothing").hasSize(1);
    change(new Change.Altered(ends, twice));
    watch.run(clock.instant());
    assertThat(rounds()).as("without it, it is given for longer").hasSize(2);
  }

  // ---- rules ------------------------------------------------------------------------------------

  @ParameterizedTest
  @CsvSource({
    "noor.haddad, 403",
    "tomas.brandt, 403",
    "dario.penn, 404",
    "vera.lindqvist, 403",
    "anselm.reeve, 200",
    "ilse.varga, 200"
  })
  void whoMayRunReviewsMakesRules(String who, int status) {
    assertThat(as(who).send("POST", RULES, rule("moved", "low")).status()).isEqualTo(status);
    assertThat(ok(as(who).get(RULES)).get("rules")).hasSize(status == 200 ? 1 : 0);
    assertThat(database.queryForList("select 1 from review_rule")).hasSize(status == 200 ? 1 : 0);
  }

  @Test
  void badRulesSayWhatAndWhere() {
    Caller anselm = as("anselm.reeve");
    String good = rule("moved", "low");
    for (String wrong :
        List.of(
            good.replace("\"moved\"", "\"vanished\""),
            good.replace("\"low\"", "\"tiny\""),
            good.replace("\"fernwick\"", "\"atlantis\""),
            good.replace("\"manager\"", "\"boss\""),
            good.replace("anselm.reeve", "nobody"),
            good.replace("\"days\": 7", "\"days\": 0"),
            good.replace("\"By event\"", "\" \""))) {
      Caller.Answer answer = anselm.send("POST", RULES, wrong);
      assertThat(answer.status()).as(wrong).isIn(400, 404);
      assertThat(answer.json().get("detail").stringValue()).isNotBlank();
    }
    assertThat(anselm.send("PUT", RULES + "/999", good).status()).isEqualTo(404);
    assertThat(anselm.send("DELETE", RULES + "/999", "").status()).isEqualTo(404);
    assertThat(database.queryForList("select 1 from review_rule")).isEmpty();
  }

  @Test
  void aRuleIsChangedAndEnds() {
    long number = made(rule("moved", "low"));
    JsonNode changed =
        ok(
            as("ilse.varga")
                .send(
                    "PUT",
                    RULES + "/" + number,
                    rule("moved", "critical").replace("By event", "Critical movers")));
    assertThat(changed.at("/rule/title").stringValue()).isEqualTo("Critical movers");
    assertThat(changed.get("ownerName").stringValue()).isEqualTo("Ilse Varga");
    Caller anselm = as("anselm.reeve");
    assertThat(ok(anselm.send("DELETE", RULES + "/" + number, "")).get("rules")).isEmpty();
    moves("odile.farrow", "Archivist");
    watch.run(clock.instant());
    assertThat(rounds()).isEmpty();
    assertThat(
            database.queryForList(
                "select said from trail where said like '%a rule for the review round%'"
                    + " or said like '%the rule for the review round%'"))
        .hasSizeGreaterThanOrEqualTo(2);
  }

  @Test
  void whileItsOwnerMayNotARuleWaitsAndLooksAtAllOfItLater() {
    made(rule("moved", "low"));
    Group office =
        Objects.requireNonNull(
            model.engine().catalogue().groups().get(new GroupKey("l-security-office")));
    Group without =
        Rewritten.without(
            office,
            new Group.Member.OfPrincipal(Principal.Kind.PERSON, new PrincipalKey("anselm.reeve")));
    assertThat(without).isNotEqualTo(office);
    change(new Change.Altered(office, without));
    moves("odile.farrow", "Archivist");
    watch.run(clock.instant());
    watch.run(clock.instant());
    assertThat(rounds()).isEmpty();
    assertThat(heldUp()).contains("does not cover it");
    assertThat(database.queryForList("select 1 from notice where person = 'anselm.reeve'"))
        .as("one notice, not one a minute")
        .hasSize(1);
    change(new Change.Altered(without, office));
    Principal anselm = principal("anselm.reeve");
    Principal away = Altered.with(anselm, "status", "suspended");
    change(new Change.Altered(anselm, away));
    watch.run(clock.instant());
    assertThat(rounds()).as("now they are away").isEmpty();
    change(new Change.Altered(away, anselm));
    watch.run(clock.instant());
    assertThat(asked()).isNotEmpty().allMatch(id -> isOf(id, "odile"));
    assertThat(heldUp()).isNull();
  }

  private @Nullable String heldUp() {
    return database.queryForObject("select held_up from review_rule", String.class);
  }

  @Test
  void twoLooksAtTheSameTimeMakeOneRound() throws InterruptedException {
    made(rule("moved", "low"));
    moves("odile.farrow", "Archivist");
    List<Thread> looks = new ArrayList<>();
    for (int i = 0; i < 4; i++) {
      looks.add(Thread.ofVirtual().start(() -> watch.run(clock.instant())));
    }
    for (Thread each : looks) {
      each.join();
    }
    assertThat(rounds()).hasSize(1);
  }
}
