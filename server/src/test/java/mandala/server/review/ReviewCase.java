package mandala.server.review;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.MovableClock;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.BeforeEach;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.annotation.Import;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** What tests of rounds share: the trust without a round, and a clock that moves. */
@ApiTest
@Import(MovableClock.Moves.class)
@DirtiesContext
abstract class ReviewCase {

  @Autowired protected Environment environment;
  @Autowired protected LiveModel model;
  @Autowired protected JdbcTemplate database;
  @Autowired protected MovableClock clock;
  @Autowired protected RoundWatch watch;

  @BeforeEach
  protected void noRoundYet() {
    clock.reset();
    List.of(
            "review_act",
            "review_answer",
            "review_item",
            "review_round",
            "review_rule",
            "review_deputy")
        .forEach(it -> database.update("delete from " + it));
    database.update("delete from notice");
  }

  /** Codes may be used again: the clock stands. */
  protected Caller as(String who) {
    database.update("update credential set totp_last_step = -1");
    return Caller.as(who, environment);
  }

  protected static JsonNode ok(Caller.Answer answer) {
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    return answer.json();
  }

  protected String order(String stages, String more) {
    return order(stages, more, clock.instant());
  }

  protected static String order(String stages, String more, Instant begins) {
    return """
    {"title": "Quarterly", "contents": ["people", "guests"],
     "accounts": ["quillhaven", "fernwick"], "risk": "high", "only": "all", "detectors": [],
     "stages": %s, "begins": "%s", "ends": "%s", "passOn": true, "controls": 0,
     "repeats": "never"%s}
    """
        .formatted(stages, begins, begins.plus(Duration.ofDays(14)), more);
  }

  protected static final String MANAGERS =
      "[{\"order\": [\"manager\", \"place-owner\", \"person:anselm.reeve\"]}]";

  /** Makes a round as the access reviewer and gives its number. */
  protected long made(String order) {
    return made("anselm.reeve", order);
  }

  protected long made(String owner, String order) {
    Caller caller = as(owner);
    JsonNode job = caller.job(caller.send("POST", "/api/reviews", order));
    assertThat(job.get("state").stringValue()).as(job.toString()).isEqualTo("done");
    JsonNode answer = ok(caller.get("/api/jobs/" + job.get("id").stringValue() + "/answer"));
    return answer.get("round").longValue();
  }

  protected long made() {
    return made(order(MANAGERS, ""));
  }

  protected static String item(long round, int number) {
    return "/api/reviews/" + round + "/items/" + number;
  }

  protected static JsonNode find(JsonNode rows, String id) {
    for (JsonNode it : rows) {
      if (it.get("id").stringValue().equals(id)) {
        return it;
      }
    }
    throw new AssertionError(id + " is not in " + rows);
  }

  protected JsonNode mine(String who, long round) {
    return ok(as(who).get("/api/reviews/" + round + "/items")).get("items");
  }

  protected int number(long round, String id) {
    return find(mine("tomas.brandt", round), id).get("number").intValue();
  }

  protected static String facts(Caller caller, long round, int number) {
    return ok(caller.get(item(round, number))).get("facts").stringValue();
  }

  protected static Caller.Answer decide(Caller caller, long round, int number, String more) {
    String facts = facts(caller, round, number);
    return caller.send(
        "PUT", item(round, number) + "/decision", "{\"facts\": \"" + facts + "\", " + more + "}");
  }
}
