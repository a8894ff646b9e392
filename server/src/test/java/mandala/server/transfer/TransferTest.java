package mandala.server.transfer;

import static mandala.server.Patience.await;
import static org.assertj.core.api.Assertions.assertThat;

import java.io.InputStream;
import java.net.http.HttpRequest;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.demo.Larkmoor;
import mandala.document.DocumentWriter;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.model.LiveModel;
import mandala.server.schedule.Queue;
import mandala.server.schedule.Queues;
import mandala.server.session.DemoCredentials;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** An owner exports and imports; what is wrong with a document changes nothing. */
@ApiTest
@DirtiesContext
class TransferTest {

  @Autowired private TransferController controller;

  private static Caller owner;
  private static final String NEW =
      "{\"key\":\"tarn.new\",\"kind\":\"person\",\"name\":\"Tarn New\",\"account\":\"larkmoor\"},";

  @Autowired private LiveModel model;
  @Autowired private JdbcTemplate database;
  @Autowired private Queues queues;

  /** A code that was not used before. */
  private String proof() {
    database.update("update credential set totp_last_step = -1");
    database.update("delete from sign_in_throttle");
    return DemoCredentials.codeOf(new PrincipalKey("marten.holloway"), Instant.now());
  }

  @Test
  void anImportAsksForAFreshProof() {
    Caller.Answer without = put(HttpRequest.BodyPublishers.ofString(exported), revision(), "");
    assertThat(without.status()).isEqualTo(400);
    assertThat(without.body()).contains("The code is missing");
    Caller.Answer wrong = put(HttpRequest.BodyPublishers.ofString(exported), revision(), "000000");
    assertThat(wrong.status()).isEqualTo(400);
    assertThat(wrong.body()).contains("The code is not right");
    assertUnchanged();
  }

  private long revision() {
    return model.state().revision();
  }

  @Test
  void aRevisionInBetweenIsAClash() {
    long before = revision();
    Caller.Answer answer = put(HttpRequest.BodyPublishers.ofString(exported), before - 1, proof());
    assertThat(answer.status()).isEqualTo(409);
    assertThat(answer.body()).contains("The model has changed since you looked");
    assertThat(revision()).isEqualTo(before);
  }

  @Test
  void anImportThatGivesSomebodySomethingCriticalNeedsASecondPerson() {
    String more =
        exported
            .replaceFirst("\"principals\"\\s*:\\s*\\[", "\"principals\": [" + NEW)
            .replaceFirst(
                "\"assignments\"\\s*:\\s*\\[",
                "\"assignments\": [{\"key\":\"a-new\",\"subject\":\"person:tarn.new\","
                    + "\"gives\":\"permission:mandala.account.manage\","
                    + "\"scope\":[{\"tree\":\"account:larkmoor\"}]},");
    assertThat(faultOf(put(more))).startsWith("A second person must approve this import.");
    assertUnchanged();
  }

  @Test
  void theTrailSaysWhatAnImportChangedAndRemovalEndsSignIn() {
    imported(exported.replaceFirst("\"principals\"\\s*:\\s*\\[", "\"principals\": [" + NEW));
    assertThat(owner.get("/api/trail?thing=tarn.new").body()).contains("Tarn New is added");
    database.update(
        "insert into credential select 'tarn.new', password_hash, null from credential limit 1");
    imported(exported);
    assertThat(owner.get("/api/trail?thing=tarn.new").body()).contains("Tarn New is removed");
    assertThat(
            database.queryForObject(
                "select count(*) from credential where principal = 'tarn.new'", Long.class))
        .isZero();
    assertUnchanged();
  }

  private static String exported;

  @BeforeAll
  static void signIn(@Autowired LiveModel model, @Autowired Environment environment) {
    model.replace(owned(), true, _ -> {});
    owner = Caller.as("marten.holloway", environment);
    exported = owner.get("/api/model").body();
  }

  /** Only what Marten Holloway owns. */
  private static AccessModel owned() {
    AccessModel larkmoor = Larkmoor.model();
    return AccessModel.builder()
        .addAll(
            larkmoor.accounts().stream().filter(it -> !it.key().value().equals("dunlow")).toList())
        .addAll(
            larkmoor.units().stream().filter(it -> !it.account().value().equals("dunlow")).toList())
        .addAll(
            larkmoor.principals().stream()
                .filter(it -> it.key().value().equals("marten.holloway"))
                .toList())
        .addAll(
            larkmoor.assignments().stream()
                .filter(it -> it.key().value().equals("l-owners"))
                .toList())
        .build();
  }

  /** Imports over the newest revision, with a fresh proof. */
  private Caller.Answer put(String document) {
    return put(HttpRequest.BodyPublishers.ofString(document));
  }

  private Caller.Answer put(HttpRequest.BodyPublisher document) {
    return put(document, model.state().revision(), proof());
  }

  private Caller.Answer put(HttpRequest.BodyPublisher document, long base, String proof) {
    return owner.send("PUT", "/api/model?base=" + base, document, Map.of("Mandala-Proof", proof));
  }

