package mandala.server.excess;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpRequest;
import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.excess.Excess;
import mandala.core.excess.Use;
import mandala.core.excess.UseRecord;
import mandala.core.excess.UseWindow;
import mandala.core.model.Group;
import mandala.core.model.key.PrincipalKey;
import mandala.server.Altered;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.model.LiveModel;
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
    return records;
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
                .send("POST", "/api/excess/trims", "{\"principal\":\"gil.moreau\"}")
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

  @Test
  void aTrimIsProvedChosenAndBecomesADraft() {
    observeAll();
    Caller ilse = as("ilse.varga");
    JsonNode job = ilse.job("/api/excess/trims", "{\"principal\":\"odile.farrow\",\"days\":30}");
    assertThat(job.get("state").stringValue()).as(job.toString()).isEqualTo("done");
    String trim = "/api/excess/trims/" + job.get("id").stringValue();
    JsonNode found = ok(ilse.get(trim));
    JsonNode safest = found.get("points").get(0);
    assertThat(safest.get("steps")).isNotEmpty();
    assertThat(safest.has("changes")).isFalse();
    assertThat(number(safest, "own")).isLessThan(number(found, "own"));
    assertThat(number(safest, "after")).isLessThan(number(found, "before"));
    assertThat(number(safest, "after")).isGreaterThanOrEqualTo(number(found, "floor"));
    assertThat(safest.get("steps").toString())
        .as("what she has alone")
        .doesNotContain("Everyone in");
    assertThat(ilse.send("POST", trim + "/draft", "{\"tight\":0.3}").status()).isEqualTo(404);
    String draft =
        ok(ilse.send("POST", trim + "/draft", "{\"tight\":0}")).get("draft").stringValue();
    assertThat(ok(ilse.get("/api/drafts/" + draft)).get("name").stringValue())
        .isEqualTo("Trim Odile Farrow");
    JsonNode drafted = ok(ilse.get("/api/excess?principal=odile.farrow&days=30&draft=open"));
    assertThat(drafted.get("part").asBoolean()).isFalse();
    assertThat(number(drafted, "exposure")).isEqualTo(number(safest, "own"));
    ilse.send("PATCH", "/api/drafts/" + draft, "{\"state\":\"discarded\"}");
    Group group = model.engine().catalogue().groups().values().iterator().next();
    Group other = Altered.with(group, "name", "Another name");
    model.change(List.of(new Change.Altered(group, other)));
    try {
      Caller.Answer late = ilse.send("POST", trim + "/draft", "{\"tight\":0}");
      assertThat(late.status()).as(late.body()).isEqualTo(409);
    } finally {
      model.change(List.of(new Change.Altered(other, group)));
    }
    assertThat(as("vera.lindqvist").get(trim).status()).as("another's").isEqualTo(404);
  }
}
