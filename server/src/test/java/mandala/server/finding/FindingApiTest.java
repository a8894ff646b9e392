package mandala.server.finding;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.detect.Detection;
import mandala.core.detect.Detectors;
import mandala.core.detect.Inquiry;
import mandala.core.excess.UseWindow;
import mandala.core.model.Assignment;
import mandala.core.model.key.AssignmentKey;
import mandala.core.question.Impact;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.MovableClock;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.SmartLifecycle;
import org.springframework.context.annotation.Import;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** Findings are kept, told to who may know, and taken care of. */
@ApiTest
@Import(MovableClock.Moves.class)
@DirtiesContext
class FindingApiTest {

  private static final String BROAD = "broad-scope l-reviewers";
  private static final String LOCKS = "deny-locks-gate t-volunteers-no-desk";
  private static final String MAP_ROOM = "unused-role map-room-keeper";

  @Autowired private Environment environment;
  @Autowired private SmartLifecycle schedulers;
  @Autowired private FindingLook look;
  @Autowired private LiveModel model;
  @Autowired private JdbcTemplate database;
  @Autowired private MovableClock clock;

  @BeforeEach
  void nothingIsFoundYet() {
    clock.reset();
    schedulers.stop(); // looks are made here
    List.of("finding", "finding_state", "finding_look", "use_source", "draft_author", "draft")
        .forEach(it -> database.update("delete from " + it));
    database.update("update credential set totp_last_step = -1");
    look();
  }

  private void look() {
    clock.move(Duration.ofMinutes(1));
    look.doWhereChanged();
  }

  /** Codes may be used again: the clock stands. */
  private Caller as(String who) {
    database.update("update credential set totp_last_step = -1");
    return Caller.as(who, environment);
  }

  private static JsonNode ok(Caller.Answer answer) {
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    return answer.json();
  }

  private JsonNode list(String who, String query) {
    return ok(as(who).get("/api/findings?" + query));
  }

  private static List<String> ids(JsonNode list) {
    return list.path("findings").valueStream().map(it -> it.path("id").stringValue()).toList();
  }

  private static JsonNode named(JsonNode list, String id) {
    return list.path("findings")
        .valueStream()
        .filter(it -> it.path("id").stringValue().equals(id))
        .findFirst()
        .orElseThrow();
  }

  private Caller.Answer post(String who, String what, String body) {
    return as(who).send("POST", "/api/findings/" + what, body);
  }

  private static String accepting(String id, String until) {
    return """
    {"ids": ["%s"], "until": "%s", "reason": "The flood is not over"}
    """
        .formatted(id, until);
  }

  private void change(Change... changes) {
    model.change(List.of(changes));
  }

  private Assignment reviewers() {
    Assignment it = model.engine().catalogue().assignments().get(new AssignmentKey("l-reviewers"));
    assertThat(it).isNotNull();
    return java.util.Objects.requireNonNull(it);
  }

  // ---- what is found ----------------------------------------------------------------------------

  @Test
  void areThoseOfTheDetectorsAndTheBrokenRules() {
    List<String> kept = database.queryForList("select id from finding", String.class);
    List<String> byModel =
        Detectors.of(
                Inquiry.of(model.engine(), new UseWindow(clock.instant(), 180), null),
                Impact.Watch.TO_THE_END)
            .found()
            .stream()
            .map(Detection::id)
            .toList();
    assertThat(kept).containsAll(byModel);
    JsonNode list = list("marten.holloway", "most=500");
    List<String> told = ids(list);
    assertThat(told)
        .contains(BROAD, MAP_ROOM, LOCKS)
        .contains("still-answers hanne.sorrel", "few-become-many o-closed-readers o-staff")
        .anyMatch(it -> it.startsWith("exclusion-broken draft-and-approve petra.lowe"));
    assertThat(told.stream().filter(kept::contains).count())
        .as("all but what is about partners")
        .isGreaterThan(kept.size() * 8L / 10);
    Set<String> rules = Set.of("exclusion", "expectation", "prerequisite", "holders");
    assertThat(list.path("findings").valueStream())
        .filteredOn(it -> it.has("about") && !rules.contains(it.path("kind").stringValue()))
        .extracting(it -> it.path("id").stringValue())
        .isSubsetOf(kept);
  }

