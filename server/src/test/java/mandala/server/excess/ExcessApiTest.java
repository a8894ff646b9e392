package mandala.server.excess;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpRequest;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.excess.Excess;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.Use;
import mandala.core.excess.UseCoverage;
import mandala.core.excess.UseRecord;
import mandala.core.excess.UseWindow;
import mandala.core.model.About;
import mandala.core.model.Assignment;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import mandala.server.Altered;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.model.LiveModel;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** What somebody does not use is told to who may know, with its reasons, and can be trimmed. */
@ApiTest
@DirtiesContext
class ExcessApiTest {

  private static final PrincipalKey NOOR = new PrincipalKey("noor.haddad");

  @Autowired private Environment environment;
  @Autowired private LiveModel model;
  @Autowired private JdbcTemplate database;
  @Autowired private Clock clock;

  @BeforeEach
  void freshCodes() {
    database.update("update credential set totp_last_step = -1");
    database.update("delete from use_source");
  }

  private Caller as(String who) {
    return Caller.as(who, environment);
  }

  private LocalDate today() {
    return LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
  }

  private void observeAll() {
    Caller.Answer answer =
        as("marten.holloway")
            .send(
                "PUT",
                "/api/use/sources/all",
                "{\"name\": \"All\", \"account\": \"larkmoor\", \"since\": \"2020-01-01\"}");
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
  }

  /** Reports that somebody used the first rights that they hold, some days ago. */
  private List<UseRecord> use(PrincipalKey who, int many, int daysAgo) {
    Engine engine = model.engine();
    List<UseRecord> records =
        engine.excess(engine, Use.NONE, new UseWindow(clock.instant(), 1)).rights(who).stream()
            .filter(it -> !it.permission().value().startsWith("mandala."))
            .limit(many)
            .map(it ->
                new UseRecord(
                    who, it.permission(), it.resource(), today().minusDays(daysAgo), 1, null))
            .toList();
    send(records);
    return records;
  }

  private void send(List<UseRecord> records) {
    String lines =
        records.stream()
            .map(it ->
                "{\"principal\":\"%s\",\"permission\":\"%s\",\"resource\":\"%s\",\"day\":\"%s\"}"
                    .formatted(it.principal(), it.permission(), it.resource(), it.day()))
            .collect(Collectors.joining("\n"));
    Caller.Answer answer =
        as("marten.holloway")
            .send(
                "POST",
                "/api/use?source=all&batch=" + UUID.randomUUID(),
                HttpRequest.BodyPublishers.ofString(lines),
                Map.of("Content-Type", "application/x-ndjson"));
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
  }

  private static JsonNode ok(Caller.Answer answer) {
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    return answer.json();
  }

  private static long number(JsonNode answer, String field) {
    return answer.path(field).asLong();
  }

  @Test
  void sharesAreThoseOfTheRecordsThatCameIn() {
    observeAll();
    List<UseRecord> records = use(NOOR, 7, 2);
    JsonNode answer = ok(as("ilse.varga").get("/api/excess?principal=noor.haddad&days=30"));
    Engine engine = model.engine();
    UseWindow window = new UseWindow(clock.instant(), 30);
    Excess expected =
        engine.excess(engine, Use.of(records, window, engine.catalogue()).use(), window).of(NOOR);
    assertThat(number(answer, "rights")).isEqualTo(expected.rights());
    assertThat(number(answer, "needed")).isEqualTo(expected.needed());
    assertThat(number(answer, "exposure")).isEqualTo(expected.exposure());
    assertThat(
            number(answer, "needed")
                + number(answer, "young")
                + number(answer, "unobserved")
                + number(answer, "unused"))
        .isEqualTo(expected.rights());
    long places =
        answer.get("permissions").valueStream().mapToLong(it -> number(it, "places")).sum();
    assertThat(places).as("permission by permission").isEqualTo(number(answer, "unused"));
    assertThat(
            number(ok(as("ilse.varga").get("/api/excess?principal=noor.haddad&days=1")), "needed"))
        .as("what was used before the window is not needed")
        .isLessThan(expected.needed());
  }

  @Test
  void whatNobodyReportsIsNotObserved() {
    JsonNode answer = ok(as("ilse.varga").get("/api/excess?principal=noor.haddad&days=30"));
    assertThat(number(answer, "unused")).isZero();
    assertThat(number(answer, "unobserved")).isPositive();
    assertThat(answer.get("permissions")).isEmpty();
    observeAll();
    JsonNode observed = ok(as("ilse.varga").get("/api/excess?principal=noor.haddad&days=30"));
    assertThat(number(observed, "unused")).isPositive();
  }

