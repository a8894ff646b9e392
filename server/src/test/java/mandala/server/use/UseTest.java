package mandala.server.use;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.http.HttpRequest;
import java.time.Duration;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import mandala.core.change.Change;
import mandala.core.excess.Use;
import mandala.core.excess.UseCoverage;
import mandala.core.excess.UseRecord;
import mandala.core.excess.UseWindow;
import mandala.core.model.About;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.shrink.ShrinkOrder;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.MovableClock;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.annotation.Import;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.json.JsonMapper;

/** Use records come in whole or not at all, once, and are read as they were told (section 12). */
@ApiTest
@Import(MovableClock.Moves.class)
@DirtiesContext
class UseTest {

  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final String OBJECT = "quillhaven";

  @Autowired private Environment environment;
  @Autowired private LiveModel model;
  @Autowired private JdbcTemplate database;
  @Autowired private MovableClock clock;
  @Autowired private UseMonths months;
  @Autowired private UseUpkeep upkeep;
  @Autowired private UseReadings readings;
  @Autowired private UsePolicy policy;
  @Autowired private OwnUse own;

  @BeforeEach
  void beginAnew() {
    clock.reset();
    months.all().keySet().forEach(months::drop);
    database.update("delete from use_source");
    database.update("delete from use_batch");
    database.update("delete from use_stranger");
    database.update("update credential set totp_last_step = -1");
    policy.set(new UsePolicy.Rule(62, 400, 60, 180));
  }

  private Caller marten() {
    return Caller.as("marten.holloway", environment);
  }

  private LocalDate today() {
    return LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
  }

  private static String order(String account, String more) {
    return "{\"name\": \"Collection\", \"account\": \"%s\", \"since\": \"2020-01-01\"%s}"
        .formatted(account, more);
  }

  private static void source(Caller caller, String key, String account, String more) {
    Caller.Answer answer = caller.send("PUT", "/api/use/sources/" + key, order(account, more));
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
  }

  private static Caller.Answer send(Caller caller, String source, String batch, String lines) {
    return send(caller, source, batch, lines, "application/x-ndjson");
  }

  private static Caller.Answer send(
      Caller caller, String source, String batch, String lines, String type) {
    return caller.send(
        "POST",
        "/api/use?source=" + source + "&batch=" + batch,
        HttpRequest.BodyPublishers.ofString(lines),
        Map.of("Content-Type", type));
  }

