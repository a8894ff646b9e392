package mandala.server.draft;

import static mandala.server.Patience.await;
import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Objects;
import mandala.core.RandomChanges;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.model.Group;
import mandala.core.model.Principal;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.server.Altered;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.MovableClock;
import mandala.server.model.LiveModel;
import mandala.server.session.Credentials;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.annotation.Import;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** A draft with a date is applied by itself, with the rights that its owner has then. */
@ApiTest
@Import(MovableClock.Moves.class)
@DirtiesContext
class DatedDraftsTest {

  @Autowired private Environment environment;
  @Autowired private LiveModel model;
  @Autowired private JdbcTemplate database;
  @Autowired private Credentials credentials;
  @Autowired private MovableClock clock;
  @Autowired private DraftNotices notices;

  @BeforeEach
  void endAll() {
    clock.reset();
    database.update("update draft set state = 'applied' where state <> 'applied'");
  }

  private Caller as(String who) {
    database.update("update credential set totp_last_step = -1");
    return Caller.as(who, environment);
  }

  private String draft(Caller ilse, String whom) {
    JsonNode open =
        ilse.send(
                "POST",
                "/api/drafts/open/edits",
                ("{'edits':[{'kind':'groups','key':'q-registrars','add':{'members':['person:"
                        + whom
                        + "']}}]}")
                    .replace('\'', '"'))
            .json();
    return "/api/drafts/" + open.at("/draft/id").stringValue();
  }

  private Caller.Answer date(Caller ilse, String path, Instant at) {
    database.update("update credential set totp_last_step = -1");
    String code = credentials.demoCode(new PrincipalKey("ilse.varga"), clock.instant());
    String content = ilse.get(path).json().get("content").stringValue();
    String body = "{'content':'" + content + "','at':'" + at + "','proof':'" + code + "'}";
    return ilse.send("PUT", path + "/date", body.replace('\'', '"'));
  }

  private @Nullable String state(String path) {
    return database.queryForObject(
        "select state from draft where id = ?", String.class, path.substring(12));
  }

  @Test
  void itIsAppliedAtItsDateAndTheRevisionSaysSo() {
    Caller ilse = as("ilse.varga");
    String path = draft(ilse, "noor.haddad");
    Instant at = clock.instant().truncatedTo(ChronoUnit.SECONDS).plus(Duration.ofHours(2));
    Caller.Answer dated = date(ilse, path, at);
    assertThat(dated.status()).as(dated.body()).isEqualTo(200);
    assertThat(Instant.parse(dated.json().get("due").stringValue())).isEqualTo(at);
    long before = model.state().revision();
    clock.move(Duration.ofHours(1));
    assertThat(state(path)).isEqualTo("open");
    clock.move(Duration.ofHours(1).plusSeconds(5));
    await().until(() -> "applied".equals(state(path)));
    assertThat(model.state().revision()).isEqualTo(before + 1);
    Caller again = as("ilse.varga");
    assertThat(again.get("/api/revisions/" + (before + 1)).body())
        .contains("dated change, applied by itself", "Ilse Varga");
    await().until(() -> again.get("/api/notices").body().contains("was applied at its date"));
  }

  private long waiting(String path) {
    Long many =
        database.queryForObject(
            "select count(*) from task_queue where task_instance = ?",
            Long.class,
            path.substring(12));
    return many == null ? 0 : many;
  }

  @Test
  void whatComesUpBeforeItsNewDateWaitsForIt() {
    Caller ilse = as("ilse.varga");
    String path = draft(ilse, "dario.penn");
    Instant first = clock.instant().plusSeconds(60);
    assertThat(date(ilse, path, first).status()).isEqualTo(200);
    Instant later = clock.instant().truncatedTo(ChronoUnit.SECONDS).plus(Duration.ofHours(5));
    // as when the first date comes in the moment in which it is changed
    database.update(
        "update draft set due_at = ? where id = ?",
        later.atOffset(ZoneOffset.UTC),
        path.substring(12));
    clock.move(Duration.ofMinutes(2));
    await()
        .until(() ->
            later.equals(
                database.query(
                    "select execution_time from task_queue where task_instance = ?",
                    row -> row.next() ? row.getTimestamp(1).toInstant() : Instant.EPOCH,
                    path.substring(12))));
    assertThat(state(path)).isEqualTo("open");
    clock.move(Duration.ofHours(5));
    await().until(() -> "applied".equals(state(path)));
  }