  @Test
  void eachIsToldToWhoMayKnowAllThatItTells() {
    JsonNode all = list("marten.holloway", "most=500");
    JsonNode part = list("dario.penn", "most=500");
    assertThat(ids(all)).hasSizeGreaterThan(ids(part).size()).containsAll(ids(part));
    assertThat(part.path("elsewhere").asBoolean()).isTrue();
    assertThat(ids(part)).isNotEmpty();
    for (JsonNode it : part.path("findings").valueStream().toList()) {
      assertThat(it.path("said").stringValue()).as("%s", it).doesNotContain("hidden");
      if (it.has("account")) {
        assertThat(it.path("account").stringValue()).as("%s", it).isEqualTo("fernwick");
      }
    }
    assertThat(as("noor.haddad").get("/api/findings").status()).isEqualTo(403);
    assertThat(as("noor.haddad").get("/api/findings/one?id=x").status()).isEqualTo(403);
  }

  @Test
  void aListIsFilteredCountedSortedAndPaged() {
    JsonNode all = list("ilse.varga", "most=500");
    int total = all.path("total").asInt();
    assertThat(ids(all)).hasSize(total);
    assertThat(all.path("kinds").valueStream().mapToInt(it -> it.path("many").asInt()).sum())
        .isEqualTo(total);
    JsonNode second = list("ilse.varga", "skip=5&most=3");
    assertThat(ids(second)).isEqualTo(ids(all).subList(5, 8));
    assertThat(second.path("total").asInt()).isEqualTo(total);
    JsonNode clutter = list("ilse.varga", "harm=clutter&most=500");
    assertThat(ids(clutter)).isNotEmpty().hasSizeLessThan(total).contains(MAP_ROOM);
    assertThat(clutter.path("kinds").size()).isEqualTo(all.path("kinds").size());
    assertThat(ids(list("ilse.varga", "detector=unused-role&most=500")))
        .allMatch(it -> it.startsWith("unused-role "));
    assertThat(list("ilse.varga", "risk=high&most=500").path("findings").valueStream())
        .extracting(it -> it.path("risk").stringValue())
        .containsOnly("high", "critical");
    assertThat(ids(list("ilse.varga", "text=map-room"))).containsExactly(MAP_ROOM);
    assertThat(list("ilse.varga", "account=osier&most=500").path("findings").valueStream())
        .isNotEmpty()
        .allMatch(it -> it.path("account").stringValue().equals("osier"));
    assertThat(ids(list("ilse.varga", "about=principals:hanne.sorrel")))
        .containsExactly("still-answers hanne.sorrel");
    List<Long> weights =
        list("ilse.varga", "order=largest&most=500")
            .path("findings")
            .valueStream()
            .map(it -> it.path("weight").asLong())
            .toList();
    assertThat(weights).isSortedAccordingTo(java.util.Comparator.reverseOrder());
  }

  @Test
  void allThatPassTheFiltersGoOutAsAFile() {
    JsonNode list = list("ilse.varga", "harm=clutter&most=500");
    Caller.Answer file = as("ilse.varga").get("/api/findings/file?harm=clutter&most=1&format=csv");
    assertThat(file.status()).as(file.body()).isEqualTo(200);
    assertThat(file.type()).startsWith("text/csv");
    assertThat(file.body().lines()).hasSize(1 + list.path("total").asInt());
    assertThat(file.body()).startsWith("finding,kind,harm,risk,size,about,account,state,owner");
    assertThat(as("ilse.varga").get("/api/findings/file?format=odd").status()).isEqualTo(400);
    assertThat(as("noor.haddad").get("/api/findings/file").status()).isEqualTo(403);
  }

  @ParameterizedTest
  @CsvSource({
    "state=open,There is no state",
    "risk=huge,There is no risk",
    "order=best,There is no order",
    "most=501,most",
    "skip=-1,skip"
  })
  void whatCanNotBeAskedIsRefused(String query, String said) {
    Caller.Answer answer = as("ilse.varga").get("/api/findings?" + query);
    assertThat(answer.status()).as(answer.body()).isEqualTo(400);
    assertThat(answer.body()).contains(said);
  }

  // ---- between looks ----------------------------------------------------------------------------

  @Test
  void whatIsNewAndWhatIsResolvedIsInTheTrail() {
    Assignment it = reviewers();
    long resolved = lines("Resolved: Very broad assignment");
    long found = lines("New finding: Very broad assignment");
    change(new Change.Removed(it));
    look();
    assertThat(ids(list("ilse.varga", "most=500"))).doesNotContain(BROAD);
    assertThat(named(list("ilse.varga", "state=resolved"), BROAD).path("state").stringValue())
        .isEqualTo("resolved");
    assertThat(lines("Resolved: Very broad assignment")).isEqualTo(resolved + 1);
    change(new Change.Added(it));
    look();
    assertThat(ids(list("ilse.varga", "most=500"))).contains(BROAD);
    assertThat(lines("New finding: Very broad assignment")).isEqualTo(found + 1);
  }

