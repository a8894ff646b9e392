package mandala.server.review;

import static mandala.core.model.Principal.Status.ACTIVE;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import mandala.core.model.Principal;
import mandala.server.Caller;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What waits for somebody who leaves goes to somebody who stays. */
class HandedWorkTest extends ReviewCase {

  private static final String ILSE = "ilse.varga";
  private static final String ANSELM = "/api/people/anselm.reeve/work";

  @BeforeEach
  @AfterEach
  void noDrafts() {
    database.update("delete from draft_author");
    database.update("delete from draft");
  }

  private static Caller.Answer post(Caller who, String path, Map<String, Object> body) {
    return who.send("POST", path, JsonMapper.shared().writeValueAsString(body));
  }

  private static void refused(Caller.Answer answer, int status, String why) {
    assertThat(answer.status()).as(answer.body()).isEqualTo(status);
    assertThat(answer.body()).contains(why);
  }

  /** A draft of Ilse's in which somebody is parted with. */
  private String draft(String of) {
    Caller ilse = as(ILSE);
    return ok(post(ilse, "/api/people/" + of + "/parting", Map.of("fates", Map.of())))
        .get("draft")
        .stringValue();
  }

  private static Map<String, Object> to(String whom) {
    return Map.of("to", whom);
  }

  @Test
  void draftsGoToWhoeverMayReadAllOfThem() {
    String draft = draft("odile.farrow");
    Caller marten = as("marten.holloway");
    String path = "/api/people/ilse.varga/work";

    JsonNode plain = ok(post(marten, path, to("noor.haddad")));
    assertThat(plain.get("drafts").asInt()).isZero();
    assertThat(plain.get("draftsLeft").asInt()).isEqualTo(1);
    assertThat(ok(as("noor.haddad").get("/api/drafts")).get("mine")).isEmpty();

    JsonNode done = ok(post(marten, path, to("marten.holloway")));
    assertThat(done.get("drafts").asInt()).isEqualTo(1);
    assertThat(done.get("draftsLeft").asInt()).isZero();
    assertThat(ok(marten.get("/api/drafts/" + draft)).at("/owner/key").stringValue())
        .isEqualTo("marten.holloway");
    assertThat(ok(marten.get("/api/people/ilse.varga/standing")).get("drafts").asInt()).isZero();
    assertThat(ok(marten.get("/api/notices")).toString())
        .contains("A draft of Ilse Varga is yours now.");
    assertThat(
            database.queryForObject(
                "select said from trail where said like 'Handed over a draft%'"
                    + " order by seq desc limit 1",
                String.class))
        .isEqualTo("Handed over a draft of Ilse Varga to Marten Holloway");
  }

  private int open(String decider) {
    Integer many =
        database.queryForObject(
            "select count(*) from review_item where decider = ? and state = 'open'",
            Integer.class,
            decider);
    return many == null ? 0 : many;
  }

  @Test
  void reviewItemsAreGivenAndRoundsOffered() {
    long round = made();
    Caller marten = as("marten.holloway");
    int items = open("tomas.brandt");
    assertThat(items).isPositive();
    assertThat(ok(marten.get("/api/people/tomas.brandt/standing")).get("items").asInt())
        .isEqualTo(items);

    JsonNode done = ok(post(marten, "/api/people/tomas.brandt/work", to("anselm.reeve")));
    assertThat(done.get("items").asInt()).isEqualTo(items);
    assertThat(done.get("itemsLeft").asInt()).isZero();
    assertThat(open("tomas.brandt")).isZero();

    JsonNode offered = ok(post(marten, ANSELM, to(ILSE)));
    assertThat(offered.get("rounds").asInt() + offered.get("roundsLeft").asInt()).isEqualTo(1);
    assertThat(
            database.queryForObject(
                "select owner from review_round where number = ?", String.class, round))
        .as("nobody becomes an owner without a word of theirs")
        .isEqualTo("anselm.reeve");
    assertThat(
            database.queryForObject(
                "select count(*) from notice where person = 'ilse.varga'"
                    + " and said like 'The owner of the review round%'",
                Integer.class))
        .isEqualTo(offered.get("rounds").asInt());
    assertThat(ok(post(marten, ANSELM, to("noor.haddad"))).get("roundsLeft").asInt())
        .as("who may not run it is not asked to")
        .isEqualTo(1);
  }

  @Test
  void whoRunsNoReviewsGivesNone() {
    made();
    List<String> his =
        model.engine().catalogue().principals().values().stream()
            .filter(it -> it.account().value().equals("fernwick"))
            .filter(it -> it.kind() == Principal.Kind.PERSON && it.status() == ACTIVE)
            .map(it -> it.key().value())
            .filter(it -> !it.equals("dario.penn"))
            .limit(2)
            .toList();
    int items = open("tomas.brandt");
    database.update(
        "update review_item set decider = ? where decider = 'tomas.brandt'", his.getFirst());
    Caller dario = as("dario.penn");
    JsonNode done = ok(post(dario, "/api/people/" + his.getFirst() + "/work", to(his.getLast())));
    assertThat(done.get("items").asInt()).isZero();
    assertThat(done.get("itemsLeft").asInt()).isEqualTo(items).isPositive();
  }

  @Test
  void whoCannotTakeItOverIsRefused() {
    Caller marten = as("marten.holloway");
    refused(post(marten, ANSELM, to("anselm.reeve")), 409, "They can't take it over");
    refused(post(marten, ANSELM, to("nobody.at.all")), 404, "nobody.at.all");
    refused(post(marten, ANSELM, to("")), 400, "to");
    refused(post(marten, "/api/people/marten.holloway/work", to(ILSE)), 409, "This is you");
    Caller noor = as("noor.haddad");
    assertThat(post(noor, ANSELM, to(ILSE)).status()).isEqualTo(404);
  }
}
