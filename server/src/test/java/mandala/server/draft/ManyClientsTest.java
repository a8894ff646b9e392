package mandala.server.draft;

import static mandala.server.Patience.await;
import static org.assertj.core.api.Assertions.assertThat;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import mandala.core.model.AccessModel;
import mandala.core.model.Group;
import mandala.core.model.check.ModelCheck;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.MandalaInstance;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContexts;
import mandala.server.model.History;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;

/** Many at once, and ends in the middle: nothing is lost, nothing is half applied. */
@ApiTest
@DirtiesContext
class ManyClientsTest {

  private static final int CLIENTS = 16;
  private static final int EDITS = Integer.getInteger("mandala.edits", 1_000);
  private static final List<String> WHO = List.of("ilse.varga", "marten.holloway", "dario.penn");

  @Autowired private RequestContexts contexts;
  @Autowired private Environment environment;
  @Autowired private JdbcTemplate database;
  @Autowired private LiveModel model;
  @Autowired private Drafts drafts;
  @Autowired private DraftApplier applying;
  @Autowired private Trail trail;
  @Autowired private History history;

  @BeforeEach
  void withoutDrafts() {
    database.update("update draft set state = 'discarded' where state in ('open', 'aside')");
  }

  private static String account(String who) {
    return who.equals("dario.penn") ? "fernwick" : "quillhaven";
  }

  /** Somebody whom they may read, and so may name. */
  private static String member(String who) {
    return who.equals("dario.penn") ? "ada.finch" : "noor.haddad";
  }

  /** Applies somebody's open draft as far as it goes, as the server itself would. */
  private void applyOpen(String who) {
    Session session =
        new Session(
            new PrincipalKey(who), Instant.now().truncatedTo(ChronoUnit.SECONDS), true, null);
    drafts
        .open(who)
        .ifPresent(row -> {
          try {
            String content = drafts.review(model.state(), row, session).content();
            applying.apply(row.id(), content, session, contexts.of(session));
          } catch (Problem overtaken) {
            assertThat(overtaken).hasMessageMatching("(?s).*(applied|apply|change|revision).*");
          }
        });
  }

  @Test
  void aThousandEditsFromSixteenClientsLoseNothing() throws Exception {
    AccessModel before = model.engine().catalogue().model();
    Set<String> made = ConcurrentHashMap.newKeySet();
    AtomicInteger next = new AtomicInteger();
    List<Caller> callers = new ArrayList<>();
    for (int client = 0; client < CLIENTS; client++) {
      database.update("update credential set totp_last_step = -1");
      callers.add(Caller.as(WHO.get(client % WHO.size()), environment));
    }
    long first = model.state().revision();
    try (ExecutorService pool = Executors.newFixedThreadPool(CLIENTS)) {
      List<Future<?>> running = new ArrayList<>();
      for (int client = 0; client < CLIENTS; client++) {
        String who = WHO.get(client % WHO.size());
        Caller caller = callers.get(client);
        Random random = new Random(client);
        Callable<Void> work =
            () -> {
              for (int n = next.getAndIncrement(); n < EDITS; n = next.getAndIncrement()) {
                edit(caller, who, n, made, random);
              }
              return null;
            };
        running.add(pool.submit(work));
      }
      for (Future<?> each : running) {
        each.get(5, TimeUnit.MINUTES);
      }
    }
    WHO.forEach(this::applyOpen);
    AccessModel after = model.engine().catalogue().model();
    assertThat(ModelCheck.faultsOf(after)).isEmpty();
    Set<String> groups = new HashSet<>();
    for (Group group : after.groups()) {
      groups.add(group.key().value());
    }
    assertThat(groups).containsAll(made);
    assertThat(groups).hasSize(before.groups().size() + made.size());
    assertThat(made).hasSizeGreaterThan(EDITS / 4);
    assertThat(trail.verify().fault()).isEmpty();
    for (long number = first + 1; number <= model.state().revision(); number++) {
      assertThat(history.entry(number)).isPresent();
    }
    assertThat(model.state().revision()).isGreaterThan(first + 2);
  }

