package mandala.server.erasure;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.zip.GZIPInputStream;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.MovableClock;
import mandala.server.audit.Trail;
import mandala.server.model.History;
import mandala.server.model.LiveModel;
import mandala.server.model.ModelProof;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.SmartLifecycle;
import org.springframework.context.annotation.Import;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Somebody who left long ago is forgotten, and what is kept of the past still proves itself. */
@ApiTest
@DirtiesContext
@Import(MovableClock.Moves.class)
class ErasureApiTest {

  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final String ILSE = "ilse.varga";
  private static final String MARTEN = "marten.holloway";
  private static final Duration LONG = Duration.ofDays(31);

  @Autowired private Environment environment;
  @Autowired private JdbcTemplate database;
  @Autowired private LiveModel model;
  @Autowired private History history;
  @Autowired private Trail trail;
  @Autowired private ModelProof proof;
  @Autowired private Erasures erasures;
  @Autowired private MovableClock clock;
  @Autowired private SmartLifecycle schedulers;

  @BeforeEach
  void nothingHappensByItself() {
    schedulers.stop();
  }

  @AfterEach
  void now() {
    clock.reset();
  }

  private Caller as(String who) {
    database.update("update credential set totp_last_step = -1");
    return Caller.as(who, environment);
  }

  private static JsonNode ok(Caller.Answer answer) {
    assertThat(answer.status()).as(answer.body()).isBetween(200, 204);
    return answer.body().isEmpty() ? JSON.createObjectNode() : answer.json();
  }

  private static void refused(Caller.Answer answer, int status, String why) {
    assertThat(answer.status()).as(answer.body()).isEqualTo(status);
    assertThat(answer.body()).contains(why);
  }

  private static Caller.Answer post(Caller who, String path, Object body) {
    return who.send("POST", path, JSON.writeValueAsString(body));
  }

  private String code(String who) {
    database.update("update credential set totp_last_step = -1 where principal = ?", who);
    for (JsonNode person : new Caller(environment).get("/api/demo/people").json()) {
      if (person.get("key").stringValue().equals(who)) {
        return person.get("code").stringValue();
      }
    }
    throw new AssertionError(who + " is nobody of the demo");
  }

  private void applied(Caller ilse) {
    JsonNode content = ilse.get("/api/drafts/open").json().get("content");
    ok(post(ilse, "/api/drafts/open/apply", Map.of("content", content, "proof", code(ILSE))));
  }

  private void part(Caller ilse, String who) {
    Map<String, Object> fates = new HashMap<>();
    for (JsonNode it : ok(ilse.get("/api/people/" + who + "/ties?act=part")).get("ties")) {
      if (it.get("sort").stringValue().equals("duty")) {
        fates.put(it.get("id").stringValue(), Map.of("becomes", "hand", "to", "petra.lowe"));
      }
    }
    ok(post(ilse, "/api/people/" + who + "/parting", Map.of("fates", fates)));
    applied(ilse);
  }

  private Map<String, String> order() {
    return Map.of("proof", code(MARTEN), "reason", "Asked for by Tomas Brandt");
  }

  private static String path(String who) {
    return "/api/people/" + who + "/erasure";
  }

  private Optional<String> fault() {
    return trail.verify().fault().or(proof::fault);
  }

  /** {@return every row of the database that has one of some texts, with its table} */
  private List<String> rowsWith(String... texts) throws IOException {
    List<String> found = new ArrayList<>();
    for (String table :
        database.queryForList(
            "select table_name from information_schema.tables where table_type = 'BASE TABLE'"
                + " and table_schema = current_schema()",
            String.class)) {
      for (String row :
          database.queryForList("select t::text from \"" + table + "\" t", String.class)) {
        keep(found, table, row, texts);
      }
    }
    for (byte[] copy : database.queryForList("select document from model_copy", byte[].class)) {
      try (GZIPInputStream zip = new GZIPInputStream(new ByteArrayInputStream(copy))) {
        keep(found, "copy", new String(zip.readAllBytes(), StandardCharsets.UTF_8), texts);
      }
    }
    return found;
  }

  private static void keep(List<String> found, String table, String row, String... texts) {
    for (String text : texts) {
      int at = row.toLowerCase(Locale.ROOT).indexOf(text.toLowerCase(Locale.ROOT));
      if (at >= 0) {
        found.add(
            table + ": " + row.substring(Math.max(0, at - 60), Math.min(row.length(), at + 60)));
      }
    }
  }

