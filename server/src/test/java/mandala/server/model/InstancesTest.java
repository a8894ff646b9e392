package mandala.server.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Random;
import mandala.core.RandomChanges;
import mandala.core.RandomModels;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Question;
import mandala.server.ApiTest;
import mandala.server.MandalaInstance;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.core.env.Environment;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.transaction.support.TransactionTemplate;

/** Two instances on one database tell the same, whatever becomes of their connections. */
@ApiTest
@DirtiesContext
class InstancesTest {

  @Autowired private LiveModel here;
  @Autowired private Environment environment;
  @Autowired private ModelTables tables;
  @Autowired private TransactionTemplate transactions;
  private ConfigurableApplicationContext other;
  private LiveModel there;

  @BeforeEach
  void startAnother() {
    other = MandalaInstance.start(environment);
    there = other.getBean(LiveModel.class);
    assertThat(there.state().revision()).isEqualTo(here.state().revision());
  }

  @AfterEach
  void stopTheOther() {
    other.close();
  }

  private static void await(LiveModel model, long revision) {
    Instant giveUp = Instant.now().plus(Duration.ofSeconds(20));
    while (model.state().revision() < revision && Instant.now().isBefore(giveUp)) {
      Thread.onSpinWait();
    }
    assertThat(model.state().revision()).isEqualTo(revision);
  }

  private void assertSameAnswers() {
    assertThat(there.engine().catalogue().model().sorted())
        .isEqualTo(here.engine().catalogue().model().sorted())
        .isEqualTo(transactions.execute(_ -> tables.read((_, _) -> {})));
    Engine one = here.engine();
    Engine two = there.engine();
    for (Question question :
        RandomModels.questions(one.catalogue().model(), here.state().revision(), 200)) {
      assertThat(two.decide(question)).isEqualTo(one.decide(question));
    }
  }

  private static Change suspend(LiveModel model, String key) {
    Principal who = model.engine().catalogue().principals().get(new PrincipalKey(key));
    return new Change.Altered(Objects.requireNonNull(who), RandomChanges.suspended(who));
  }

  private boolean isActive(LiveModel model, String key) {
    return model.engine().isActive(new PrincipalKey(key), Instant.parse("2026-11-23T12:00:00Z"));
  }

  @Test
  void aChangeHereIsSeenThereAndTheOtherWayRound() {
    Change change = suspend(here, "dario.penn");
    assertThat(isActive(there, "dario.penn")).isTrue();
    long revision = here.change(List.of(change)).revision();
    await(there, revision);
    assertThat(isActive(there, "dario.penn")).isFalse();
    assertSameAnswers();
    await(here, there.change(List.of(change.inverse())).revision());
    assertThat(isActive(here, "dario.penn")).isTrue();
    assertSameAnswers();
  }

  @Test
  void manyChangesFromBothSidesLeaveBothTheSame() {
    RandomChanges changes = new RandomChanges(11);
    Random random = new Random(11);
    int made = 0;
    for (int i = 0; i < 60; i++) {
      LiveModel one = random.nextBoolean() ? here : there;
      Change change = changes.next(one.engine().catalogue().model());
      try {
        one.change(List.of(change));
        made++;
      } catch (IllegalArgumentException refused) {
        assertThat(refused).hasMessageMatching("(?s).*(faulty|already|not there).*");
      }
    }
    assertThat(made).isGreaterThan(15);
    long revision = Math.max(here.state().revision(), there.state().revision());
    await(here, revision);
    await(there, revision);
    assertSameAnswers();
  }

  @Test
  void afterALostConnectionWhatWasMissedIsTakenUp() throws SQLException {
    List<Change> back = new ArrayList<>();
    for (String who : List.of("dario.penn", "noor.haddad")) {
      cutListeners();
      Change change = suspend(here, who);
      back.add(change.inverse());
      await(there, here.change(List.of(change)).revision());
      assertThat(isActive(there, who)).isFalse();
    }
    await(there, here.change(back).revision());
    assertSameAnswers();
  }

  /** Ends every connection that listens; each instance makes a new one and compares numbers. */
  private void cutListeners() throws SQLException {
    try (Connection connection =
            DriverManager.getConnection(
                environment.getRequiredProperty("spring.datasource.url"),
                environment.getRequiredProperty("spring.datasource.username"),
                environment.getRequiredProperty("spring.datasource.password"));
        var statement = connection.createStatement();
        var cut =
            statement.executeQuery(
                "select count(pg_terminate_backend(pid)) from pg_stat_activity"
                    + " where datname = current_database() and query ilike 'listen %'")) {
      assertThat(cut.next()).isTrue();
      assertThat(cut.getInt(1)).isPositive();
    }
  }

  @Test
  void aReplacedModelIsReadWholeByTheOther() {
    var before = here.engine().catalogue().model();
    boolean demo = here.state().demo();
    await(there, here.replace(RandomModels.model(9), false, _ -> {}).revision());
    assertSameAnswers();
    await(there, here.replace(before, demo, _ -> {}).revision());
    assertSameAnswers();
  }

  @Test
  void aChangeThatDoesNotFitChangesNothing() {
    Change change = suspend(here, "dario.penn");
    long revision = here.change(List.of(change)).revision();
    await(there, revision);
    assertThatThrownBy(() -> there.change(List.of(change)))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("not there as the change says");
    assertThat(there.state().revision()).isEqualTo(revision);
    here.change(List.of(change.inverse()));
  }
}