  @Test
  void theFirstLookOnlyRemembers() {
    long before = lines("New finding: ");
    database.update("delete from finding");
    database.update("delete from finding_look");
    look();
    assertThat(ids(list("ilse.varga", "most=500"))).contains(BROAD);
    assertThat(lines("New finding: ")).isEqualTo(before);
  }

  private long lines(String begin) {
    return java.util.Objects.requireNonNull(
        database.queryForObject(
            "select count(*) from trail where act = 'checked' and said like ?",
            Long.class,
            begin + "%"));
  }

  @Test
  void aLookIsMadeOnlyWhereSomethingChanged() {
    look();
    clock.move(Duration.ofMinutes(1));
    assertThat(look.doWhereChanged()).isFalse();
    clock.move(Duration.ofDays(1));
    assertThat(look.doWhereChanged()).isTrue();
  }

  // ---- what people say --------------------------------------------------------------------------

  @Test
  void oneIsAcceptedUntilADate() {
    String until = clock.instant().plus(Duration.ofDays(10)).toString();
    ok(post("ilse.varga", "accept", accepting(BROAD, until)));
    assertThat(ids(list("ilse.varga", "most=500"))).doesNotContain(BROAD);
    JsonNode accepted = named(list("ilse.varga", "state=accepted"), BROAD);
    assertThat(accepted.path("reason").stringValue()).isEqualTo("The flood is not over");
    assertThat(lines("Accepted until ")).isPositive();
    clock.move(Duration.ofDays(11));
    database.update("update credential set totp_last_step = -1");
    JsonNode back = named(list("ilse.varga", "most=500"), BROAD);
    assertThat(back.path("state").stringValue()).isEqualTo("new");
    assertThat(back.path("returned").stringValue()).isEqualTo("ended");
  }

  @Test
  void oneThatWorsensComesBack() {
    String until = clock.instant().plus(Duration.ofDays(10)).toString();
    ok(post("ilse.varga", "accept", accepting(BROAD, until)));
    change(
        new Change.Altered(
            reviewers(),
            mandala.core.change.Rewritten.gives(
                reviewers(),
                new mandala.core.model.Gives.OfRole(mandala.core.model.Supplied.OWNER))));
    look();
    JsonNode back = named(list("ilse.varga", "most=500"), BROAD);
    assertThat(back.path("returned").stringValue()).isEqualTo("worse");
    assertThat(back.path("risk").stringValue()).isEqualTo("critical");
  }

  @Test
  void oneIsReopened() {
    String until = clock.instant().plus(Duration.ofDays(10)).toString();
    ok(post("ilse.varga", "accept", accepting(BROAD, until)));
    ok(post("ilse.varga", "reopen", "{\"ids\": [\"" + BROAD + "\"]}"));
    assertThat(named(list("ilse.varga", "most=500"), BROAD).has("returned")).isFalse();
  }

  @Test
  void oneHasAnOwner() {
    ok(post("ilse.varga", "owner", "{\"ids\": [\"" + BROAD + "\"], \"owner\": \"bas.quill\"}"));
    JsonNode owned = named(list("ilse.varga", "owner=bas.quill"), BROAD);
    assertThat(owned.path("ownerName").stringValue()).isEqualTo("Bas Quill");
    assertThat(list("ilse.varga", "owner=none").get("owners").toString())
        .contains("{\"key\":\"bas.quill\",\"name\":\"Bas Quill\",\"many\":1}");
    assertThat(ids(list("ilse.varga", "owner=none&most=500"))).doesNotContain(BROAD);
    ok(post("ilse.varga", "owner", "{\"ids\": [\"" + BROAD + "\"]}"));
    assertThat(ids(list("ilse.varga", "owner=none&most=500"))).contains(BROAD);
    Caller.Answer left =
        post("ilse.varga", "owner", "{\"ids\": [\"" + BROAD + "\"], \"owner\": \"hanne.sorrel\"}");
    assertThat(left.status()).isEqualTo(404);
    assertThat(left.body()).contains("Choose from the list");
  }

  @Test
  void onlyWhoMayChangeItDecidesAboutIt() {
    String until = clock.instant().plus(Duration.ofDays(10)).toString();
    assertThat(named(list("vera.lindqvist", "most=500"), BROAD).path("mine").asBoolean()).isFalse();
    assertThat(named(list("ilse.varga", "most=500"), BROAD).path("mine").asBoolean()).isTrue();
    for (String act : List.of("accept", "reopen", "owner")) {
      String body =
          act.equals("accept") ? accepting(BROAD, until) : "{\"ids\": [\"" + BROAD + "\"]}";
      assertThat(post("vera.lindqvist", act, body).status()).as(act).isEqualTo(403);
      assertThat(post("dario.penn", act, body).status()).as(act).isEqualTo(404);
    }
    assertThat(database.queryForList("select id from finding_state")).isEmpty();
  }

