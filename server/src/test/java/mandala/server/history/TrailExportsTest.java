package mandala.server.history;

import static mandala.server.Patience.await;
import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.stream.Stream;
import mandala.core.model.Key;
import mandala.core.question.Session;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContexts;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;

@ApiTest
class TrailExportsTest {

  @Autowired private Environment environment;
  @Autowired private JdbcTemplate database;
  @Autowired private TrailReader reader;
  @Autowired private Trail trail;
  @Autowired private RequestContexts contexts;

  @BeforeEach
  void freshCodes() {
    database.update("update credential set totp_last_step = -1");
  }

  private static long files(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      return all.filter(Files::isRegularFile).count();
    }
  }

  @Test
  void whatIsDoneGivesWayToWhatIsBegun() {
    Caller vera = Caller.as("vera.lindqvist", environment);
    String first = "";
    for (int i = 0; i <= TrailExports.MOST_OF_ONE; i++) {
      String id =
          vera.send("POST", "/api/trail/exports", "{\"format\":\"csv\"}")
              .json()
              .get("id")
              .stringValue();
      await().until(() -> vera.get("/api/trail/exports/" + id).body().contains("\"done\""));
      first = first.isEmpty() ? id : first;
    }
    assertThat(vera.get("/api/trail/exports/" + first).status()).isEqualTo(404);
  }

  @Test
  void whatACrashLeftIsGoneAtTheNextStart(@TempDir Path keys) throws IOException {
    Path left = keys.resolve("exports").resolve("999999999-0-of-a-crash");
    Files.createDirectories(left);
    Files.writeString(left.resolve("trail.csv"), "line,at,who");
    ProcessHandle own = ProcessHandle.current();
    Path other =
        keys.resolve("exports")
            .resolve(
                own.pid() + "-" + own.info().startInstant().orElseThrow().toEpochMilli() + "-x");
    Files.createDirectories(other);
    Files.writeString(other.resolve("trail.csv"), "of an instance that runs");
    TrailExports exports = new TrailExports(reader, trail, Clock.systemUTC(), keys);
    exports.clean();
    assertThat(left).doesNotExist();
    assertThat(files(other)).isEqualTo(1);
    exports.stop();
  }

  @Test
  void anExportThatFailsStandsInTheTrailAsFailed(@TempDir Path folder) throws IOException {
    Path keys = Files.writeString(folder.resolve("keys"), "a file where a folder should be");
    TrailExports exports = new TrailExports(reader, trail, Clock.systemUTC(), keys);
    String said = "The export of the trail as csv failed";
    Session vera = new Session(new Key.Principal("vera.lindqvist"), Instant.now(), true, null);
    String id =
        exports.begin(
            "vera.lindqvist",
            false,
            new TrailFilter.Condition("false", List.of()),
            new ToldLines(contexts.of(vera), List.of()),
            AuditEvent.of(AuditEvent.Act.EXPORTED, "vera.lindqvist", null, List.of(), said, null));
    await().until(() -> exports.of(id, "vera.lindqvist").failed);
    assertThat(
            database.queryForObject(
                "select count(*) from trail where act = 'exported' and said = ?",
                Integer.class,
                said))
        .isEqualTo(1);
    exports.stop();
  }
}