  @Test
  void aWindowLongerThanWhatIsKeptIsRefused() {
    Caller.Answer refused = as("ilse.varga").get("/api/excess?principal=noor.haddad&days=3000");
    assertThat(refused.status()).as(refused.body()).isEqualTo(400);
    assertThat(refused.body()).contains("longer than what is kept", "at most");
    assertThat(as("ilse.varga").get("/api/excess?principal=noor.haddad&days=0").status())
        .isEqualTo(400);
  }

  @Test
  void isToldAsFarAsOneMayAsk() {
    Caller noor = as("noor.haddad");
    assertThat(noor.get("/api/excess?principal=noor.haddad").status()).isEqualTo(200);
    assertThat(noor.get("/api/excess?principal=odile.farrow").status()).isEqualTo(404);
    assertThat(noor.get("/api/excess?principal=nobody.there").status()).isEqualTo(404);
    JsonNode part = ok(as("anselm.reeve").get("/api/excess?principal=gil.moreau"));
    assertThat(part.get("part").asBoolean()).as("a guest from elsewhere").isTrue();
    assertThat(part.has("young")).isFalse();
    assertThat(number(part, "exposure")).isPositive();
    assertThat(
            as("anselm.reeve")
                .send("POST", "/api/excess/trims", "{\"of\":[\"person:gil.moreau\"]}")
                .status())
        .isEqualTo(403);
  }

  @Test
  void eachUnusedRightSaysWhenItWasUsedAndSinceWhenItIsHeld() {
    observeAll();
    UseRecord used = use(new PrincipalKey("tomas.brandt"), 1, 60).getFirst();
    String rights =
        "/api/excess/rights?principal=tomas.brandt&days=30&permission=" + used.permission();
    JsonNode answer = ok(as("ilse.varga").get(rights));
    assertThat(answer.get("rights"))
        .isNotEmpty()
        .allMatch(it -> it.get("heldLonger").asBoolean() || it.has("heldSince"))
        .anySatisfy(it -> {
          assertThat(it.get("resource").stringValue()).isEqualTo(used.resource().value());
          assertThat(it.get("lastUsed").stringValue()).isEqualTo(used.day().toString());
          assertThat(it.get("days").asInt()).isEqualTo(1);
        });
    assertThat(ok(as("ilse.varga").get(rights + "-gone")).get("total").asInt()).isZero();
  }

  private JsonNode trimOf(Caller who, String order, String[] path) {
    JsonNode job = who.job("/api/excess/trims", order);
    assertThat(job.get("state").stringValue()).as(job.toString()).isEqualTo("done");
    path[0] = "/api/excess/trims/" + job.get("id").stringValue();
    return ok(who.get(path[0]));
  }

  @Test
  void aTrimIsProvedChosenAndBecomesADraft() {
    observeAll();
    Caller ilse = as("ilse.varga");
    String[] trim = new String[1];
    JsonNode found = trimOf(ilse, "{\"of\":[\"person:odile.farrow\"],\"days\":30}", trim);
    List<JsonNode> points = found.get("points").valueStream().toList();
    assertThat(points).isNotEmpty();
    assertThat(points.stream().map(it -> number(it, "steps")))
        .as("where one may stop")
        .isSorted()
        .doesNotHaveDuplicates()
        .last()
        .isEqualTo((long) found.get("steps").size());
    assertThat(points.stream().map(it -> number(it, "own")))
        .isSortedAccordingTo(Comparator.reverseOrder());
    JsonNode first = points.getFirst();
    assertThat(number(first, "own")).isLessThan(number(found, "own"));
    assertThat(number(first, "after")).isLessThan(number(found, "before"));
    assertThat(number(points.getLast(), "after")).isGreaterThanOrEqualTo(number(found, "floor"));
    assertThat(number(points.getLast(), "own")).isGreaterThanOrEqualTo(number(found, "ownFloor"));
    assertThat(found.get("narrows").asBoolean())
        .as("she may define the sets for it where those people are at home")
        .isTrue();
    assertThat(found.get("steps").valueStream())
        .allSatisfy(it -> {
          assertThat(it.has("changes")).isFalse();
          assertThat(it.get("why").stringValue()).isNotBlank();
        });
    assertThat(found.get("steps").toString())
        .as("what she has alone")
        .doesNotContain("Everyone in");
    String stop = "{\"steps\":" + number(first, "steps") + "}";
    assertThat(ilse.send("POST", trim[0] + "/draft", "{\"steps\":999}").status()).isEqualTo(404);
    assertThat(ilse.send("POST", trim[0] + "/draft", "{\"steps\":0}").status()).isEqualTo(400);
    String draft = ok(ilse.send("POST", trim[0] + "/draft", stop)).get("draft").stringValue();
    assertThat(ok(ilse.get("/api/drafts/" + draft)).get("name").stringValue())
        .isEqualTo("Trim the access of Odile Farrow");
    JsonNode drafted = ok(ilse.get("/api/excess?principal=odile.farrow&days=30&draft=open"));
    assertThat(drafted.get("part").asBoolean()).isFalse();
    assertThat(number(drafted, "exposure")).isEqualTo(number(first, "own"));
    ilse.send("PATCH", "/api/drafts/" + draft, "{\"state\":\"discarded\"}");
    Group group = model.engine().catalogue().groups().values().iterator().next();
    Group other = Altered.with(group, "name", "Another name");
    model.change(List.of(new Change.Altered(group, other)));
    try {
      Caller.Answer late = ilse.send("POST", trim[0] + "/draft", stop);
      assertThat(late.status()).as(late.body()).isEqualTo(409);
    } finally {
      model.change(List.of(new Change.Altered(other, group)));
    }
    assertThat(as("vera.lindqvist").get(trim[0]).status()).as("another's").isEqualTo(404);
  }