  private static String line(UseRecord it) {
    return JSON.writeValueAsString(
            Stream.of(
                    Map.entry("principal", it.principal().value()),
                    Map.entry("permission", it.permission().value()),
                    Map.entry("resource", it.resource().value()),
                    Map.entry("day", it.day().toString()),
                    Map.entry("count", it.count()))
                .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue)))
        .replace(
            "}", it.actingFor() == null ? "}" : ", \"actingFor\": \"" + it.actingFor() + "\"}");
  }

  private static String lines(List<UseRecord> records) {
    return records.stream().map(UseTest::line).collect(Collectors.joining("\n"));
  }

  private UseRecord record(String who, String permission, String place, int daysAgo) {
    return new UseRecord(
        new PrincipalKey(who),
        new PermissionKey(permission),
        new ResourceKey(place),
        today().minusDays(daysAgo),
        1,
        null);
  }

  /** Records about things of an account, over half a year. */
  private List<UseRecord> some(int many, String account, long seed) {
    Catalogue catalogue = model.engine().catalogue();
    Random random = new Random(seed);
    List<PrincipalKey> people =
        catalogue.principals().values().stream().map(Principal::key).limit(20).toList();
    List<PermissionKey> permissions =
        catalogue.permissions().keySet().stream()
            .sorted(Comparator.comparing(PermissionKey::value))
            .limit(8)
            .toList();
    List<ResourceKey> places =
        catalogue.resources().values().stream()
            .filter(it -> it.account().equals(new AccountKey(account)))
            .map(it -> it.key())
            .limit(10)
            .toList();
    List<UseRecord> records = new ArrayList<>();
    for (int i = 0; i < many; i++) {
      PrincipalKey who = people.get(random.nextInt(people.size()));
      PrincipalKey other = people.get(random.nextInt(people.size()));
      records.add(
          new UseRecord(
              who,
              permissions.get(random.nextInt(permissions.size())),
              places.get(random.nextInt(places.size())),
              today().minusDays(random.nextInt(185)),
              1 + random.nextInt(3),
              random.nextInt(5) == 0 && !other.equals(who) ? other : null));
    }
    return records;
  }

  private void assertReads(List<UseRecord> records, int days) {
    UseWindow window = new UseWindow(clock.instant(), days);
    Use expected = Use.of(records, window, model.engine().catalogue()).use();
    Set<PrincipalKey> people =
        records.stream()
            .flatMap(it -> Stream.of(it.principal(), it.whose()))
            .collect(Collectors.toSet());
    for (Use read : List.of(readings.of(people, window), readings.all(window))) {
      for (PrincipalKey who : people) {
        assertThat(read.of(who))
            .as("%s within %d days", who, days)
            .containsExactlyInAnyOrderElementsOf(expected.of(who));
      }
    }
    assertThat(readings.acted(window))
        .containsExactlyInAnyOrderElementsOf(ShrinkOrder.acted(records, window));
  }

  @Test
  void isReadAsItWasToldByDayAndRolledUp() {
    Caller marten = marten();
    source(marten, "collection", "larkmoor", "");
    List<UseRecord> first = some(300, OBJECT, 1);
    Caller.Answer taken = send(marten, "collection", "1", lines(first));
    assertThat(taken.json().path("records").asLong()).as(taken.body()).isEqualTo(300);
    assertThat(taken.json().path("unknown").asLong()).isZero();
    List.of(1, 30, 180).forEach(days -> assertReads(first, days));
    assertThat(months.all()).containsValues(true, false);
    policy.set(new UsePolicy.Rule(31, 400, 60, 180));
    clock.move(Duration.ofDays(31));
    upkeep.run(clock.instant());
    List<UseRecord> both = new ArrayList<>(first);
    // some of them fall into months that are rolled up
    List<UseRecord> later = some(200, OBJECT, 2);
    both.addAll(later);
    send(marten(), "collection", "2", lines(later));
    List.of(1, 30, 180, 211).forEach(days -> assertReads(both, days));
    assertThat(
            database.queryForObject(
                "select sum(count) from (select count from use_day"
                    + " union all select count from use_month) as counts",
                Long.class))
        .isEqualTo(both.stream().mapToLong(UseRecord::count).sum());
  }

  @Test
  void whatIsKeptNoLongerIsDropped() {
    Caller marten = marten();
    source(marten, "collection", "larkmoor", "");
    send(marten, "collection", "1", lines(some(200, OBJECT, 3)));
    policy.set(new UsePolicy.Rule(31, 60, 60, 60));
    upkeep.run(clock.instant());
    assertThat(months.all().keySet())
        .isNotEmpty()
        .allMatch(it -> !it.atEndOfMonth().isBefore(policy.rule().keptSince(today())));
  }

  @Test
  void aBatchIsTakenOnce() {
    Caller marten = marten();
    source(marten, "collection", "larkmoor", "");
    List<UseRecord> records = some(50, OBJECT, 4);
    send(marten, "collection", "1", lines(records));
    Caller.Answer again = send(marten, "collection", "1", lines(records));
    assertThat(again.json().get("again").asBoolean()).as(again.body()).isTrue();
    assertThat(again.json().get("records").asLong()).isEqualTo(50);
    assertReads(records, 180);
    Caller.Answer other = send(marten, "collection", "1", lines(records.subList(1, 50)));
    assertThat(other.status()).as(other.body()).isEqualTo(409);
    source(marten, "doors", "larkmoor", "");
    assertThat(send(marten, "doors", "1", "").json().get("again").asBoolean())
        .as("another source's key")
        .isFalse();
  }

  @Test
  void twoBatchesAtOnceAddUp() {
    Caller marten = marten();
    source(marten, "collection", "larkmoor", "");
    String lines = lines(List.of(record("noor.haddad", "object.view", "q-obj-1", 3)));
    String place = some(1, OBJECT, 5).getFirst().resource().value();
    String one = lines.replace("q-obj-1", place);
    List<CompletableFuture<Caller.Answer>> sent =
        IntStream.range(0, 6)
            .mapToObj(i ->
                CompletableFuture.supplyAsync(
                    () -> send(marten, "collection", "at-once-" + i, one)))
            .toList();
    sent.forEach(it -> assertThat(it.join().status()).as(it.join().body()).isEqualTo(200));
    assertThat(database.queryForObject("select sum(count) from use_day", Long.class)).isEqualTo(6);
  }

  @Test
  void theSameBatchTwiceAtOnceIsTakenOnce() {
    Caller marten = marten();
    source(marten, "collection", "larkmoor", "");
    String lines = lines(some(100, OBJECT, 6));
    List<CompletableFuture<Caller.Answer>> sent =
        IntStream.range(0, 4)
            .mapToObj(
                _ -> CompletableFuture.supplyAsync(() -> send(marten, "collection", "same", lines)))
            .toList();
    assertThat(sent.stream().map(CompletableFuture::join))
        .allMatch(it -> it.status() == 200)
        .filteredOn(it -> !it.json().get("again").asBoolean())
        .hasSize(1);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "'day': 'TOMORROW' | has not come yet",
        "'day': '1970-01-01' | too long ago",
        "'day': 'TODAY', 'count': 0 | the count is 0",
        "'day': 'TODAY', 'actingFor': 'noor.haddad' | acts for themselves",
        "'day': '2026-13-40' | a day like",
        "'day': 'TODAY', 'resource' | JSON",
      })
  void faultsAreToldWithTheirLinesAndNothingIsIn(String field, String told) {
    Caller marten = marten();
    source(marten, "collection", "larkmoor", "");
    String good = lines(some(3, OBJECT, 7));
    String bad =
        ("{'principal': 'noor.haddad', 'permission': 'object.view', 'resource': 'q-rooms', "
                + field.replace("TOMORROW", today().plusDays(1).toString())
                + "}")
            .replace("TODAY", today().toString())
            .replace('\'', '"');
    Caller.Answer refused = send(marten, "collection", "1", good + "\n" + bad + "\n" + good);
    assertThat(refused.status()).as(refused.body()).isEqualTo(422);
    assertThat(refused.json().get("faults")).hasSize(1);
    assertThat(refused.json().get("faults").get(0).toString()).contains("line 4", told);
    assertReads(List.of(), 180);
    assertThat(database.queryForObject("select count(*) from use_batch", Long.class)).isZero();
  }

  @Test
  void aTableIsReadByTheColumnsOfItsSource() {
    Caller marten = marten();
    source(
        marten,
        "collection",
        "larkmoor",
        ", \"columns\": {\"principal\": \"user\", \"permission\": \"act\", \"resource\": \"what\","
            + " \"day\": \"time\", \"count\": \"times\", \"actingFor\": null}");
    List<UseRecord> records =
        some(40, OBJECT, 8).stream()
            .map(it ->
                new UseRecord(
                    it.principal(), it.permission(), it.resource(), it.day(), it.count(), null))
            .toList();
    String rows =
        records.stream()
            .map(it ->
                "%s,\"x, y\",%s,%sT08:00:00Z,%s,%d"
                    .formatted(
                        it.principal(), it.permission(), it.day(), it.resource(), it.count()))
            .collect(Collectors.joining("\r\n"));
    Caller.Answer taken =
        send(marten, "collection", "1", "user,note,act,time,what,times\r\n" + rows, "text/csv");
    assertThat(taken.json().path("records").asLong()).as(taken.body()).isEqualTo(40);
    assertReads(records, 180);
    Caller.Answer refused =
        send(
            marten,
            "collection",
            "2",
            "user,note,act,time,what\r\n,,object.view,soon,q",
            "text/csv");
    assertThat(refused.json().get("faults").toString())
        .contains("line 2", "there is nothing", "'soon' is no day");
    assertThat(send(marten, "collection", "3", "user,act,what\r\n", "text/csv").body())
        .contains("there is no column 'time'");
    assertThat(send(marten, "collection", "4", "user,act,what,time\r\n\"cut", "text/csv").status())
        .isEqualTo(422);
  }

  @Test
  void strangersAreCountedAndTakenUpOnceTheyAreKnown() {
    Caller marten = marten();
    source(marten, "collection", "larkmoor", "");
    UseRecord known = some(1, OBJECT, 9).getFirst();
    UseRecord stranger =
        record("new.comer", known.permission().value(), known.resource().value(), 2);
    List<UseRecord> records =
        List.of(stranger, stranger, record("noor.haddad", "object.vanish", "nowhere", 1));
    Caller.Answer taken = send(marten, "collection", "1", lines(records));
    assertThat(taken.json().path("unknown").asLong()).as(taken.body()).isEqualTo(3);
    assertReads(List.of(), 180);
    var list = marten.get("/api/use/sources/collection/strangers").json();
    assertThat(list.get("records").asLong()).isEqualTo(3);
    assertThat(list.get("strangers").get(0).get("missing").toString()).isEqualTo("[\"principal\"]");
    assertThat(list.get("strangers").get(1).get("missing").toString())
        .isEqualTo("[\"permission\",\"resource\"]");
    Principal newcomer =
        new Principal(
            new PrincipalKey("new.comer"),
            About.NONE,
            Principal.Kind.PERSON,
            new AccountKey("quillhaven"),
            null,
            null,
            Principal.Status.ACTIVE,
            Window.ALWAYS,
            false,
            Map.of(),
            null,
            List.of(),
            null,
            null,
            null);
    model.change(List.of(new Change.Added(newcomer)));
    try {
      upkeep.run(clock.instant());
      assertReads(List.of(stranger, stranger), 180);
      assertThat(marten.get("/api/use/sources/collection/strangers").json().get("records").asLong())
          .isEqualTo(1);
    } finally {
      model.change(List.of(new Change.Removed(newcomer)));
    }
    clock.move(Duration.ofDays(61));
    upkeep.run(clock.instant());
    assertThat(database.queryForObject("select count(*) from use_stranger", Long.class)).isZero();
  }

  @Test
  void aSourceReportsPlacesOfItsAccountOnly() {
    Caller marten = marten();
    source(marten, "gallery", "fernwick", "");
    Caller.Answer taken = send(marten, "gallery", "1", lines(some(5, OBJECT, 10)));
    assertThat(taken.json().path("unknown").asLong()).as(taken.body()).isEqualTo(5);
    Caller.Answer place =
        marten.send(
            "PUT",
            "/api/use/sources/gallery",
            order("fernwick", ", \"places\": [\"account:quillhaven\"]"));
    assertThat(place.status()).as(place.body()).isEqualTo(400);
    Caller.Answer late =
        marten.send(
            "PUT",
            "/api/use/sources/gallery",
            order("fernwick", "").replace("2020-01-01", today().plusDays(1).toString()));
    assertThat(late.body()).contains("has not come yet");
  }

  @Test
  void onlyWhoManagesAnAccountsSettingsSeesItsSources() {
    source(marten(), "collection", "larkmoor", "");
    Caller noor = Caller.as("noor.haddad", environment);
    assertThat(noor.get("/api/use/sources").status()).isEqualTo(403);
    assertThat(noor.send("DELETE", "/api/use/sources/collection", "").status()).isEqualTo(404);
    assertThat(noor.send("PUT", "/api/use/sources/mine", order("quillhaven", "")).status())
        .isEqualTo(403);
    assertThat(send(noor, "collection", "1", "").status()).isEqualTo(404);
    assertThat(
            noor.send(
                    "PUT",
                    "/api/use/policy",
                    "{\"rolledAfter\":62,\"kept\":400,\"strangersKept\":60,\"window\":180}")
                .status())
        .isEqualTo(403);
  }

  @Test
  void aTokenReportsForItsAccountsAlone() {
    Caller marten = marten();
    source(marten, "collection", "larkmoor", "");
    source(marten, "gallery", "fernwick", "");
    String order =
        JSON.writeValueAsString(
            Map.of(
                "name",
                "Reporter",
                "purposes",
                List.of("use"),
                "accounts",
                List.of("fernwick"),
                "ends",
                clock.instant().plus(Duration.ofDays(3)).toString()));
    String secret =
        marten.send("POST", "/api/settings/tokens", order).json().get("secret").stringValue();
    Caller program = Caller.withToken(secret, environment);
    Caller.Answer own = send(program, "gallery", "1", lines(some(5, "fernwick", 11)));
    assertThat(own.json().get("records").asLong()).as(own.body()).isEqualTo(5);
    Caller.Answer other = send(program, "collection", "1", lines(some(5, OBJECT, 11)));
    assertThat(other.status()).as(other.body()).isEqualTo(404);
    assertThat(program.get("/api/use/sources").status()).isEqualTo(403);
  }

  @Test
  void whatPeopleDoInMandalaIsUse() throws IOException {
    Caller marten = marten();
    assertThat(marten.get("/api/people?limit=5").status()).isEqualTo(200);
    source(marten, "collection", "larkmoor", "");
    own.write();
    Use use =
        readings.of(
            List.of(new PrincipalKey("marten.holloway")), new UseWindow(clock.instant(), 1));
    assertThat(use.of(new PrincipalKey("marten.holloway")))
        .extracting(it -> it.permission() + " " + it.resource())
        .anyMatch(it -> it.startsWith("mandala.directory.read unit:"))
        .contains("mandala.settings.manage account:larkmoor");
    assertThat(use.coverage().parts())
        .anyMatch(it ->
            it.permissions() != null
                && it.permissions().contains(new PermissionKey("mandala.settings.manage")));
  }

  @Test
  void whatIsObservedIsWhatSourcesSay() {
    Caller marten = marten();
    source(marten, "collection", "larkmoor", ", \"permissions\": [\"object.view\"]");
    UseCoverage coverage = readings.all(new UseWindow(clock.instant(), 30)).coverage();
    assertThat(coverage.parts())
        .contains(
            new UseCoverage.Part(
                Set.of(new PermissionKey("object.view")),
                Set.of(new ResourceKey("account:larkmoor")),
                LocalDate.parse("2020-01-01")));
    marten.send("DELETE", "/api/use/sources/collection", "");
    assertThat(readings.all(new UseWindow(clock.instant(), 30)).coverage().parts()).hasSize(1);
  }
}
