package mandala.server.figure;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.excess.Excess;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.Use;
import mandala.core.excess.UseCoverage;
import mandala.core.excess.UseWindow;
import mandala.core.model.Group;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.server.Altered;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.MovableClock;
import mandala.server.excess.ExcessStudies;
import mandala.server.model.History;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.SmartLifecycle;
import org.springframework.context.annotation.Import;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** How exposed people are is kept for each day, and lists are sorted by it. */
@ApiTest
@Import(MovableClock.Moves.class)
@DirtiesContext
class ExposureFiguresTest {

  /** All that lies in the trust is reported; what partners have is not. */
  private static final UseCoverage LARKMOOR =
      new UseCoverage(
          List.of(
              new UseCoverage.Part(
                  null, Set.of(new ResourceKey("account:larkmoor")), LocalDate.of(2020, 1, 1))));

  private static final PrincipalKey ODILE = new PrincipalKey("odile.farrow");

  @Autowired private Environment environment;
  @Autowired private SmartLifecycle schedulers;
  @Autowired private ExposureFigures figures;
  @Autowired private PastExposure past;
  @Autowired private History history;
  @Autowired private LiveModel model;
  @Autowired private ExcessStudies studies;
  @Autowired private JdbcTemplate database;
  @Autowired private MovableClock clock;

  @BeforeEach
  void nothingIsCountedYet() {
    clock.reset();
    schedulers.stop(); // counts are made here
    database.update("delete from exposure");
    database.update("delete from exposure_count");
    database.update("delete from use_source");
    database.update(
        "insert into use_source (key, name, account, places, since, columns) values"
            + " ('all', 'All', 'larkmoor', '{account:larkmoor}', '2020-01-01', '{\"principal\": \"a\","
            + " \"permission\": \"b\", \"resource\": \"c\", \"day\": \"d\"}')");
    database.update("update credential set totp_last_step = -1");
  }

  private Map<PrincipalKey, Excess> expected(Instant at) {
    Engine engine = model.engine();
    UseWindow window = new UseWindow(at, 180);
    Engine then = studies.past(window, model.state(), model.state()).engine();
    ExcessStudy study = engine.excess(then, Use.NONE.observing(LARKMOOR), window);
    return study.of(study.everybody()).stream()
        .collect(Collectors.toMap(Excess::principal, it -> it));
  }

  private LocalDate today() {
    return LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
  }

  private void count() {
    clock.move(Duration.ofMinutes(1));
    figures.doWhereChanged();
  }

  private long rows() {
    return Objects.requireNonNull(
        database.queryForObject("select count(*) from exposure", Long.class));
  }

  private Map<String, ExposureFigures.Figure> newest(ExposureFigures.Of of) {
    return database
        .queryForList("select distinct name from exposure where kind = ?", String.class, of.word())
        .stream()
        .collect(
            Collectors.toMap(
                name -> name, name -> figures.since(of, name, today()).getLast().figure()));
  }

  @Test
  void areThoseOfTheEngine() {
    count();
    Map<PrincipalKey, Excess> expected = expected(clock.instant());
    Map<PrincipalKey, ExposureFigures.Figure> newest = figures.newest().people();
    assertThat(newest).hasSameSizeAs(expected);
    expected.forEach((who, it) -> {
      assertThat(newest).as("%s", who).containsEntry(who, ExposureFigures.Figure.of(it));
    });
    Engine engine = model.engine();
    Map<String, ExposureFigures.Figure> groups = newest(ExposureFigures.Of.GROUP);
    for (Group group : engine.catalogue().groups().values()) {
      List<PrincipalKey> members =
          engine.having(new Subject.OfGroup(group.key()), clock.instant()).stream()
              .map(Principal::key)
              .toList();
      assertThat(Objects.requireNonNull(groups.get(group.key().value())).exposure())
          .as("%s", group.key())
          .isEqualTo(
              members.stream()
                  .mapToLong(it -> Objects.requireNonNull(expected.get(it)).exposure())
                  .sum());
    }
    Map<String, ExposureFigures.Figure> accounts = newest(ExposureFigures.Of.ACCOUNT);
    assertThat(accounts.values().stream().mapToLong(ExposureFigures.Figure::exposure).sum())
        .as("each is at home in one account")
        .isEqualTo(
            expected.values().stream()
                .filter(it -> !it.principal().equals(PrincipalKey.ANONYMOUS))
                .mapToLong(Excess::exposure)
                .sum());
  }

  @Test
  void aDayIsKeptWhereItIsAnotherThanTheDayBefore() {
    clock.move(
        Duration.ofDays(200)); // past the demo's history: nothing enters or leaves the window
    count();
    long first = rows();
    clock.move(Duration.ofDays(1));
    count();
    assertThat(rows()).as("nothing is another").isEqualTo(first);
    LocalDate changed = today();
    Principal odile = Objects.requireNonNull(model.engine().catalogue().principals().get(ODILE));
    Principal suspended = Altered.with(odile, "status", "suspended");
    model.change(List.of(new Change.Altered(odile, suspended)));
    try {
      count();
      assertThat(figures.since(ExposureFigures.Of.PRINCIPAL, "odile.farrow", changed))
          .last()
          .satisfies(it -> {
            assertThat(it.day()).isEqualTo(today());
            assertThat(it.figure().exposure()).isZero();
          });
      assertThat(figures.since(ExposureFigures.Of.PRINCIPAL, "odile.farrow", changed.minusDays(5)))
          .hasSize(2)
          .first()
          .satisfies(it -> assertThat(it.figure().exposure()).isPositive());
    } finally {
      model.change(List.of(new Change.Altered(suspended, odile)));
    }
    count();
    assertThat(rows()).as("as it was the day before").isEqualTo(first);
  }