  @Test
  void whatIsToStayIsNotTrimmed() {
    observeAll();
    Caller ilse = as("ilse.varga");
    String[] trim = new String[1];
    JsonNode found = trimOf(ilse, "{\"of\":[\"person:odile.farrow\"],\"days\":30}", trim);
    JsonNode step = found.get("steps").get(0);
    String named = step.get("kind").stringValue() + ":" + step.get("key").stringValue();
    JsonNode without =
        trimOf(
            ilse,
            "{\"of\":[\"person:odile.farrow\"],\"days\":30,\"untouched\":[\"" + named + "\"]}",
            trim);
    assertThat(without.get("steps").valueStream())
        .noneMatch(
            it -> (it.get("kind").stringValue() + ":" + it.path("key").asString("")).equals(named));
  }

  @Test
  void anAccountIsTrimmedTogether() {
    observeAll();
    Caller ilse = as("ilse.varga");
    String[] trim = new String[1];
    JsonNode found = trimOf(ilse, "{\"of\":[\"account:quillhaven\"],\"days\":30}", trim);
    assertThat(number(found, "people")).isGreaterThan(20);
    assertThat(found.get("points")).isNotEmpty();
    JsonNode last = found.get("points").valueStream().toList().getLast();
    assertThat(number(last, "own")).isLessThan(number(found, "own"));
    assertThat(ilse.send("POST", "/api/excess/trims", "{\"of\":[\"group:none\"]}").status())
        .isEqualTo(404);
    assertThat(ilse.send("POST", "/api/excess/trims", "{\"of\":[\"Ilse\"]}").status())
        .isEqualTo(404);
    assertThat(ilse.send("POST", "/api/excess/trims", "{\"of\":[]}").status()).isEqualTo(400);
    assertThat(
            as("noor.haddad")
                .send("POST", "/api/excess/trims", "{\"of\":[\"account:quillhaven\"]}")
                .status())
        .as("herself, whom she may ask about, and nobody else")
        .isEqualTo(200);
  }

  /** Gives somebody something that they have by nothing else, and reports that they used it. */
  private UseRecord onceByItself(PrincipalKey who) {
    Engine before = model.engine();
    for (Assignment it : before.catalogue().assignments().values()) {
      Assignment own =
          new Assignment(
              new AssignmentKey("own-for-once"),
              About.NONE,
              new Subject.OfPrincipal(Principal.Kind.PERSON, who),
              it.gives(),
              Assignment.Effect.ALLOW,
              it.scope(),
              List.of(),
              Window.ALWAYS,
              Assignment.Mode.STANDING,
              false);
      Engine engine = before.after(List.of(new Change.Added(own)));
      UseRecord found = givenOnlyBy(own, who, engine);
      if (it.effect() == Assignment.Effect.ALLOW && found != null) {
        model.change(List.of(new Change.Added(own)));
        send(List.of(found));
        return found;
      }
    }
    throw new AssertionError("The demo gives everything to " + who);
  }

