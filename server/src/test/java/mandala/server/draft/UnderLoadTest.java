package mandala.server.draft;

import static mandala.server.Patience.await;
import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.model.About;
import mandala.core.model.Group;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.model.LiveModel;
import mandala.server.model.RevisionCause;
import mandala.server.session.DemoCredentials;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;

/** Drafts where many calls come at once, or too much in one. */
@ApiTest
@DirtiesContext
class UnderLoadTest {

  @Autowired private Environment environment;
  @Autowired private LiveModel model;
  @Autowired private JdbcTemplate database;
  @Autowired private SecondApprovals approvals;
  @Autowired private Drafts drafts;

  private Caller as(String who) {
    database.update("update credential set totp_last_step = -1");
    return Caller.as(who, environment);
  }

  @Test
  void draftsOfAPlainPersonAreNotJudgedForWhoCouldNotApproveThem() {
    Caller noor = as("noor.haddad");
    discardAll();
    int many = 5;
    for (int i = 0; i < many; i++) {
      assertThat(noor.send("POST", "/api/drafts", "{}").status()).isEqualTo(200);
      Caller.Answer edited =
          noor.send(
              "POST",
              "/api/drafts/open/edits",
              "{\"edits\":[{\"kind\":\"assignments\",\"after\":{\"key\":\"d-%d\",\"subject\":\"signed-in\",\"gives\":\"role:loans-lead\",\"scope\":[{\"tree\":\"account:quillhaven\"}]}}]}"
                  .formatted(i));
      assertThat(edited.status()).as(edited.body()).isEqualTo(200);
    }
    var plain = as("pia.lund").get("/api/drafts").json();
    assertThat(plain.get("waiting")).isEmpty();
    assertThat(plain.get("judging").intValue()).isZero();
    assertThat(approvals.running()).isZero();
    Caller ilse = as("ilse.varga");
    await()
        .untilAsserted(() ->
            assertThat(ilse.get("/api/drafts").json().get("waiting"))
                .as("of who could approve them")
                .hasSize(many));
    discardAll();
  }

  @Test
  void manyAtOnceBeginReopenAndTakeBackAndEachIsAnswered() throws Exception {
    Caller ilse = as("ilse.varga");
    long revision = applyOne(ilse, "at-once");
    String aside =
        ilse.send("POST", "/api/drafts", "{\"name\":\"a\"}").json().at("/draft/id").stringValue();
    String other =
        ilse.send("POST", "/api/drafts", "{\"name\":\"b\"}").json().at("/draft/id").stringValue();
    List<Callable<Integer>> calls = new ArrayList<>();
    for (int i = 0; i < 8; i++) {
      calls.add(() -> ilse.send("PATCH", "/api/drafts/" + other, "{\"state\":\"open\"}").status());
      String name = "{\"name\":\"of turn %d\"}".formatted(i);
      calls.add(() -> ilse.send("PATCH", "/api/drafts/" + aside, name).status());
      calls.add(() -> ilse.send("POST", "/api/drafts", "{\"name\":\"n\"}").status());
      calls.add(() -> ilse.send("PATCH", "/api/drafts/" + aside, "{\"state\":\"open\"}").status());
      calls.add(() -> ilse.send("POST", "/api/drafts/taking-back/" + revision, "").status());
      calls.add(() ->
          ilse.send(
                  "POST",
                  "/api/drafts/open/edits",
                  "{\"edits\":[{\"kind\":\"groups\",\"after\":{\"name\":\"Many\",\"account\":\"quillhaven\"}}]}")
              .status());
    }
    try (ExecutorService pool = Executors.newFixedThreadPool(16)) {
      for (Future<Integer> answered : pool.invokeAll(calls)) {
        assertThat(answered.get()).isIn(200, 409, 429);
      }
    }
    Integer open =
        database.queryForObject(
            "select count(*) from draft where owner = 'ilse.varga' and state = 'open'",
            Integer.class);
    assertThat(open).isEqualTo(1);
    discardAll();
  }

  /** Below the limit of costly calls, as where several instances serve one person. */
  @Test
  void transactionsOfSeveralInstancesDoNotWaitForEachOther() throws Exception {
    discardAll();
    String owner = "ilse.varga";
    long base = model.state().revision();
    List<DraftRow> two =
        List.of(
            drafts.begin(owner, "One", base, Draft.EMPTY),
            drafts.begin(owner, "Two", base, Draft.EMPTY));
    List<Callable<DraftRow>> moves = new ArrayList<>();
    for (int i = 0; i < 30; i++) {
      for (DraftRow it : two) {
        moves.add(() -> drafts.move(it.id(), owner, DraftRow.State.OPEN));
        moves.add(() -> drafts.rename(it.id(), owner, it.name()));
      }
    }
    try (ExecutorService pool = Executors.newFixedThreadPool(4)) {
      for (Future<DraftRow> moved : pool.invokeAll(moves)) {
        assertThat(moved.get().owner()).isEqualTo(owner);
      }
    }
    assertThat(drafts.of(owner)).filteredOn(it -> it.state() == DraftRow.State.OPEN).hasSize(1);
    discardAll();
  }

  private void discardAll() {
    database.update("update draft set state = 'discarded' where state in ('open', 'aside')");
  }

