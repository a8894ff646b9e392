package mandala.server.compliance;

import static mandala.server.Patience.await;
import static org.assertj.core.api.Assertions.assertThat;

import java.sql.Timestamp;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.model.Assignment;
import mandala.core.model.Group;
import mandala.core.model.Principal;
import mandala.core.model.Window;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** Every revision is held to the rules of the model by itself. */
@ApiTest
@DirtiesContext
class ComplianceMonitorTest {

  @Autowired private Environment environment;
  @Autowired private LiveModel model;
  @Autowired private JdbcTemplate database;
  @Autowired private ComplianceMonitor watch;
  @Autowired private Trail trail;

  private Caller as(String who) {
    database.update("update credential set totp_last_step = -1");
    return Caller.as(who, environment);
  }

  private void awaitLooked() {
    await().until(() -> watch.lookedAt() == model.state().revision());
  }

  private List<String> checked() {
    return database.queryForList(
        "select said from trail where act = 'checked' order by seq", String.class);
  }

  private long joined(Change change) {
    long revision = model.change(List.of(change)).revision();
    awaitLooked();
    return revision;
  }

  @Test
  void whatBeginsToBeBrokenAndWhatIsMendedStandsInTheTrail() {
    awaitLooked();
    assertThat(checked()).as("what always was is no news").isEmpty();
    int before = watch.since().size();
    assertThat(before).isPositive();
    Group group = model.engine().catalogue().groups().get(new GroupKey("q-registrars"));
    Assignment signs =
        model.engine().catalogue().assignments().get(new AssignmentKey("petra-signs"));
    Group.Member member =
        new Group.Member.OfPrincipal(Principal.Kind.PERSON, new PrincipalKey("samir.dalca"));
    long broken =
        joined(
            new Change.Altered(
                Objects.requireNonNull(group),
                Rewritten.with(Objects.requireNonNull(group), member)));
    assertThat(checked()).hasSize(1);
    assertThat(checked().getFirst())
        .startsWith("New violation: ")
        .contains("Samir Dalca holds both sides");
    Caller ilse = as("ilse.varga");
    JsonNode found = find(ilse.get("/api/checks").json(), "Samir Dalca");
    assertThat(found.get("revision").longValue()).isEqualTo(broken);
    assertThat(Instant.parse(found.get("since").stringValue())).isBefore(Instant.now());
    assertThat(ilse.get("/api/trail?act=checked").body()).contains("Samir Dalca");
    Group now = model.engine().catalogue().groups().get(new GroupKey("q-registrars"));
    joined(
        new Change.Altered(
            Objects.requireNonNull(now), Rewritten.without(Objects.requireNonNull(now), member)));
    assertThat(checked()).hasSize(2);
    assertThat(checked().getLast()).startsWith("Resolved: ").contains("Samir Dalca");
    // one of the planted ones is mended
    joined(
        new Change.Altered(
            Objects.requireNonNull(signs),
            Rewritten.window(
                Objects.requireNonNull(signs), new Window(null, Instant.now().minusSeconds(60)))));
    assertThat(checked().getLast()).startsWith("Resolved: ").contains("Petra Lowe");
    assertThat(watch.since()).hasSizeLessThan(before);
    assertThat(ilse.get("/api/checks?draft=open").status()).isEqualTo(200);
  }

  private static JsonNode find(JsonNode checks, String name) {
    for (JsonNode each : checks.get("findings")) {
      if (each.get("said").stringValue().contains(name)) {
        return each;
      }
    }
    throw new AssertionError("Nothing is said of " + name);
  }

  @Test
  void sinceWhenComesFromTheHistoryNotFromTheFirstLook() {
    awaitLooked();
    int later = 0;
    for (JsonNode it : as("ilse.varga").get("/api/checks").json().get("findings")) {
      Instant since = Instant.parse(it.get("since").stringValue());
      assertThat(since).as("the demo has a past").isBefore(Instant.now().minusSeconds(3600));
      JsonNode revision = it.path("revision");
      if (!revision.isNumber()) {
        continue; // a window's beginning or end began it
      }
      Timestamp made =
          database.queryForObject(
              "select at from model_entry where number = ?", Timestamp.class, revision.longValue());
      assertThat(made).isEqualTo(Timestamp.from(since));
      later += revision.longValue() > 1 ? 1 : 0;
    }
    assertThat(later).as("some began after the first revision").isPositive();
  }

  @Test
  void theTrailIsSoundWhileOthersWrite() throws InterruptedException {
    Thread writing =
        Thread.ofVirtual()
            .start(() -> {
              for (int i = 0; i < 200; i++) {
                trail.writeAlone(
                    AuditEvent.of(
                        AuditEvent.Act.ASKED, null, null, List.of("larkmoor"), "Line " + i, null));
              }
            });
    do {
      assertThat(trail.verify().fault()).isEmpty();
    } while (writing.isAlive());
    writing.join();
    assertThat(trail.verify().lines()).isGreaterThanOrEqualTo(200);
  }

  @Test
  void anotherInstanceFindsThatItWasLookedAt() {
    awaitLooked();
    int lines = checked().size();
    database.update("update rule_watch set revision = revision + 1000000");
    Group group = model.engine().catalogue().groups().get(new GroupKey("q-registrars"));
    Group.Member member =
        new Group.Member.OfPrincipal(Principal.Kind.PERSON, new PrincipalKey("orla.linden"));
    joined(
        new Change.Altered(
            Objects.requireNonNull(group), Rewritten.with(Objects.requireNonNull(group), member)));
    assertThat(checked()).as("looked at, and left to the instance that is further").hasSize(lines);
    Group now = model.engine().catalogue().groups().get(new GroupKey("q-registrars"));
    joined(
        new Change.Altered(
            Objects.requireNonNull(now), Rewritten.without(Objects.requireNonNull(now), member)));
    database.update("update rule_watch set revision = ?", model.state().revision());
  }
}