  private @Nullable UseRecord givenOnlyBy(Assignment it, PrincipalKey who, Engine engine) {
    UseWindow window = new UseWindow(clock.instant(), 1);
    ExcessStudy study = engine.excess(engine, Use.NONE.observing(UseCoverage.NOTHING), window);
    List<UseRecord> found = new ArrayList<>();
    study.eachKept(
        who,
        (permission, position, givers) -> {
          PermissionKey what = study.permission(permission).key();
          if (givers.size() == 1
              && it.equals(engine.catalogue().assignments().at(givers.ref(0)))
              && !what.value().startsWith("mandala.")) {
            found.add(
                new UseRecord(who, what, study.resource(position), today().minusDays(3), 1, null));
          }
        });
    return found.isEmpty() ? null : found.getFirst();
  }

  @Test
  void whatIsRarelyUsedBecomesJustInTimeOrEnds() {
    observeAll();
    UseRecord used = onceByItself(new PrincipalKey("tomas.brandt"));
    Caller ilse = as("ilse.varga");
    String[] trim = new String[1];
    JsonNode found =
        trimOf(
            ilse,
            "{\"of\":[\"person:" + used.principal() + "\"],\"days\":30,\"rareDays\":3}",
            trim);
    assertThat(found.get("rare")).isNotEmpty();
    JsonNode rare = found.get("rare").get(0);
    assertThat(rare.get("days").asInt()).isBetween(1, 3);
    String key = rare.get("key").stringValue();
    long steps =
        found.get("points").valueStream().mapToLong(it -> number(it, "steps")).max().orElse(0);
    assertThat(
            ilse.send(
                    "POST",
                    trim[0] + "/draft",
                    "{\"steps\":0,\"ending\":[\"" + key + "\"],\"until\":\"2001-01-01T00:00:00Z\"}")
                .status())
        .as("an end in the past")
        .isEqualTo(400);
    assertThat(
            ilse.send("POST", trim[0] + "/draft", "{\"steps\":0,\"justInTime\":[\"other\"]}")
                .status())
        .isEqualTo(404);
    String draft =
        ok(ilse.send(
                "POST",
                trim[0] + "/draft",
                "{\"steps\":" + steps + ",\"justInTime\":[\"" + key + "\"]}"))
            .get("draft")
            .stringValue();
    assertThat(ok(ilse.get("/api/drafts/" + draft)).toString()).contains("just-in-time");
    ilse.send("PATCH", "/api/drafts/" + draft, "{\"state\":\"discarded\"}");
  }

  private JsonNode studyOf(Caller who, String order) {
    JsonNode job = who.job("/api/excess/studies", order);
    assertThat(job.get("state").stringValue()).as(job.toString()).isEqualTo("done");
    return ok(who.get("/api/excess/studies/" + job.get("id").stringValue()));
  }

  @Test
  void severalPeopleAreToldTogether() {
    observeAll();
    List<UseRecord> records = use(NOOR, 5, 2);
    Caller ilse = as("ilse.varga");
    Engine engine = model.engine();
    for (String of : List.of("group:", "role:", "account:quillhaven", "everybody")) {
      String whole =
          switch (of) {
            case "group:" -> of + groupOf(NOOR, engine);
            case "role:" -> of + engine.rolesHeld(NOOR, clock.instant()).getFirst();
            default -> of;
          };
      JsonNode answer = studyOf(ilse, "{\"of\":[\"" + whole + "\"],\"days\":30}");
      UseWindow window = new UseWindow(Instant.parse(answer.get("at").stringValue()), 30);
      Use use = Use.of(records, window, engine.catalogue()).use();
      ExcessStudy study = engine.excess(engine, use, window);
      Set<String> told =
          answer
              .get("rows")
              .valueStream()
              .map(it -> it.path("key").asString("anonymous"))
              .collect(Collectors.toSet());
      List<Excess> expected =
          study.of(study.everybody()).stream()
              .filter(it -> isIn(it.principal(), whole, engine, window.at()))
              .filter(it -> told.contains(it.principal().value()))
              .toList();
      long all =
          study.everybody().stream().filter(it -> isIn(it, whole, engine, window.at())).count();
      assertThat(number(answer, "people")).as(whole).isEqualTo(expected.size()).isPositive();
      assertThat(number(answer.get("total"), "exposure"))
          .as(whole)
          .isEqualTo(expected.stream().mapToLong(Excess::exposure).sum());
      assertThat(number(answer.get("total"), "rights"))
          .isEqualTo(answer.get("rows").valueStream().mapToLong(it -> number(it, "rights")).sum());
      assertThat(answer.get("rows").valueStream().map(it -> number(it, "unusedExposure")))
          .isSortedAccordingTo(Comparator.reverseOrder());
      assertThat(answer.get("part").asBoolean()).isEqualTo(expected.size() < all);
      study.everybody().stream()
          .filter(it -> isIn(it, whole, engine, window.at()) && !told.contains(it.value()))
          .forEach(it -> {
            Caller.Answer asked = ilse.get("/api/excess?principal=" + it);
            assertThat(asked.status() != 200 || asked.json().get("part").asBoolean())
                .as("%s was left out: she may not see all of their access", it)
                .isTrue();
          });
    }
  }

