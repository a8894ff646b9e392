package mandala.server.token;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import mandala.core.RandomChanges;
import mandala.core.change.Change;
import mandala.core.model.About;
import mandala.core.model.Assignment;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.MovableClock;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.system.CapturedOutput;
import org.springframework.boot.test.system.OutputCaptureExtension;
import org.springframework.context.annotation.Import;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** A program calls with a token: what it may read, where, until when, and what is kept of it. */
@ApiTest
@Import(MovableClock.Moves.class)
@DirtiesContext
@ExtendWith(OutputCaptureExtension.class)
class TokensTest {

  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final PrincipalKey SERVICE = new PrincipalKey("ticketing");

  @Autowired private Environment environment;
  @Autowired private LiveModel model;
  @Autowired private JdbcTemplate database;
  @Autowired private MovableClock clock;
  @Autowired private Tokens tokens;
  @Autowired private OldTokens old;

  @BeforeEach
  void beginAnew() {
    clock.reset();
    database.update("delete from token");
    database.update("update credential set totp_last_step = -1");
    if (!model.engine().catalogue().assignments().containsKey(granted("auditor").key())) {
      model.change(
          List.of(
              new Change.Added(granted("auditor")), new Change.Added(granted("access-reviewer"))));
    }
  }

  /** The service may read all of Larkmoor; its tokens less. */
  private static Assignment granted(String role) {
    return new Assignment(
        new AssignmentKey("ticketing-" + role),
        About.NONE,
        new Subject.OfPrincipal(Principal.Kind.SERVICE, SERVICE),
        new Gives.OfRole(new RoleKey("mandala." + role)),
        Assignment.Effect.ALLOW,
        List.of(Clause.of(new Term.Tree(new ResourceKey("account:larkmoor")))),
        List.of(),
        Window.ALWAYS,
        Assignment.Mode.STANDING,
        false);
  }

  private Caller marten() {
    return Caller.as("marten.holloway", environment);
  }

  private String order(String name, List<String> purposes, List<String> accounts) {
    return JSON.writeValueAsString(
        Map.of(
            "name",
            name,
            "principal",
            SERVICE.value(),
            "purposes",
            purposes,
            "accounts",
            accounts,
            "ends",
            clock.instant().plus(Duration.ofDays(30)).toString()));
  }

  private JsonNode made(Caller maker, String name, List<String> purposes, String... accounts) {
    Caller.Answer answer =
        maker.send("POST", "/api/settings/tokens", order(name, purposes, List.of(accounts)));
    assertThat(answer.status()).as(answer.body()).isEqualTo(201);
    return answer.json();
  }