  /** Groups come, change their names, and drafts are applied in between. */
  private void edit(Caller caller, String who, int n, Set<String> made, Random random) {
    String key = "crew-" + n;
    switch (random.nextInt(10)) {
      case 0 -> applyOpen(who);
      case 1, 2, 3, 4, 5 -> {
        Caller.Answer answer =
            caller.send(
                "POST",
                "/api/drafts/open/edits",
                ("{'edits':[{'kind':'groups','after':{'key':'"
                        + key
                        + "','name':'Crew "
                        + n
                        + "','account':'"
                        + account(who)
                        + "','members':['person:"
                        + member(who)
                        + "']}}]}")
                    .replace('\'', '"'));
        assertThat(answer.status()).as(answer.body()).isEqualTo(200);
        made.add(key);
      }
      default -> {
        String group = account(who).charAt(0) + "-registrars";
        Caller.Answer answer =
            caller.send(
                "POST",
                "/api/drafts/open/edits",
                ("{'edits':[{'kind':'groups','key':'"
                        + group
                        + "','"
                        + (random.nextBoolean() ? "add" : "drop")
                        + "':{'members':['person:"
                        + member(who)
                        + "']}}]}")
                    .replace('\'', '"'));
        assertThat(answer.status()).as(answer.body()).isIn(200, 409);
      }
    }
  }

  @Test
  void cuttingTheDatabaseOffInTheMiddleLeavesTheOldRevisionOrTheNewOne() throws Exception {
    Random random = new Random(5);
    Session session =
        new Session(
            new PrincipalKey("ilse.varga"),
            Instant.now().truncatedTo(ChronoUnit.SECONDS),
            true,
            null);
    int through = 0;
    try (ExecutorService pool = Executors.newSingleThreadExecutor()) {
      for (int round = 0; round < 8; round++) {
        String key = "cut-" + round;
        DraftRow row = drafts.begin("ilse.varga", null, model.state().revision(), group(key));
        String content = row.content();
        long before = model.state().revision();
        Future<Long> applied =
            pool.submit(() -> applying.apply(row.id(), content, session, contexts.of(session)));
        if (round > 0) {
          CompletableFuture.runAsync(
                  this::cut,
                  CompletableFuture.delayedExecutor(random.nextInt(12), TimeUnit.MILLISECONDS))
              .get();
        }
        boolean said = said(applied);
        catchUp();
        boolean there = model.engine().catalogue().groups().containsKey(new GroupKey(key));
        assertThat(model.state().revision()).isEqualTo(there ? before + 1 : before);
        if (said || round == 0) {
          assertThat(there).as("what was said to be applied is").isTrue();
        }
        DraftRow now = drafts.find(row.id()).orElseThrow();
        assertThat(now.state() == DraftRow.State.APPLIED).isEqualTo(there);
        through += there ? 1 : 0;
      }
    }
    assertThat(trail.verify().fault()).isEmpty();
    try (var other = MandalaInstance.start(environment)) {
      LiveModel fresh = other.getBean(LiveModel.class);
      assertThat(fresh.state().revision()).isEqualTo(model.state().revision());
      assertThat(fresh.engine().catalogue().model().sorted())
          .isEqualTo(model.engine().catalogue().model().sorted());
    }
    assertThat(through).as("what was not cut off got through").isPositive();
  }

  private static mandala.core.change.Draft group(String key) {
    return mandala.core.change.Draft.EMPTY.with(
        new mandala.core.change.Change.Added(
            new Group(
                new GroupKey(key),
                mandala.core.model.About.named(key),
                new AccountKey("quillhaven"),
                false,
                List.of(),
                null,
                List.of())));
  }

  private static boolean said(Future<Long> applied) throws Exception {
    try {
      return applied.get(1, TimeUnit.MINUTES) > 0;
    } catch (ExecutionException cutOff) {
      return false;
    }
  }

  private void catchUp() {
    await()
        .ignoreExceptions() // connections that were cut are found out one by one
        .until(() -> {
          model.catchUp();
          return true;
        });
  }

  private void cut() {
    try (Connection connection =
            DriverManager.getConnection(
                environment.getRequiredProperty("spring.datasource.url"),
                environment.getRequiredProperty("spring.datasource.username"),
                environment.getRequiredProperty("spring.datasource.password"));
        var statement = connection.createStatement();
        var ended =
            statement.executeQuery(
                "select count(pg_terminate_backend(pid)) from pg_stat_activity"
                    + " where datname = current_database() and pid <> pg_backend_pid()")) {
      assertThat(ended.next()).isTrue();
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }
}