  /** {@return what an import did} */
  private JsonNode imported(String document) {
    JsonNode job = owner.job(put(document));
    assertThat(job.get("state").stringValue()).as(job.toString()).isEqualTo("done");
    return owner.get("/api/model/imports/" + job.get("id").stringValue()).json();
  }

  /** {@return why an import that was begun failed} */
  private String faultOf(Caller.Answer begun) {
    JsonNode job = owner.job(begun);
    assertThat(job.get("state").stringValue()).as(job.toString()).isEqualTo("failed");
    return job.get("fault").stringValue();
  }

  private void assertUnchanged() {
    assertThat(owner.get("/api/model").body()).isEqualTo(exported);
  }

  @Test
  void whatIsExportedCanBeImportedAndIsTheSame() {
    assertThat(exported).isEqualTo(DocumentWriter.write(owned()));
    long before = revision();
    JsonNode imported = imported(exported);
    assertThat(imported.get("things").intValue()).isEqualTo(owned().size());
    assertThat(imported.get("revision").longValue()).isEqualTo(before + 1).isEqualTo(revision());
    assertUnchanged();
    JsonNode other = owner.job(owner.send("POST", "/api/trail/exports", "{\"format\": \"csv\"}"));
    assertThat(owner.get("/api/model/imports/" + other.get("id").stringValue()).status())
        .as("an export of the trail is no import")
        .isEqualTo(404);
    assertThat(owner.get("/api/trail?limit=20").body())
        .contains("Imported a whole model of " + owned().size() + " things", "\"127.0.0.1\"");
  }

  @Test
  void allFaultsOfADocumentAreToldWithTheirPlace() {
    Caller.Answer faulty =
        put(
            "{\"format\": \"mandala-model/1\", \"units\": [{\"key\": \"u\", \"account\": \"x\"}, {}]}");
    assertThat(faulty.status()).isEqualTo(422);
    assertThat(faulty.json().get("title").stringValue()).isEqualTo("The document has 3 faults");
    assertThat(faulty.json().get("faults"))
        .allSatisfy(fault -> assertThat(fault.get("path").stringValue()).startsWith("$.units["));
    assertUnchanged();
  }

  @Test
  void whatIsNotJsonIsRefused() {
    Caller.Answer text = put("not json");
    assertThat(text.status()).isEqualTo(422);
    assertThat(text.json().get("faults").get(0).get("what").stringValue())
        .startsWith("this is not JSON");
    assertUnchanged();
  }

  @Test
  void aDocumentThatLocksTheOwnerOutIsRefused() {
    assertThat(faultOf(put("{\"format\": \"mandala-model/1\"}")))
        .startsWith("The document would lock you out.");
    assertUnchanged();
  }

  @Test
  void aDocumentWithARootAccountThatTheImporterDoesNotOwnIsRefused() {
    AccessModel more =
        AccessModel.builder()
            .addAll(owned().accounts())
            .add(Account.root("stranger"))
            .addAll(owned().units())
            .addAll(owned().principals())
            .addAll(owned().assignments())
            .build();
    assertThat(faultOf(put(DocumentWriter.write(more)))).contains("lock you out");
    Caller.Answer others =
        put(
            DocumentWriter.write(
                AccessModel.builder()
                    .add(Account.root("stranger"))
                    .addAll(
                        owned().principals().stream()
                            .map(it ->
                                new Principal(
                                    it.key(),
                                    it.about(),
                                    it.kind(),
                                    new AccountKey("stranger"),
                                    null,
                                    null,
                                    it.status(),
                                    it.window(),
                                    it.mfa(),
                                    it.attributes(),
                                    null,
                                    it.reach(),
                                    it.email(),
                                    null,
                                    null))
                            .toList())
                    .build()));
    assertThat(faultOf(others)).contains("lock you out");
    assertUnchanged();
  }

  @Test
  void whatIsTooLargeIsRefused() {
    long size = 200L << 20;
    Caller.Answer answer =
        put(
            HttpRequest.BodyPublishers.fromPublisher(
                HttpRequest.BodyPublishers.ofInputStream(() -> new Spaces(size))));
    assertThat(answer.status()).isEqualTo(413);
    assertThat(answer.json().get("detail").stringValue()).contains("up to 64 MiB");
    assertUnchanged();
  }

  @Test
  void aSecondDocumentIsRefusedWhileOneIsRead() throws InterruptedException {
    CountDownLatch begun = new CountDownLatch(1);
    CountDownLatch go = new CountDownLatch(1);
    CompletableFuture<Caller.Answer> slow =
        CompletableFuture.supplyAsync(
            () -> put(HttpRequest.BodyPublishers.ofInputStream(() -> new Slow(begun, go))));
    try {
      assertThat(begun.await(20, java.util.concurrent.TimeUnit.SECONDS)).isTrue();
      await().until(controller::isReading);
      Caller.Answer refused = put("{}");
      assertThat(refused.status()).isEqualTo(409);
      assertThat(refused.json().get("title").stringValue())
          .isEqualTo("Another document is being read");
    } finally {
      go.countDown();
    }
    assertThat(slow.join().status()).isEqualTo(422);
    assertUnchanged();
  }