  private HttpResponse<String> call(String secret, String method, String path) {
    String address = "http://127.0.0.1:" + environment.getProperty("local.server.port");
    try (HttpClient client = HttpClient.newHttpClient()) {
      return client.send(
          HttpRequest.newBuilder(URI.create(address + path))
              .method(method, HttpRequest.BodyPublishers.noBody())
              .header("Authorization", "Bearer " + secret)
              .build(),
          HttpResponse.BodyHandlers.ofString());
    } catch (IOException e) {
      throw new AssertionError(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new AssertionError(e);
    }
  }

  private HttpResponse<String> get(String secret, String path) {
    return call(secret, "GET", path);
  }

  private static String secret(JsonNode made) {
    return made.get("secret").stringValue();
  }

  @Test
  void readsWhatItIsForOfItsAccountsAndNothingElse() {
    String secret = secret(made(marten(), "Reader", List.of("directory"), "quillhaven"));
    HttpResponse<String> people = get(secret, "/api/people?limit=200");
    assertThat(people.statusCode()).as(people.body()).isEqualTo(200);
    assertThat(people.body()).contains("\"quillhaven\"").doesNotContain("fernwick", "larkmoor");
    assertThat(get(secret, "/api/rights/people/noor.haddad").statusCode()).isEqualTo(200);
    assertThat(get(secret, "/api/rights/people/pia.lund").statusCode())
        .as("of Fernwick")
        .isEqualTo(404);
    assertThat(get(secret, "/api/rights/people/ticketing").statusCode())
        .as("itself, at home elsewhere")
        .isEqualTo(404);
    assertThat(get(secret, "/api/accounts").body()).doesNotContain("Fernwick");
    assertThat(call(secret, "HEAD", "/api/people").statusCode()).isEqualTo(200);
  }

  @ParameterizedTest
  @CsvSource({
    "GET, /api/ask/access?principal=noor.haddad",
    "GET, /api/trail",
    "GET, /api/session",
    "GET, /api/model",
    "GET, /api/drafts",
    "GET, /api/settings/tokens",
    "POST, /api/people/named",
    "POST, /api/settings/tokens",
    "DELETE, /api/session",
    "GET, /",
  })
  void opensNoOtherCall(String method, String path) {
    String secret = secret(made(marten(), "Reader", List.of("directory"), "quillhaven"));
    HttpResponse<String> refused = call(secret, method, path);
    assertThat(refused.statusCode()).isEqualTo(403);
    assertThat(refused.headers().firstValue("WWW-Authenticate"))
        .hasValue("Bearer error=\"insufficient_scope\"");
    assertThat(JSON.readTree(refused.body()).get("detail").stringValue()).contains("Make one");
  }

  @Test
  void asksAboutAccessAsFarAsItsAccounts() {
    String secret = secret(made(marten(), "Asker", List.of("access"), "quillhaven"));
    HttpResponse<String> own = get(secret, "/api/ask/access?principal=noor.haddad&in=quillhaven");
    assertThat(own.statusCode()).as(own.body()).isEqualTo(200);
    assertThat(own.body()).contains("q-");
    HttpResponse<String> everywhere = get(secret, "/api/ask/access?principal=noor.haddad");
    assertThat(everywhere.body()).doesNotContain("fernwick", "osier", "\"larkmoor\"");
    assertThat(get(secret, "/api/ask/access?principal=pia.lund&in=fernwick").statusCode())
        .isNotEqualTo(200);
    assertThat(get(secret, "/api/ask/access?principal=noor.haddad&draft=open").statusCode())
        .as("drafts are people's")
        .isEqualTo(400);
    assertThat(
            marten()
                .get("/api/trail?who=ticketing&act=asked")
                .json()
                .at("/lines/0/whoName")
                .stringValue())
        .isEqualTo("Ticketing, token “Asker”");
  }

  @Test
  void hasTheRightsOfItsPrincipalNow() {
    String secret = secret(made(marten(), "Trail", List.of("trail"), "quillhaven"));
    assertThat(JSON.readTree(get(secret, "/api/trail").body()).get("total").intValue())
        .isPositive();
    model.change(List.of(new Change.Removed(granted("auditor"))));
    try {
      assertThat(JSON.readTree(get(secret, "/api/trail").body()).get("total").intValue()).isZero();
    } finally {
      model.change(List.of(new Change.Added(granted("auditor"))));
    }
    Principal was = Objects.requireNonNull(model.engine().catalogue().principals().get(SERVICE));
    Principal suspended = RandomChanges.suspended(was);
    model.change(List.of(new Change.Altered(was, suspended)));
    try {
      assertThat(get(secret, "/api/trail").statusCode()).isEqualTo(401);
      assertThat(marten().get("/api/settings/tokens").json().at("/tokens/0/state").stringValue())
          .isEqualTo("resting");
    } finally {
      model.change(List.of(new Change.Altered(suspended, was)));
    }
    assertThat(get(secret, "/api/trail").statusCode()).isEqualTo(200);
  }

  @Test
  void readsTheFindingsOfItsAccounts() {
    List<String> accounts =
        model.engine().catalogue().accounts().keySet().stream()
            .map(Key::value)
            .filter(it -> !it.equals("dunlow"))
            .toList();
    Caller marten = marten();
    String all = secret(made(marten, "All", List.of("findings"), accounts.toArray(String[]::new)));
    JsonNode found = JSON.readTree(get(all, "/api/checks").body()).get("findings");
    assertThat(people(found)).as("people who break a rule").isNotEmpty();
    String one = secret(made(marten, "One", List.of("findings"), "fernwick"));
    JsonNode fewer = JSON.readTree(get(one, "/api/checks").body()).get("findings");
    assertThat(people(found)).containsAll(people(fewer));
    assertThat(people(fewer))
        .isNotEmpty()
        .allSatisfy(it ->
            assertThat(
                    Objects.requireNonNull(
                            model.engine().catalogue().principals().get(new PrincipalKey(it)))
                        .account()
                        .value())
                .isEqualTo("fernwick"));
    assertThat(JSON.readTree(get(one, "/api/checks").body()).get("elsewhere").booleanValue())
        .isTrue();
  }

  private static List<String> people(JsonNode findings) {
    return findings
        .valueStream()
        .flatMap(it -> it.get("cases").valueStream())
        .filter(it -> it.has("principal"))
        .map(it -> it.get("principal").stringValue())
        .toList();
  }

  @Test
  void namesWhoCanInItsAccounts() {
    String secret = secret(made(marten(), "Who", List.of("access", "directory"), "quillhaven"));
    HttpResponse<String> answer = get(secret, "/api/ask/who?permission=loan.draft&on=q-loan-101");
    assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
    assertThat(JSON.readTree(answer.body()).get("allowed"))
        .isNotEmpty()
        .allSatisfy(
            it -> assertThat(it.get("account").stringValue()).isEqualTo("Quillhaven Sea Museum"));
  }

  @Test
  void endsAtItsEndAndWhenItIsRevoked() {
    Caller marten = marten();
    JsonNode first = made(marten, "First", List.of("directory"), "quillhaven");
    JsonNode second = made(marten, "Second", List.of("directory"), "quillhaven");
    String path = "/api/settings/tokens/" + first.at("/token/id").stringValue();
    assertThat(get(secret(first), "/api/people").statusCode()).isEqualTo(200);
    Caller.Answer revoked = marten.send("DELETE", path, "");
    assertThat(revoked.json().get("state").stringValue()).isEqualTo("revoked");
    HttpResponse<String> refused = get(secret(first), "/api/people");
    assertThat(refused.statusCode()).isEqualTo(401);
    assertThat(refused.headers().firstValue("WWW-Authenticate"))
        .hasValue("Bearer error=\"invalid_token\"");
    assertThat(marten.send("DELETE", path, "").json().get("state").stringValue())
        .as("twice is no error")
        .isEqualTo("revoked");
    assertThat(get(secret(second), "/api/people").statusCode()).isEqualTo(200);
    clock.move(Duration.ofDays(30));
    assertThat(get(secret(second), "/api/people").statusCode()).isEqualTo(401);
    database.update("update credential set totp_last_step = -1");
    JsonNode list = marten().get("/api/settings/tokens").json().get("tokens");
    assertThat(list.valueStream().map(it -> it.get("state").stringValue()))
        .containsExactlyInAnyOrder("revoked", "ended");
    clock.move(Duration.ofDays(91));
    database.update("update credential set totp_last_step = -1");
    assertThat(marten().get("/api/settings/tokens").json().get("tokens")).isEmpty();
  }

  @Test
  void itsSecretIsToldOnceAndKeptNowhere(CapturedOutput output) {
    Caller marten = marten();
    String secret = secret(made(marten, "Kept", List.of("directory"), "quillhaven"));
    assertThat(secret).startsWith("mandala_").hasSize(8 + 43);
    get(secret, "/api/people");
    get(secret, "/api/nothing-here");
    get(secret + "x", "/api/people");
    get("x", "/api/people?access_token=" + secret);
    assertThat(output.getAll()).doesNotContain(secret.substring(8));
    assertThat(marten.get("/api/settings/tokens").body()).doesNotContain(secret);
    for (String table : List.of("token", "trail", "sign_in_throttle", "job", "notice", "mail")) {
      List<String> rows =
          database.query("select t::text from " + table + " t", (row, _) -> row.getString(1));
      assertThat(String.join("\n", rows)).as(table).doesNotContain(secret.substring(8));
    }
  }

  @Test
  void itsUseIsNotedOnceADayAndItsLastIsShown() {
    Caller marten = marten();
    String secret = secret(made(marten, "Daily", List.of("directory"), "quillhaven"));
    get(secret, "/api/people");
    get(secret, "/api/people");
    clock.move(Duration.ofHours(24));
    get(secret, "/api/people");
    database.update("update credential set totp_last_step = -1");
    Caller later = marten();
    assertThat(later.get("/api/trail?act=token-used&text=daily").json().get("total").intValue())
        .isEqualTo(2);
    assertThat(later.get("/api/trail?act=token-made&text=daily").json().get("total").intValue())
        .isEqualTo(1);
    JsonNode listed = later.get("/api/settings/tokens").json().at("/tokens/0");
    assertThat(Instant.parse(listed.get("used").stringValue()))
        .isAfter(clock.instant().minusSeconds(120));
    assertThat(listed.get("from").stringValue()).isEqualTo("127.0.0.1");
  }

  @Test
  void itsCallsOfAMinuteAreLimited() {
    JsonNode made = made(marten(), "Busy", List.of("directory"), "quillhaven");
    HttpResponse<String> first = get(secret(made), "/api/accounts");
    assertThat(first.statusCode()).as(first.body()).isEqualTo(200);
    assertThat(first.headers().firstValue("RateLimit-Policy")).hasValue("\"token\";q=300;w=60");
    assertThat(first.headers().firstValue("RateLimit").orElseThrow())
        .matches("\"token\";r=299;t=\\d+");
    HttpResponse<String> refused =
        IntStream.range(0, 3_000)
            .mapToObj(_ -> get(secret(made), "/api/accounts"))
            .filter(it -> it.statusCode() != 200)
            .findFirst()
            .orElseThrow();
    assertThat(refused.statusCode()).isEqualTo(429);
    assertThat(Integer.parseInt(refused.headers().firstValue("Retry-After").orElseThrow()))
        .isBetween(1, 60);
    assertThat(refused.headers().firstValue("RateLimit").orElseThrow()).contains("r=0");
    String other = secret(made(marten2(), "Calm", List.of("directory"), "quillhaven"));
    assertThat(get(other, "/api/accounts").statusCode()).isEqualTo(200);
  }

  private Caller marten2() {
    database.update("update credential set totp_last_step = -1");
    return marten();
  }

  @Test
  void whoSendsManyWrongTokensWaits() {
    database.update("delete from sign_in_throttle");
    int last =
        IntStream.range(0, 200)
            .map(i -> get("mandala_" + i, "/api/accounts").statusCode())
            .filter(it -> it != 401)
            .findFirst()
            .orElseThrow();
    assertThat(last).isEqualTo(429);
    String right = secret(made(marten(), "Right", List.of("directory"), "quillhaven"));
    assertThat(get(right, "/api/accounts").statusCode()).as("a right one").isEqualTo(200);
    database.update("delete from sign_in_throttle");
  }

  static Stream<Arguments> bad() {
    return Stream.of(
        Arguments.of("name", "\" \"", 400),
        Arguments.of("principal", "\"noor.haddad\"", 400),
        Arguments.of("principal", "\"nobody.there\"", 400),
        Arguments.of("principal", "\"Not a key!\"", 400),
        Arguments.of("purposes", "[]", 400),
        Arguments.of("purposes", "[\"everything\"]", 400),
        Arguments.of("purposes", "[null]", 400),
        Arguments.of("accounts", "[]", 400),
        Arguments.of("accounts", "[\"nowhere\"]", 403),
        Arguments.of("accounts", "[\"dunlow\"]", 403),
        Arguments.of("ends", "\"2020-01-01T00:00:00Z\"", 400),
        Arguments.of("ends", "\"2126-01-01T00:00:00Z\"", 400),
        Arguments.of("ends", "\"soon\"", 400));
  }

  @ParameterizedTest
  @MethodSource("bad")
  void whatDoesNotFitIsRefused(String field, String value, int status) {
    ObjectNode order =
        (ObjectNode) JSON.readTree(order("Fits", List.of("directory"), List.of("quillhaven")));
    order.set(field, JSON.readTree(value));
    Caller.Answer answer = marten().send("POST", "/api/settings/tokens", order.toString());
    assertThat(answer.status()).as(answer.body()).isEqualTo(status);
    assertThat(database.queryForObject("select count(*) from token", Integer.class)).isZero();
  }

  @Test
  void twoOfOneNameAndTooManyAreRefused() {
    Caller marten = marten();
    made(marten, "One", List.of("directory"), "quillhaven");
    String order = order("one", List.of("directory"), List.of("quillhaven"));
    assertThat(marten.send("POST", "/api/settings/tokens", order).status()).isEqualTo(409);
    for (int i = 1; i < TokenDesk.MOST; i++) {
      made(marten, "Further " + i, List.of("directory"), "quillhaven");
    }
    String oneMore = order("One more", List.of("directory"), List.of("quillhaven"));
    Caller.Answer refused = marten.send("POST", "/api/settings/tokens", oneMore);
    assertThat(refused.status()).isEqualTo(409);
    assertThat(refused.body()).contains("Too many tokens");
  }

  @Test
  void othersNeitherMakeNorSeeNorRevokeThem() {
    Caller marten = marten();
    JsonNode token = made(marten, "Hidden", List.of("directory"), "quillhaven").get("token");
    String path = "/api/settings/tokens/" + token.get("id").stringValue();
    String order = order("Mine", List.of("directory"), List.of("quillhaven"));
    for (String who :
        List.of("ilse.varga", "vera.lindqvist", "noor.haddad", "anselm.reeve", "sunniva.dunlow")) {
      Caller caller = Caller.as(who, environment);
      assertThat(caller.get("/api/settings/tokens").status()).as(who).isEqualTo(403);
      assertThat(caller.send("POST", "/api/settings/tokens", order).status())
          .as(who)
          .isIn(400, 403);
      assertThat(caller.send("DELETE", path, "").status()).as(who).isEqualTo(404);
    }
    assertThat(marten.get("/api/settings/tokens").json().at("/tokens/0/name").stringValue())
        .isEqualTo("Hidden");
  }

  @Test
  void itGoesWithItsPrincipal() {
    JsonNode made = made(marten(), "Going", List.of("directory"), "quillhaven");
    assertThat(get(secret(made), "/api/people").statusCode()).isEqualTo(200);
    tokens.of(Set.of(SERVICE)); // as when a revision removes the service
    assertThat(get(secret(made), "/api/people").statusCode()).isEqualTo(401);
  }

  @Test
  void whatEndedLongAgoIsDeleted() {
    JsonNode token = made(marten(), "Old", List.of("directory"), "larkmoor");
    assertThat(call(token.get("secret").stringValue(), "GET", "/api/people").statusCode())
        .isEqualTo(200);
    database.update(
        "insert into sign_in_throttle (id, state, expires_at) values ('past', '', 1)"
            + " on conflict do nothing");
    assertThat(limit("past")).isOne();
    old.run(clock.instant());
    assertThat(limit("past")).isZero();
    assertThat(limit("token:" + idOf(token))).as("it is not full yet").isOne();
    clock.move(Duration.ofDays(30).plus(OldTokens.ENDED).minusHours(1));
    old.run(clock.instant());
    assertThat(tokens.get(idOf(token))).isPresent();
    clock.move(Duration.ofHours(2));
    old.run(clock.instant());
    assertThat(tokens.get(idOf(token))).isEmpty();
  }

  private long limit(String id) {
    return database.queryForList("select id from sign_in_throttle where id like ?", id).size();
  }

  private static String idOf(JsonNode made) {
    return made.at("/token/id").stringValue();
  }
}
