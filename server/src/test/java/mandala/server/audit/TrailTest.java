package mandala.server.audit;

import static mandala.server.Patience.await;
import static org.assertj.core.api.Assertions.assertThat;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import javax.sql.DataSource;
import mandala.server.ApiTest;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.JdbcTemplate;

/** Lines that many write at once. */
@ApiTest
class TrailTest {

  private static final int MANY = 24;

  @Autowired private Trail trail;
  @Autowired private DataSource source;
  @Autowired private JdbcTemplate database;

  private final Map<String, RuntimeException> failures = new ConcurrentHashMap<>();

  private void write(String said) {
    try {
      trail.writeAlone(
          AuditEvent.of(AuditEvent.Act.ASKED, null, null, List.of("quillhaven"), said, null));
    } catch (RuntimeException e) {
      failures.put(said, e);
    }
  }

  /** Writes each from a thread of its own while somebody else holds the head, then lets go. */
  private void writeTogether(List<String> all) throws SQLException, InterruptedException {
    List<Thread> writers = new ArrayList<>();
    try (Connection holder = source.getConnection();
        Statement held = holder.createStatement()) {
      holder.setAutoCommit(false);
      held.execute("select seq from trail_head for update");
      for (String said : all) {
        writers.add(Thread.ofPlatform().start(() -> write(said)));
      }
      await()
          .until(() ->
              writers.stream().filter(it -> it.getState() == Thread.State.WAITING).count()
                  == all.size() - 1);
      holder.rollback();
    }
    for (Thread each : writers) {
      each.join();
    }
  }

  private static List<String> numbered(String stem) {
    List<String> all = new ArrayList<>();
    for (int i = 0; i < MANY; i++) {
      all.add(stem + " " + i);
    }
    return all;
  }

  @Test
  void whatComesWhileALineIsWrittenIsWrittenTogether() throws Exception {
    List<String> all = numbered("Asked at once");
    writeTogether(all);
    assertThat(failures).isEmpty();
    assertThat(
            database.queryForList(
                "select said from trail where said like 'Asked at once %'", String.class))
        .containsExactlyInAnyOrderElementsOf(all);
    assertThat(
            database.queryForObject(
                "select count(distinct xmin::text) from trail where said like 'Asked at once %'",
                Integer.class))
        .as("transactions")
        .isLessThanOrEqualTo(2);
    assertThat(trail.verify().fault()).isEmpty();
  }

  @Test
  void aLineThatCannotBeWrittenHoldsUpNoOther() throws Exception {
    List<String> all = numbered("Asked beside a bad one");
    List<String> with = new ArrayList<>(all);
    with.add(MANY / 2, "no text: \u0000");
    writeTogether(with);
    assertThat(failures).containsOnlyKeys("no text: \u0000");
    assertThat(
            database.queryForList(
                "select said from trail where said like 'Asked beside a bad one %'", String.class))
        .containsExactlyInAnyOrderElementsOf(all);
  }
}