  @Test
  void whatChangesWhileAnImportWaitsIsAClash() {
    long base = revision();
    String late = late(base, "late");
    model.replace(owned(), true, _ -> {});
    queues.put(Queue.WORK, "job", late, Instant.now());
    awaitOver(late);
    assertThat(owner.get("/api/jobs/" + late).json().get("fault").stringValue())
        .startsWith("The model has changed since you looked. You import over revision " + base);
    assertThat(revision()).isEqualTo(base + 1);
    assertUnchanged();
  }

  @Test
  void whoLostTheRightWhileTheirImportWaitedImportsNothing() {
    String late = late(revision() + 1, "lost");
    model.replace(withoutOwner(), true, _ -> {});
    try {
      queues.put(Queue.WORK, "job", late, Instant.now());
      await()
          .until(() ->
              "failed"
                  .equals(
                      database.queryForObject(
                          "select state from job where id = ?", String.class, late)));
      assertThat(database.queryForObject("select fault from job where id = ?", String.class, late))
          .contains("on every account", "Ask an owner");
      assertThat(DocumentWriter.write(model.engine().catalogue().model()))
          .isEqualTo(DocumentWriter.write(withoutOwner().sorted()));
    } finally {
      model.replace(owned(), true, _ -> {});
    }
  }

  @Test
  void whatAnInstanceLeftAfterItWasDoneIsNotDoneAgain() {
    long base = revision();
    JsonNode job = owner.job(put(exported));
    String id = job.get("id").stringValue();
    // the queue gives it out again, as it does when an instance dies before it says that it ended
    queues.put(Queue.WORK, "job", id, Instant.now());
    await()
        .until(() ->
            database
                .queryForList("select 1 from work_queue where task_instance = ?", Integer.class, id)
                .isEmpty());
    assertThat(revision()).isEqualTo(base + 1);
    assertThat(owner.get("/api/jobs/" + id).json().get("state").stringValue()).isEqualTo("done");
    assertThat(database.queryForObject("select count(*) from job_input", Long.class)).isZero();
  }

  @Test
  void anImportThatIsCancelledBeforeItReplacesChangesNothing() {
    long base = revision();
    String id = late(base, "cancelled");
    database.update("update job set cancel_wanted = true where id = ?", id);
    queues.put(Queue.WORK, "job", id, Instant.now());
    awaitOver(id);
    assertThat(owner.get("/api/jobs/" + id).json().get("state").stringValue())
        .isEqualTo("cancelled");
    assertThat(revision()).isEqualTo(base);
    assertThat(database.queryForObject("select count(*) from job_input", Long.class)).isZero();
  }

  private void awaitOver(String id) {
    owner.job(new Caller.Answer(200, "application/json", "{\"id\": \"" + id + "\"}"));
  }

  /** {@return an import of what was exported, which waits and is not in the queue yet} */
  private String late(long base, String id) {
    database.update(
        """
        insert into job (id, owner, kind, title, details, viewer, second_factor, state, begun_at)
        values (?, 'marten.holloway', 'model-import', 'Late', ?, 'marten.holloway', true,
          'waiting', now())
        """,
        id,
        "{\"base\": " + base + "}");
    database.update(
        "insert into job_input values (?, 0, ?)", id, exported.getBytes(StandardCharsets.UTF_8));
    return id;
  }

  private static AccessModel withoutOwner() {
    AccessModel owned = owned();
    return AccessModel.builder()
        .addAll(owned.accounts())
        .addAll(owned.units())
        .addAll(owned.principals())
        .build();
  }

  /** So many spaces. */
  private static final class Spaces extends InputStream {
    private long left;

    Spaces(long size) {
      left = size;
    }

    @Override
    public int read() {
      return left-- > 0 ? ' ' : -1;
    }

    @Override
    public int read(byte[] into, int from, int length) {
      int many = (int) Math.min(left, length);
      java.util.Arrays.fill(into, from, from + Math.max(0, many), (byte) ' ');
      left -= many;
      return many == 0 ? -1 : many;
    }
  }

  /** A document that begins, waits, and ends badly. */
  @SuppressWarnings("InputStreamSlowMultibyteRead") // slow is what it is for
  private static final class Slow extends InputStream {
    private final CountDownLatch begun;
    private final CountDownLatch go;
    private int at;

    Slow(CountDownLatch begun, CountDownLatch go) {
      this.begun = begun;
      this.go = go;
    }

    @Override
    public int read() {
      if (at++ < 200_000) {
        return ' ';
      }
      begun.countDown();
      try {
        go.await();
      } catch (InterruptedException _) {
        Thread.currentThread().interrupt();
      }
      return -1;
    }
  }
}