  @Test
  void peopleAreSortedByIt() {
    Caller ilse = Caller.as("ilse.varga", environment);
    JsonNode none = ilse.get("/api/people?sort=-unused&limit=5").json();
    assertThat(none.get("rows").valueStream()).noneMatch(it -> it.has("exposure"));
    count();
    for (String sort : List.of("exposure", "unused", "share")) {
      JsonNode up = ilse.get("/api/people?sort=" + sort + "&limit=200").json();
      List<Double> values = values(up, sort);
      assertThat(values).as(sort).isSorted().hasSizeGreaterThan(10);
      List<Double> down = values(ilse.get("/api/people?sort=-" + sort + "&limit=200").json(), sort);
      assertThat(down).as("-" + sort).isSortedAccordingTo(Comparator.reverseOrder());
    }
    assertThat(ilse.get("/api/people?sort=risk").status()).isEqualTo(400);
    assertThat(ilse.get("/api/people/file?sort=-unused").body().lines().toList().getFirst())
        .contains("exposure", "unused exposure");
  }

  private static List<Double> values(JsonNode answer, String sort) {
    return answer
        .get("rows")
        .valueStream()
        .filter(it -> it.has("exposure"))
        .map(it -> it.get("exposure"))
        .map(it ->
            sort.equals("share")
                ? share(it.get("unused").asLong(), it.get("exposure").asLong())
                : it.get(sort).asDouble())
        .toList();
  }

  private static double share(long unused, long exposure) {
    return exposure == 0 ? 0 : (double) unused / exposure;
  }

  @Test
  void nobodyIsToldOfMoreThanTheyMayAsk() {
    count();
    Caller anselm = Caller.as("anselm.reeve", environment);
    List<JsonNode> rows =
        anselm.get("/api/people?limit=200").json().get("rows").valueStream().toList();
    assertThat(rows).anyMatch(it -> it.has("exposure"));
    for (JsonNode row : rows) {
      Caller.Answer asked = anselm.get("/api/excess?principal=" + row.get("key").stringValue());
      boolean whole = asked.status() == 200 && !asked.json().get("part").asBoolean();
      assertThat(row.has("exposure")).as(row.toString()).isEqualTo(whole);
    }
  }

  @Test
  void peopleComeByTheExposureThatTheyDoNotUse() {
    count();
    JsonNode all = Caller.as("ilse.varga", environment).get("/api/exposure?most=2000").json();
    List<JsonNode> people = all.get("people").valueStream().toList();
    assertThat(people).hasSize(all.get("total").asInt()).isNotEmpty();
    assertThat(people.stream().map(it -> it.get("unused").asLong()).toList())
        .isSortedAccordingTo(Comparator.reverseOrder());
    for (JsonNode it : people) {
      ExposureFigures.Figure figure =
          figures.newest().people().get(new PrincipalKey(it.get("key").stringValue()));
      assertThat(it.get("exposure").asLong()).isEqualTo(Objects.requireNonNull(figure).exposure());
    }
    database.update("update credential set totp_last_step = -1");
    Caller dario = Caller.as("dario.penn", environment);
    assertThat(dario.get("/api/exposure").json().get("people").valueStream())
        .isNotEmpty()
        .extracting(it -> it.get("account").stringValue())
        .containsOnly("Fernwick Gallery");
    assertThat(dario.get("/api/exposure?account=osier").status()).isEqualTo(404);
    assertThat(dario.get("/api/exposure?most=0").status()).isEqualTo(400);
    assertThat(Caller.as("noor.haddad", environment).get("/api/exposure").status()).isEqualTo(403);
  }

  @Test
  void thePastIsWorkedOutWeekByWeek() {
    database.update("delete from past_exposure");
    assertThat(past.anotherWeek()).as("before the first count").isFalse();
    count();
    LocalDate first = today().minusDays(7);
    assertThat(past.anotherWeek()).isTrue();
    Instant then = first.plusDays(1).atStartOfDay(ZoneOffset.UTC).toInstant().minusSeconds(1);
    Engine engine =
        Objects.requireNonNull(
            history.engineAt(history.revisionAt(then).orElseThrow(), model.state()));
    ExcessStudy study = engine.excess(engine, Use.NONE, new UseWindow(then, 1));
    Set<PrincipalKey> home =
        engine.catalogue().principals().values().stream()
            .filter(it -> it.account().value().equals("quillhaven"))
            .map(Principal::key)
            .collect(Collectors.toSet());
    long expected =
        study.of(study.everybody()).stream()
            .filter(it -> home.contains(it.principal()))
            .mapToLong(Excess::exposure)
            .sum();
    assertThat(past.of("quillhaven")).contains(new PastExposure.Then(first, expected));
    assertThat(expected).isPositive();
    JsonNode told =
        Caller.as("ilse.varga", environment)
            .get("/api/accounts/quillhaven/figures/exposure")
            .json();
    assertThat(told.get("days").valueStream())
        .anySatisfy(it -> {
          assertThat(it.get("day").stringValue()).isEqualTo(first.toString());
          assertThat(it.get("exposure").asLong()).isEqualTo(expected);
          assertThat(it.has("unused")).isFalse();
        })
        .last()
        .satisfies(it -> assertThat(it.has("unused")).isTrue());
    while (past.doWhereChanged()) {
      // on to the first revision
    }
    assertThat(past.of("quillhaven")).hasSizeBetween(20, 53);
    assertThat(
            Caller.as("dario.penn", environment)
                .get("/api/accounts/quillhaven/figures/exposure")
                .status())
        .as("an account that he may not read")
        .isEqualTo(404);
    assertThat(
            Caller.as("tess.aldergate", environment)
                .get("/api/accounts/larkmoor/figures/exposure")
                .body())
        .doesNotContain("exposure\":");
  }
}
