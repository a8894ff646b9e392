package mandala.server.lifecycle;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.MovableClock;
import mandala.server.model.History;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.SmartLifecycle;
import org.springframework.context.annotation.Import;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What tests of people who come, move and leave share: the demo, put back after each. */
@ApiTest
@DirtiesContext
@Import(MovableClock.Moves.class)
abstract class LifecycleCase {

  protected static final JsonMapper JSON = JsonMapper.builder().build();

  @Autowired protected Environment environment;
  @Autowired protected JdbcTemplate database;
  @Autowired protected LiveModel model;
  @Autowired protected History history;
  @Autowired protected MovableClock clock;
  @Autowired protected PlannedActs planned;
  @Autowired protected SmartLifecycle schedulers;

  protected long before;

  @BeforeEach
  protected void asItWasBefore() {
    schedulers.stop();
    List.of("draft_request", "draft_approval", "draft_author", "draft", "planned_act", "mail")
        .forEach(it -> database.update("delete from " + it));
    database.update("delete from sign_in_link");
    database.update("delete from sign_in_throttle");
    before = model.state().revision();
  }

  @AfterEach
  protected void asItWas() {
    clock.reset();
    List<Change> done = history.changes(before, model.state().revision()).orElseThrow();
    model.change(Draft.of(done).inverse().inOrder());
  }

  protected Caller as(String who) {
    database.update("update credential set totp_last_step = -1");
    return Caller.as(who, environment);
  }

  protected static JsonNode ok(Caller.Answer answer) {
    assertThat(answer.status()).as(answer.body()).isBetween(200, 204);
    return answer.body().isEmpty() ? JSON.createObjectNode() : answer.json();
  }

  protected static void refused(Caller.Answer answer, int status, String why) {
    assertThat(answer.status()).as(answer.body()).isEqualTo(status);
    assertThat(answer.body()).contains(why);
  }

  protected static String json(Object it) {
    return JSON.writeValueAsString(it);
  }

  protected static Caller.Answer post(Caller who, String path, Object body) {
    return who.send("POST", path, json(body));
  }

  protected String code(String who) {
    database.update("update credential set totp_last_step = -1 where principal = ?", who);
    for (JsonNode person : new Caller(environment).get("/api/demo/people").json()) {
      if (person.get("key").stringValue().equals(who)) {
        return person.get("code").stringValue();
      }
    }
    throw new AssertionError(who + " is nobody of the demo");
  }

  /** Applies the open draft of somebody. */
  protected long applied(Caller who, String key) {
    JsonNode draft = who.get("/api/drafts/open").json();
    return ok(who.send(
            "POST",
            "/api/drafts/open/apply",
            "{\"content\":" + draft.get("content") + ",\"proof\":\"" + code(key) + "\"}"))
        .path("revision")
        .asLong();
  }

  protected Principal person(String key) {
    Principal it = model.engine().catalogue().principals().get(new PrincipalKey(key));
    if (it == null) {
      throw new AssertionError("There is no " + key);
    }
    return it;
  }

  /** {@return the newest mail to somebody} */
  protected String mail(String key) {
    return String.valueOf(
        database.queryForObject(
            "select body from mail where person = ? order by made_at desc limit 1",
            String.class,
            key));
  }

  /** {@return the secret of the link in the newest mail to somebody} */
  protected String token(String key) {
    String body = mail(key);
    int at = body.indexOf("token=");
    assertThat(at).as(body).isPositive();
    return body.substring(at + 6, body.indexOf('\n', at));
  }
}