  /** Adds a group and applies it. {@return the revision} */
  private long applyOne(Caller who, String key) {
    discardAll();
    who.send(
        "POST",
        "/api/drafts/open/edits",
        "{\"edits\":[{\"kind\":\"groups\",\"after\":{\"key\":\"%s\",\"account\":\"quillhaven\"}}]}"
            .formatted(key));
    String content = who.get("/api/drafts/open").json().get("content").stringValue();
    database.update("update credential set totp_last_step = -1");
    String code = DemoCredentials.codeOf(new PrincipalKey("ilse.varga"), Instant.now());
    Caller.Answer applied =
        who.send(
            "POST",
            "/api/drafts/open/apply",
            "{\"content\":\"%s\",\"proof\":\"%s\"}".formatted(content, code));
    assertThat(applied.status()).as(applied.body()).isEqualTo(200);
    return applied.json().get("revision").longValue();
  }

  @Test
  void draftsAreBoundedByNumberAndEditsByTheCall() {
    Caller ilse = as("ilse.varga");
    discardAll();
    for (int i = 0; i < Drafts.MOST_ALIVE; i++) {
      assertThat(ilse.send("POST", "/api/drafts", "{\"name\":\"%d\"}".formatted(i)).status())
          .isEqualTo(200);
    }
    Caller.Answer oneMore = ilse.send("POST", "/api/drafts", "{\"name\":\"more\"}");
    assertThat(oneMore.status()).isEqualTo(409);
    assertThat(oneMore.json().get("detail").stringValue())
        .contains("at most " + Drafts.MOST_ALIVE)
        .contains("discard");
    discardAll();
    String edit = "{\"kind\":\"groups\",\"after\":{\"name\":\"g\",\"account\":\"quillhaven\"}}";
    Caller.Answer many =
        ilse.send(
            "POST",
            "/api/drafts/open/edits",
            "{\"edits\":[" + String.join(",", Collections.nCopies(1_001, edit)) + "]}");
    assertThat(many.status()).isEqualTo(400);
    assertThat(many.json().get("detail").stringValue()).contains("edits").contains("1000");
    assertThat(ilse.get("/api/drafts/open/summary").json().has("draft")).isFalse();
    Caller.Answer nothing = ilse.send("POST", "/api/drafts/open/edits", "{\"edits\":[null]}");
    assertThat(nothing.status()).isEqualTo(400);
    assertThat(nothing.json().get("detail").stringValue()).contains("edits[0]");
  }

  @Test
  void whatNoTextCanHoldIsRefusedWhereItStands() {
    Caller ilse = as("ilse.varga");
    discardAll();
    for (String text : List.of("a\\u0000b", "a\\ud800b", "\\udc00")) {
      Caller.Answer edit =
          ilse.send(
              "POST",
              "/api/drafts/open/edits",
              "{\"edits\":[{\"kind\":\"groups\",\"after\":{\"name\":\"%s\",\"account\":\"quillhaven\"}}]}"
                  .formatted(text));
      assertThat(edit.status()).as(edit.body()).isEqualTo(422);
      assertThat(edit.body()).contains("U+0000").contains(".name");
      assertThat(ilse.send("POST", "/api/drafts", "{\"name\":\"%s\"}".formatted(text)).status())
          .isEqualTo(400);
      assertThat(
              ilse.send("POST", "/api/drafts/open/comments", "{\"said\":\"%s\"}".formatted(text))
                  .status())
          .isEqualTo(400);
    }
    assertThat(ilse.get("/api/drafts/open/summary").json().has("draft")).isFalse();
  }

  @Test
  void othersGoOnAndRevocationsAreTakenUpWhileADraftIsJudged() throws Exception {
    CountDownLatch judging = new CountDownLatch(1);
    CountDownLatch go = new CountDownLatch(1);
    long before = model.state().revision();
    AtomicInteger asked = new AtomicInteger();
    try (ExecutorService pool = Executors.newSingleThreadExecutor()) {
      Future<LiveModel.State> slow =
          pool.submit(() ->
              model.change(
                  state -> {
                    if (asked.incrementAndGet() == 1) {
                      judging.countDown();
                      assertThat(uninterruptibly(go)).isTrue();
                    }
                    return List.of(new Change.Added(group("slow-one")));
                  },
                  RevisionCause.ofServer("Slow"),
                  (_, _) -> {}));
      assertThat(uninterruptibly(judging)).isTrue();
      long meanwhile = model.change(List.of(new Change.Added(group("quick-one")))).revision();
      assertThat(meanwhile).isEqualTo(before + 1);
      model.catchUp(); // what another instance did is taken up as well
      go.countDown();
      assertThat(slow.get().revision()).isEqualTo(before + 2);
    }
    assertThat(asked.get()).as("decided again on the newest revision").isEqualTo(2);
  }

  private static boolean uninterruptibly(CountDownLatch latch) {
    try {
      return latch.await(2, TimeUnit.MINUTES);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return false;
    }
  }

  private static Group group(String key) {
    return new Group(
        new GroupKey(key),
        About.named(key),
        new AccountKey("quillhaven"),
        false,
        List.of(),
        null,
        List.of());
  }
}
