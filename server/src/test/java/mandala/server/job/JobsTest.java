package mandala.server.job;

import static mandala.server.Patience.await;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import mandala.core.model.key.PrincipalKey;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.MandalaInstance;
import mandala.server.MovableClock;
import mandala.server.TestDatabase;
import mandala.server.platform.Problem;
import mandala.server.schedule.Queue;
import mandala.server.schedule.Queues;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.annotation.Import;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.node.StringNode;

/** Long work is begun, watched, cancelled, survives its instance, and is forgotten. */
@ApiTest
@Import({ScriptedJob.class, MovableClock.Moves.class})
@DirtiesContext
class JobsTest {

  private static final String ILSE = "ilse.varga";

  @Autowired private Jobs jobs;
  @Autowired private Queues queues;
  @Autowired private JobHousekeeping housekeeping;
  @Autowired private MovableClock clock;
  @Autowired private Environment environment;
  @Autowired private JdbcTemplate database;

  @BeforeEach
  void freshCodes() {
    clock.reset(); // two instances go by one time
    database.update("update credential set totp_last_step = -1");
    ScriptedJob.BEGUN.set(0);
    ScriptedJob.released = false;
    database.update("delete from notice");
  }

  @AfterEach
  void endAll() {
    for (String owner : List.of(ILSE, "vera.lindqvist")) {
      jobs.of(owner).stream().filter(it -> !it.isOver()).forEach(it -> jobs.cancel(it.id(), owner));
      await().until(() -> jobs.of(owner).stream().allMatch(Job::isOver));
      jobs.of(owner).forEach(it -> jobs.cancel(it.id(), owner));
    }
  }

  private Job begin(String script) {
    return begin(script, ILSE);
  }

  private Job begin(String script, String owner) {
    return jobs.begin(
        new JobOrder(
            "scripted", owner, "A test's work", StringNode.valueOf(script), owner, null, true));
  }

  private Job whenOver(Job job) {
    await().until(() -> jobs.require(job.id(), ILSE).isOver());
    return jobs.require(job.id(), ILSE);
  }

  private void awaitState(Job job, String state) {
    await().until(() -> jobs.require(job.id(), ILSE).state().equals(state));
  }

  @Test
  void anAnswerIsKeptForItsOwnerAndForNobodyElse() {
    Job job = whenOver(begin("answer"));
    assertThat(job.state()).isEqualTo("done");
    String path = "/api/jobs/" + job.id();
    Caller ilse = Caller.as(ILSE, environment);
    assertThat(ilse.get(path + "/answer").json().at("/said/0").stringValue()).isEqualTo("yes");
    assertThat(ilse.get("/api/jobs").body()).contains(job.id());
    assertThat(ilse.get(path + "/file").status()).isEqualTo(404);
    assertThat(ilse.get(path + "/answer/export?format=csv").status()).isEqualTo(400);
    Caller noor = Caller.as("noor.haddad", environment);
    assertThat(noor.get(path).status()).isEqualTo(404);
    assertThat(noor.get(path + "/answer").status()).isEqualTo(404);
    assertThat(noor.send("DELETE", path, "").status()).isEqualTo(404);
    assertThat(ilse.send("DELETE", path, "").status()).isEqualTo(204);
    assertThat(ilse.get(path).body()).contains("Results are kept for a day: start it again");
  }

  @Test
  void aFileOfSeveralPartsComesBackWhole() {
    Job job = whenOver(begin("file"));
    Caller.Answer file = Caller.as(ILSE, environment).get("/api/jobs/" + job.id() + "/file");
    assertThat(file.status()).isEqualTo(200);
    assertThat(file.body().lines()).hasSize(300_000).allMatch("a line"::equals);
    assertThat(job.bytes()).isEqualTo(2_100_000);
  }

  @Test
  void whatRunsTellsHowFarItIsAndIsCancelled() {
    Job job = begin("wait");
    await().until(() -> jobs.require(job.id(), ILSE).done() == 1);
    assertThat(jobs.require(job.id(), ILSE).total()).isEqualTo(10L);
    Caller ilse = Caller.as(ILSE, environment);
    assertThat(ilse.get("/api/jobs/" + job.id() + "/answer").status()).isEqualTo(409);
    assertThat(ilse.send("DELETE", "/api/jobs/" + job.id(), "").status()).isEqualTo(204);
    assertThat(whenOver(job).state()).isEqualTo("cancelled");
  }

  @Test
  void onePersonHasAFewAtATimeAndTheOthersAreNotKeptFromTheirs() {
    List<Job> running = new ArrayList<>();
    for (int i = 0; i < Jobs.MOST_OF_ONE; i++) {
      running.add(begin("wait"));
    }
    assertThatThrownBy(() -> begin("wait"))
        .isInstanceOf(Problem.class)
        .hasMessageContaining("3 jobs running, the most that one person may have");
    Job waiting = running.getLast();
    begin("answer", "vera.lindqvist");
    jobs.cancel(waiting.id(), ILSE);
    assertThat(whenOver(waiting).state()).isEqualTo("cancelled");
    begin("answer");
  }