  @Test
  void nothingIsHalfAccepted() {
    String until = clock.instant().plus(Duration.ofDays(10)).toString();
    String two =
        """
        {"ids": ["%s", "no-such finding"], "until": "%s", "reason": "r"}
        """
            .formatted(BROAD, until);
    Caller.Answer answer = post("ilse.varga", "accept", two);
    assertThat(answer.status()).isEqualTo(404);
    assertThat(answer.body()).contains("no-such finding");
    assertThat(post("ilse.varga", "accept", accepting(BROAD, "2020-01-01T00:00:00Z")).status())
        .isEqualTo(400);
    assertThat(database.queryForList("select id from finding_state")).isEmpty();
  }

  // ---- remedies ---------------------------------------------------------------------------------

  private JsonNode one(String who, String id) {
    return ok(as(who).get("/api/findings/one?id=" + URLEncoder.encode(id, StandardCharsets.UTF_8)));
  }

  @Test
  void aRemedyFitsIntoADraft() {
    JsonNode remedies = one("ilse.varga", LOCKS).path("remedies");
    assertThat(remedies.valueStream())
        .extracting(it -> it.path("label").stringValue())
        .containsExactly("Remove assignment");
    JsonNode made =
        ok(
            as("ilse.varga")
                .send(
                    "POST",
                    "/api/drafts/open/edits",
                    "{\"edits\": " + remedies.get(0).path("edits") + "}"));
    String draft = made.path("draft").path("id").stringValue();
    ok(post("ilse.varga", "drafted", "{\"id\": \"" + LOCKS + "\", \"draft\": \"" + draft + "\"}"));
    assertThat(named(list("ilse.varga", "state=in-draft"), LOCKS).path("state").stringValue())
        .isEqualTo("in-draft");
    assertThat(
            post("ilse.varga", "drafted", "{\"id\": \"" + LOCKS + "\", \"draft\": \"none\"}")
                .status())
        .isEqualTo(404);
    ok(as("ilse.varga").send("PATCH", "/api/drafts/" + draft, "{\"state\": \"discarded\"}"));
    assertThat(named(list("ilse.varga", "most=500"), LOCKS).path("state").stringValue())
        .isEqualTo("new");
  }

  @Test
  void everyRemedyThatIsOfferedFits() {
    int tried = 0;
    for (String id : ids(list("ilse.varga", "most=500"))) {
      boolean first = tried < 14 && !id.startsWith("no-living-owner");
      for (JsonNode remedy : first ? one("ilse.varga", id).path("remedies") : List.<JsonNode>of()) {
        tried++;
        assertThat(remedy.path("said").size()).as(id).isPositive();
        Caller.Answer answer =
            as("ilse.varga")
                .send(
                    "POST",
                    "/api/drafts/open/edits",
                    "{\"edits\": " + remedy.path("edits") + ", \"into\": \"new\"}");
        assertThat(answer.status()).as(id + ": " + answer.body()).isEqualTo(200);
        database.update("delete from draft_author");
        database.update("delete from draft");
      }
    }
    assertThat(tried).isGreaterThan(10);
  }

  /** An assignment of everything is also of an account that she may not read. */
  @Test
  void whatMayNotBeReadIsToldWithoutItsKey() {
    JsonNode it =
        list("ilse.varga", "detector=broad-scope")
            .path("findings")
            .valueStream()
            .filter(each -> each.path("said").stringValue().contains("for Bas Quill"))
            .findFirst()
            .orElseThrow();
    assertThat(it.has("about")).isFalse();
    assertThat(it.toString()).doesNotContain("flood");
    String id = it.path("id").stringValue();
    assertThat(one("ilse.varga", id).path("finding").path("said")).isEqualTo(it.path("said"));
    assertThat(one("ilse.varga", id).path("remedies").size()).isZero();
    assertThat(ids(list("ilse.varga", "about=assignments:strongroom-for-the-flood"))).isEmpty();
    assertThat(as("marten.holloway").get("/api/findings/one?id=" + id).status()).isEqualTo(404);
  }

  @Test
  void nobodyIsOfferedWhatTheyMayNotChange() {
    assertThat(one("vera.lindqvist", LOCKS).path("remedies").size()).isZero();
  }
}
