package mandala.server.review;

import java.time.Duration;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.model.key.AssignmentKey;
import mandala.server.Caller;
import mandala.server.model.History;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.SmartLifecycle;
import tools.jackson.databind.JsonNode;

/**
 * What tests share in which decisions take effect: rounds are run by the test, minute by minute.
 */
abstract class CarriedCase extends ReviewCase {

  protected static final String ODILES = "assignment odile-loans-f";
  protected static final AssignmentKey ODILES_KEY = new AssignmentKey("odile-loans-f");
  protected static final String PETRAS = "assignment petra-signs";
  protected static final AssignmentKey PETRAS_KEY = new AssignmentKey("petra-signs");

  @Autowired protected History history;
  @Autowired protected SmartLifecycle schedulers;

  protected long before;

  @BeforeEach
  protected void asItWasBefore() {
    List.of("draft_request", "draft_approval", "draft_author", "draft", "approval_policy")
        .forEach(it -> database.update("delete from " + it));
    before = model.state().revision();
  }

  @AfterEach
  protected void asItWas() {
    List<Change> done = history.changes(before, model.state().revision()).orElseThrow();
    done.reversed().forEach(it -> model.change(List.of(it.inverse())));
  }

  protected String order(
      String carried, String undecided, int remind, boolean escalate, int grace) {
    return order(
        MANAGERS,
        ", \"effect\": {\"carried\": \"%s\", \"remind\": %d, \"escalate\": %s, \"grace\": %d, \"undecided\": \"%s\"}"
            .formatted(carried, remind, escalate, grace, undecided));
  }

  protected long made(String owner, String carried, String undecided) {
    return made(owner, order(carried, undecided, 0, false, 0));
  }

  /** Jobs need queues; all else is run here, when it is due. */
  @Override
  protected long made(String owner, String order) {
    schedulers.start();
    long round = super.made(owner, order);
    schedulers.stop();
    return round;
  }

  /** Tomas decides about Odile's loans, and finishes. */
  protected int decided(long round, String decision) {
    return decided(round, ODILES, decision);
  }

  protected int decided(long round, String id, String decision) {
    int number = number(round, id);
    Caller tomas = as("tomas.brandt");
    ok(decide(tomas, round, number, decision));
    finish(tomas, round);
    return number;
  }

  protected static void finish(Caller who, long round) {
    JsonNode effect = ok(who.get("/api/reviews/" + round + "/effect"));
    for (JsonNode it : effect.get("broken")) {
      ok(
          who.send(
              "POST",
              "/api/reviews/" + round + "/answers",
              "{\"expectation\": \"%s\", \"said\": \"Yes\"}"
                  .formatted(it.get("key").stringValue())));
    }
    ok(who.send("POST", "/api/reviews/" + round + "/finish", ""));
  }

  protected void run() {
    clock.move(Duration.ofMinutes(1));
    watch.run(clock.instant());
  }

  protected void later(int days) {
    clock.move(Duration.ofDays(days));
    run();
  }

  protected JsonNode effects(long round) {
    return ok(as("ilse.varga").get("/api/reviews/" + round + "/effects"));
  }

  protected JsonNode row(long round, int number) {
    for (JsonNode it : mine("tomas.brandt", round)) {
      if (it.get("number").intValue() == number) {
        return it;
      }
    }
    throw new AssertionError("no item " + number);
  }

  protected String state(long round) {
    return ok(as("ilse.varga").get("/api/reviews/" + round)).at("/round/state").stringValue();
  }

  protected boolean isThere() {
    return isThere(ODILES_KEY);
  }

  protected boolean isThere(AssignmentKey key) {
    return model.engine().catalogue().assignments().containsKey(key);
  }

  protected List<String> acts(long round, int number) {
    return database.queryForList(
        "select act from review_act where round = ? and item = ? order by number",
        String.class,
        round,
        number);
  }
}