  @Test
  void whoLeftLongAgoIsBlottedOutOfAllThatIsKeptAndTheChainHolds() throws IOException {
    String who = "tomas.brandt";
    Caller tomas = as(who);
    ok(tomas.get("/api/people"));
    Caller ilse = as(ILSE);
    ok(
        post(
            ilse,
            "/api/drafts/open/edits",
            Map.of(
                "edits",
                List.of(
                    Map.of(
                        "kind",
                        "principals",
                        "key",
                        who,
                        "set",
                        Map.of("email", "tomas@elsewhere.example", "note", "Has a dog")),
                    Map.of(
                        "kind",
                        "groups",
                        "key",
                        "f-couriers",
                        "add",
                        Map.of("members", List.of("person:" + who)))))));
    applied(ilse);
    ok(ilse.get("/api/ask/access?principal=" + who));
    ok(post(ilse, "/api/drafts", Map.of("name", "What about Tomas Brandt")));
    ok(post(ilse, "/api/drafts/open/comments", Map.of("said", "Tomas Brandt goes soon.")));
    part(ilse, who);
    assertThat(rowsWith("Tomas Brandt", who, "tomas@elsewhere.example")).isNotEmpty();
    assertThat(fault()).isEmpty();
    long left = model.state().revision();

    refused(post(as(MARTEN), path(who), order()), 409, "They left too recently");
    clock.move(LONG);
    refused(post(as(ILSE), path(who), order()), 403, "Only an owner of the account");
    refused(as("noor.haddad").get(path(who)), 404, "There is nobody called");
    Caller marten = as(MARTEN);
    refused(
        post(marten, path(who), Map.of("proof", "000000", "reason", "Asked")),
        400,
        "The code is not right");
    assertThat(ok(marten.get(path(who))).get("ordered").booleanValue()).isFalse();
    assertThat(post(marten, path(who), order()).status()).isEqualTo(202);
    assertThat(model.engine().catalogue().principals()).doesNotContainKey(new PrincipalKey(who));
    refused(post(marten, path(who), order()), 409, "They are being erased");

    erasures.run(clock.instant());
    assertThat(rowsWith(who)).as("other instances learn of the removal first").isNotEmpty();
    clock.move(Duration.ofMinutes(2));
    assertThat(database.update("update trail set said = said || '.' where seq = 1")).isOne();
    assertThatThrownBy(() -> erasures.run(clock.instant()))
        .as("what was altered is not made good by it")
        .hasMessageContaining("Line 1 is not as it was written");
    assertThat(rowsWith(who)).isNotEmpty();
    database.update("update trail set said = left(said, -1) where seq = 1");
    erasures.run(clock.instant());

    assertThat(rowsWith("Tomas Brandt", who, "tomas@elsewhere.example", "Has a dog")).isEmpty();
    assertThat(fault()).isEmpty();
    assertThat(marten.get("/api/trail?act=erased").body())
        .contains("Erased the personal facts of somebody who left", "Asked for by (erased)");
    Engine past = history.engineAt(left - 1, model.state());
    Catalogue then = (past == null ? model.engine() : past).catalogue();
    Principal stands =
        then.principals().values().stream()
            .filter(it -> it.key().value().startsWith("erased-"))
            .findFirst()
            .orElseThrow();
    assertThat(stands.about().name()).isEqualTo("(erased)");
    assertThat(stands.attributes()).as("rules of groups test it").containsOnlyKeys("title");
    assertThat(stands.email()).isNull();
    assertThat(stands.status()).isEqualTo(Principal.Status.ACTIVE);
    assertThat(then.groups().values())
        .as("what past access came by")
        .anyMatch(it -> it.lists(stands));
    refused(marten.get(path(who)), 404, "There is nobody called");

    isHeldByItsSignature();
  }

  private void isHeldByItsSignature() {
    List<String> alterations =
        List.of(
            "update trail set said = said || '.' where seq = (select min(number) from erased_part"
                + " where part = 'line')",
            "update model_entry set title = title || '.' where number = (select min(number) from"
                + " erased_part where part = 'revision')",
            "update erased_part set digest = repeat('0', 64) where part = 'line'",
            "update erasure set signature = 'AAAA'",
            "delete from erased_part where part = 'copy'");
    for (String it : alterations) {
      List.of("trail", "model_entry", "erased_part", "erasure")
          .forEach(table -> {
            database.execute("drop table if exists kept_" + table);
            database.execute("create table kept_" + table + " as select * from " + table);
          });
      assertThat(database.update(it)).as(it).isPositive();
      assertThat(fault()).as(it).isPresent();
      List.of("erased_part", "erasure", "model_entry", "trail")
          .forEach(table -> database.update("delete from " + table));
      List.of("trail", "model_entry", "erasure", "erased_part")
          .forEach(table -> {
            database.update("insert into " + table + " select * from kept_" + table);
            database.execute("drop table kept_" + table);
          });
      assertThat(fault()).as("put back").isEmpty();
    }
  }

  @Test
  void whoWasRemovedLongAgoIsErasedToo() throws IOException {
    Caller ilse = as(ILSE);
    String who = "carys.pike";
    part(ilse, who);
    ok(
        post(
            ilse,
            "/api/drafts/open/edits",
            Map.of("edits", List.of(Map.of("kind", "principals", "key", who, "remove", true)))));
    applied(ilse);
    refused(post(as(MARTEN), path(who), order()), 409, "They left too recently");
    clock.move(LONG);
    refused(as(ILSE).get(path(who)), 404, "There is nobody called");
    Caller marten = as(MARTEN);
    assertThat(ok(marten.get(path(who))).get("name").stringValue()).isEqualTo("Carys Pike");
    assertThat(post(marten, path(who), order()).status()).isEqualTo(202);
    clock.move(Duration.ofMinutes(2));
    erasures.run(clock.instant());
    assertThat(rowsWith("Carys Pike", who)).isEmpty();
    assertThat(fault()).isEmpty();
  }

  @Test
  void whoIsHereIsNotErased() {
    refused(as(MARTEN).get(path("noor.haddad")), 409, "They have not left");
    refused(as(MARTEN).get(path("nobody.at-all")), 404, "There is nobody called");
  }
}