  @Test
  void theOldestResultsGiveWay() {
    List<Job> all = new ArrayList<>();
    for (int i = 0; i <= Jobs.MOST_KEPT; i++) {
      all.add(whenOver(begin("answer")));
    }
    assertThat(jobs.of(ILSE)).hasSize(Jobs.MOST_KEPT);
    assertThatThrownBy(() -> jobs.require(all.getFirst().id(), ILSE)).isInstanceOf(Problem.class);
  }

  @Test
  void whatFailsIsTriedThreeTimesAndThenSaysSo() {
    Job job = begin("fail");
    await()
        .until(() -> {
          clock.move(Duration.ofSeconds(1));
          return jobs.require(job.id(), ILSE).isOver();
        });
    assertThat(jobs.require(job.id(), ILSE).fault())
        .contains("It failed 3 times", "reference " + job.id().substring(0, 8));
    assertThat(ScriptedJob.BEGUN).hasValue(Jobs.ATTEMPTS);
  }

  @Test
  void whatCannotBeDoneSaysWhyAndIsNotTriedAgain() {
    assertThat(whenOver(begin("refuse")).fault()).isEqualTo("Not like this. Do it in another way.");
  }

  @Test
  void whatAnInstanceLeavesInTheMiddleAnotherOneTakesUp() {
    Job job;
    try (ConfigurableApplicationContext other =
        MandalaInstance.start(environment, ScriptedJob.class)) {
      assertThat(other.isRunning()).isTrue();
      // both of this instance's threads are busy, so that the other one takes it
      Job one = begin("wait", "vera.lindqvist");
      Job two = begin("wait", "vera.lindqvist");
      await()
          .until(() ->
              jobs.require(one.id(), "vera.lindqvist").state().equals("running")
                  && jobs.require(two.id(), "vera.lindqvist").state().equals("running"));
      ScriptedJob.BEGUN.set(0);
      job = begin("wait once");
      awaitState(job, "running");
      jobs.cancel(one.id(), "vera.lindqvist");
      jobs.cancel(two.id(), "vera.lindqvist");
    }
    Job over = whenOver(job);
    assertThat(over.state()).isEqualTo("done");
    assertThat(ScriptedJob.BEGUN.get()).isGreaterThan(1);
  }

  @Test
  void whatIsCancelledAfterItsInstanceDiedEndsToo() {
    Job job = begin("wait");
    awaitState(job, "running");
    jobs.cancel(job.id(), ILSE);
    whenOver(job);
    // as an instance leaves it that dies before it sees that its owner cancelled it
    database.update(
        "update job set state = 'running', cancel_wanted = true, ended_at = null where id = ?",
        job.id());
    queues.put(Queue.WORK, "job", job.id(), clock.instant());
    assertThat(whenOver(job).state()).isEqualTo("cancelled");
  }

  @Test
  void aJobGoesOnWhenTheDatabaseIsBack() {
    Job job = begin("wait for release");
    awaitState(job, "running");
    TestDatabase.admit(environment, false);
    try {
      assertThatThrownBy(() -> jobs.of(ILSE)).as("away").isInstanceOf(RuntimeException.class);
    } finally {
      TestDatabase.admit(environment, true);
    }
    ScriptedJob.released = true;
    assertThat(whenOver(job).state()).isEqualTo("done");
  }

  private long notices() {
    Long many =
        database.queryForObject(
            "select count(*) from notice where person = ? and kind = 'job-ended'",
            Long.class,
            ILSE);
    return many == null ? 0 : many;
  }

  @Test
  void whoWaitedLongIsToldThatItEnded() {
    whenOver(begin("answer"));
    Job job = begin("wait for release");
    awaitState(job, "running");
    clock.move(JobNotices.LONG.plusSeconds(1));
    ScriptedJob.released = true;
    whenOver(job);
    await().until(() -> notices() == 1);
    assertThat(Caller.as(ILSE, environment).get("/api/notices").body())
        .contains("A test's work: done.");
  }

  @Test
  void resultsAreDeletedADayAfterTheyEnded() {
    Job job = whenOver(begin("answer"));
    clock.move(Duration.ofHours(23));
    housekeeping.run(clock.instant());
    assertThat(jobs.of(ILSE)).extracting(Job::id).contains(job.id());
    clock.move(Duration.ofHours(2));
    housekeeping.run(clock.instant());
    assertThat(jobs.of(ILSE)).extracting(Job::id).doesNotContain(job.id());
  }

  @Test
  void withAPersonGoTheirJobs() {
    Job job = whenOver(begin("answer"));
    housekeeping.of(Set.of(new PrincipalKey(ILSE)));
    assertThatThrownBy(() -> jobs.require(job.id(), ILSE)).isInstanceOf(Problem.class);
  }

  @Test
  void aResultIsNotToldToWhomReadsLessNow() {
    Job job = whenOver(begin("answer"));
    Caller ilse = Caller.as(ILSE, environment);
    database.update("update job set may_read = 'ilse.varga other' where id = ?", job.id());
    Caller.Answer refused = ilse.get("/api/jobs/" + job.id() + "/answer");
    assertThat(refused.status()).isEqualTo(409);
    assertThat(refused.body()).contains("What you may read has changed since");
  }
}