  private static String groupOf(PrincipalKey who, Engine engine) {
    return engine.catalogue().groups().keySet().stream()
        .filter(it -> engine.hasSubject(who, new Subject.OfGroup(it), Instant.now()))
        .findFirst()
        .orElseThrow()
        .value();
  }

  private static boolean isIn(PrincipalKey who, String of, Engine engine, Instant at) {
    if (of.equals("everybody")) {
      return true;
    }
    String key = of.substring(of.indexOf(':') + 1);
    return !who.equals(PrincipalKey.ANONYMOUS)
        && (of.startsWith("role:")
            ? engine.rolesHeld(who, at).contains(new RoleKey(key))
            : engine.hasSubject(
                who,
                of.startsWith("group:")
                    ? new Subject.OfGroup(new GroupKey(key))
                    : new Subject.OfAccount(new AccountKey(key)),
                at));
  }

  @Test
  void whoIsAskedAboutIsJudgedAtTheInstant() {
    Caller ilse = as("ilse.varga");
    PrincipalKey tomas = new PrincipalKey("tomas.brandt");
    Engine engine = model.engine();
    Assignment later =
        engine.catalogue().assignments().values().stream()
            .filter(it ->
                it.gives() instanceof Gives.OfRole(RoleKey role)
                    && !engine.rolesHeld(tomas, clock.instant()).contains(role)
                    && it.mode() == Assignment.Mode.STANDING)
            .map(it ->
                new Assignment(
                    new AssignmentKey("later-on"),
                    About.NONE,
                    new Subject.OfPrincipal(Principal.Kind.PERSON, tomas),
                    it.gives(),
                    it.effect(),
                    it.scope(),
                    it.viewScope(),
                    new Window(clock.instant().plus(Duration.ofDays(2)), null),
                    it.mode(),
                    false))
            .findFirst()
            .orElseThrow();
    model.change(List.of(new Change.Added(later)));
    try {
      String of = "{\"of\":[\"role:" + ((Gives.OfRole) later.gives()).key() + "\"]";
      Instant then = clock.instant().plus(Duration.ofDays(3));
      assertThat(rowsOf(studyOf(ilse, of + ",\"at\":\"" + then + "\"}"))).contains("tomas.brandt");
      assertThat(rowsOf(studyOf(ilse, of + "}"))).isNotEmpty().doesNotContain("tomas.brandt");
    } finally {
      model.change(List.of(new Change.Removed(later)));
    }
  }

  private static List<String> rowsOf(JsonNode study) {
    return study.get("rows").valueStream().map(it -> it.path("key").asString("")).toList();
  }

  @Test
  void onlyThoseAreToldWhoseWholeAccessOneMaySee() {
    JsonNode own = studyOf(as("noor.haddad"), "{\"of\":[\"account:quillhaven\"]}");
    assertThat(number(own, "people")).isEqualTo(1);
    assertThat(own.get("part").asBoolean()).isTrue();
    assertThat(own.get("rows").get(0).get("key").stringValue()).isEqualTo("noor.haddad");
    assertThat(
            as("noor.haddad")
                .send("POST", "/api/excess/studies", "{\"of\":[\"person:ilse.varga\"]}")
                .status())
        .isEqualTo(404);
  }

  @Test
  void severalPeopleAreToldWithADraftAndAtARevision() {
    observeAll();
    Caller ilse = as("ilse.varga");
    String order = "{\"of\":[\"person:odile.farrow\"],\"days\":30%s}";
    JsonNode now = studyOf(ilse, order.formatted(""));
    Caller.Answer edit =
        ilse.send(
            "POST",
            "/api/drafts/open/edits",
            "{\"edits\":[{\"kind\":\"principals\",\"key\":\"odile.farrow\","
                + "\"set\":{\"status\":\"suspended\"}}]}");
    assertThat(edit.status()).as(edit.body()).isEqualTo(200);
    JsonNode drafted = studyOf(ilse, order.formatted(",\"draft\":\"open\""));
    assertThat(number(now.get("total"), "exposure")).isPositive();
    assertThat(number(drafted.get("total"), "exposure")).as("suspended").isZero();
    JsonNode first = studyOf(ilse, order.formatted(",\"revision\":1"));
    assertThat(number(first.get("total"), "exposure")).isPositive();
    ilse.send("DELETE", "/api/drafts/open", "");
  }
}