  @Test
  void aDateIsChangedAndTakenBack() {
    Caller ilse = as("ilse.varga");
    String path = draft(ilse, "arlo.yates");
    assertThat(date(ilse, path, clock.instant().minusSeconds(5)).body())
        .contains("Choose a date ahead");
    assertThat(date(ilse, path, clock.instant().plus(Duration.ofDays(800))).status())
        .isEqualTo(400);
    assertThat(date(ilse, path, clock.instant().plusSeconds(3_000)).status()).isEqualTo(200);
    Instant later = clock.instant().truncatedTo(ChronoUnit.SECONDS).plus(Duration.ofDays(9));
    assertThat(date(ilse, path, later).json().get("due").stringValue()).isEqualTo(later.toString());
    assertThat(ilse.send("DELETE", path + "/date", "").json().has("due")).isFalse();
    clock.move(Duration.ofDays(10));
    await().until(() -> waiting(path) == 0);
    assertThat(state(path)).isEqualTo("open");
  }

  @Test
  void whatIsChangedAfterwardsWaitsForItsDateToBeSetAgain() {
    Caller ilse = as("ilse.varga");
    String path = draft(ilse, "arlo.yates");
    assertThat(date(ilse, path, clock.instant().plusSeconds(600)).status()).isEqualTo(200);
    draft(ilse, "tess.aldergate");
    JsonNode changed = ilse.get(path).json();
    assertThat(changed.has("due")).isFalse();
    assertThat(changed.get("dueFault").stringValue()).contains("Set its date again");
  }

  @Test
  void whoGetsADraftHandedOverSetsItsDateThemselves() {
    Caller ilse = as("ilse.varga");
    String path = draft(ilse, "arlo.yates");
    assertThat(date(ilse, path, clock.instant().plusSeconds(600)).status()).isEqualTo(200);
    assertThat(ilse.send("PATCH", path, "{\"owner\":\"marten.holloway\"}").status()).isEqualTo(200);
    JsonNode handed = as("marten.holloway").get(path).json();
    assertThat(handed.has("due")).isFalse();
    assertThat(handed.get("dueFault").stringValue()).contains("handed over");
  }

  @Test
  void whoseDraftClashesWithARevisionIsToldOnce() {
    Caller ilse = as("ilse.varga");
    JsonNode open =
        ilse.send(
                "POST",
                "/api/drafts/open/edits",
                "{\"edits\":[{\"kind\":\"groups\",\"key\":\"q-registrars\","
                    + "\"set\":{\"name\":\"Registrars by Ilse\"}}]}")
            .json();
    String id = open.at("/draft/id").stringValue();
    Group group =
        Objects.requireNonNull(
            model.engine().catalogue().groups().get(new GroupKey("q-registrars")));
    Draft other =
        Draft.of(
            List.of(
                new Change.Altered(group, Altered.with(group, "name", "Registrars by another"))));
    model.change(other.inOrder());
    notices.applied(new DraftNotices.Applied(1_000_001));
    notices.applied(new DraftNotices.Applied(1_000_002));
    await()
        .until(() ->
            ilse.get("/api/notices").body().contains("Someone changed what your draft changes"));
    await().until(() -> waiting("/api/drafts/1000001") + waiting("/api/drafts/1000002") == 0);
    assertThat(
            database.queryForList(
                "select link from notice where kind = 'draft-clashed'", String.class))
        .containsExactly("/drafts/" + id);
    model.change(
        List.of(new Change.Altered(Altered.with(group, "name", "Registrars by another"), group)));
  }

  @Test
  void whoseRightsAreGoneThenItWaitsAndSaysWhy() {
    Caller ilse = as("ilse.varga");
    String path = draft(ilse, "arlo.yates");
    assertThat(date(ilse, path, clock.instant().plusSeconds(600)).status()).isEqualTo(200);
    Principal owner =
        Objects.requireNonNull(
            model.engine().catalogue().principals().get(new PrincipalKey("ilse.varga")));
    Principal suspended = RandomChanges.suspended(owner);
    model.change(List.of(new Change.Altered(owner, suspended)));
    clock.move(Duration.ofMinutes(11));
    await()
        .until(() ->
            database.queryForObject(
                    "select due_fault from draft where id = ?", String.class, path.substring(12))
                != null);
    assertThat(state(path)).isEqualTo("open");
    model.change(List.of(new Change.Altered(suspended, owner)));
    assertThat(as("ilse.varga").get(path).json().get("dueFault").stringValue()).isNotBlank();
  }
}
