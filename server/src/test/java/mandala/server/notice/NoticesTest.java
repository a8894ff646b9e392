package mandala.server.notice;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import mandala.core.model.Delegation;
import mandala.core.model.key.PrincipalKey;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.MovableClock;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.annotation.Import;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** People are told in the application and by mail, as they chose and their account demands. */
@ApiTest
@Import(MovableClock.Moves.class)
@DirtiesContext
class NoticesTest {

  private static final String NOOR = "noor.haddad";

  @Autowired private LiveModel model;
  @Autowired private Notices notices;
  @Autowired private DailyDigest digest;
  @Autowired private EndedAccess ended;
  @Autowired private OldMessages old;
  @Autowired private MovableClock clock;
  @Autowired private JdbcTemplate database;
  @Autowired private Environment environment;

  @BeforeEach
  void empty() {
    clock.reset();
    database.update("delete from notice");
    database.update("delete from notice_choice");
    database.update("delete from notice_demand");
    database.update("delete from told_once");
    database.update("delete from mail");
    database.update("update credential set totp_last_step = -1");
  }

  private static Notices.Notice notice(NoticeKind kind, String said) {
    return new Notices.Notice(kind, said, "/drafts/d1");
  }

  private List<String> subjects() {
    return database.query(
        "select subject from mail order by subject", (row, _) -> row.getString(1));
  }

  @Test
  void aNoticeIsUnreadUntilItIsRead() {
    notices.tell(NOOR, notice(NoticeKind.DRAFT_APPROVED, "Ilse approved it."));
    notices.tell(NOOR, notice(NoticeKind.JOB_ENDED, "It is done."));
    notices.tell("ilse.varga", notice(NoticeKind.JOB_ENDED, "Not for Noor."));
    Caller noor = Caller.as(NOOR, environment);
    JsonNode all = noor.get("/api/notices").json();
    assertThat(all.get("unread").longValue()).isEqualTo(2);
    assertThat(all.at("/notices/0/said").stringValue()).isEqualTo("It is done.");
    long newest = all.at("/notices/0/id").longValue();
    JsonNode after =
        noor.send("POST", "/api/notices/read", "{\"id\":" + newest + ",\"andOlder\":false}").json();
    assertThat(after.get("unread").longValue()).isEqualTo(1);
    assertThat(
            noor.send("POST", "/api/notices/read", "{\"id\":" + newest + ",\"andOlder\":true}")
                .json()
                .get("unread")
                .longValue())
        .isZero();
    assertThat(noor.get("/api/notices").body()).doesNotContain("Not for Noor");
  }

  @Test
  void mailComesAsOneChose() {
    Caller noor = Caller.as(NOOR, environment);
    notices.tell(NOOR, notice(NoticeKind.DRAFT_APPROVED, "By mail, as is usual."));
    assertThat(subjects()).containsExactly(NoticeKind.DRAFT_APPROVED.title());
    assertThat(
            noor.send("PUT", "/api/notices/choices/draft-approved", "{\"delivery\":\"here\"}")
                .status())
        .isEqualTo(200);
    notices.tell(NOOR, notice(NoticeKind.DRAFT_APPROVED, "Here only."));
    assertThat(subjects()).hasSize(1);
    assertThat(noor.send("PUT", "/api/notices/choices/none", "{\"delivery\":\"here\"}").status())
        .isEqualTo(404);
    assertThat(
            noor.send("PUT", "/api/notices/choices/draft-approved", "{\"delivery\":\"pigeon\"}")
                .status())
        .isEqualTo(400);
  }

  @Test
  void anAccountDemandsAtLeast() {
    Caller marten = Caller.as("marten.holloway", environment);
    assertThat(
            marten
                .send("PUT", "/api/notices/demands/larkmoor/job-ended", "{\"delivery\":\"digest\"}")
                .status())
        .isEqualTo(204);
    Caller noor = Caller.as(NOOR, environment);
    assertThat(noor.get("/api/notices/choices").body().replace(" ", ""))
        .contains("\"delivery\":\"digest\",\"demanded\":\"digest\"");
    assertThat(noor.send("PUT", "/api/notices/choices/job-ended", "{\"delivery\":\"here\"}").body())
        .contains("Your account demands more");
    assertThat(
            noor.send("PUT", "/api/notices/demands/larkmoor/job-ended", "{\"delivery\":\"here\"}")
                .status())
        .isIn(403, 404);
  }

  @Test
  void theDigestIsOneMailOfWhatWasNotRead() {
    notices.tell(NOOR, notice(NoticeKind.DRAFT_CLASHED, "A first clash."));
    notices.tell(NOOR, notice(NoticeKind.DRAFT_CLASHED, "A second clash."));
    notices.tell(NOOR, notice(NoticeKind.DATED_APPLIED, "Applied at its date."));
    database.update("update notice set read_at = at where said = 'A first clash.'");
    assertThat(subjects()).isEmpty();
    digest.run(clock.instant());
    assertThat(subjects()).containsExactly("2 notices from Mandala");
    String body = database.queryForObject("select body from mail", String.class);
    assertThat(body)
        .startsWith("Hello Noor Haddad,")
        .contains("  - A second clash.", "  - Applied at its date.", "/you/notices")
        .doesNotContain("A first clash.");
    digest.run(clock.instant());
    assertThat(subjects()).as("each is sent once").hasSize(1);
  }

  private List<String> said(String person) {
    return database.query(
        "select said from notice where person = ? order by id",
        (row, _) -> row.getString(1),
        person);
  }

  @Test
  void whatEndedIsToldOnceToWhomeverItWas() {
    Delegation delegation =
        model.engine().catalogue().delegations().values().stream()
            .filter(it -> it.delegate().value().equals(NOOR) && it.window().until() != null)
            .findFirst()
            .orElseThrow();
    Instant until = Objects.requireNonNull(delegation.window().until());
    ended.run(clock.instant());
    assertThat(said(NOOR)).as("before it ends").isEmpty();
    clock.move(Duration.between(clock.instant(), until).plusMinutes(1));
    ended.run(clock.instant());
    ended.run(clock.instant());
    assertThat(said(NOOR)).containsOnlyOnce("You no longer act for Petra Lowe.");
    clock.move(Duration.ofDays(8));
    ended.run(clock.instant());
    assertThat(said(NOOR)).containsOnlyOnce("You no longer act for Petra Lowe.");
  }

  @Test
  void whoIsRemovedLeavesNothing() {
    notices.tell(NOOR, notice(NoticeKind.JOB_ENDED, "Gone soon."));
    notices.of(Set.of(new PrincipalKey(NOOR)));
    assertThat(database.queryForObject("select count(*) from notice", Integer.class)).isZero();
    notices.tell("nobody.at.all", notice(NoticeKind.JOB_ENDED, "To no one."));
    assertThat(database.queryForObject("select count(*) from notice", Integer.class)).isZero();
  }

  @Test
  void whatWasToldLongAgoIsDeleted() {
    notices.tell(NOOR, notice(NoticeKind.JOB_ENDED, "It is done."));
    notices.tellOnce("a thing", NOOR, notice(NoticeKind.JOB_ENDED, "Once."));
    for (String state : List.of("sent", "kept", "refused", "failed", "waiting", "sending")) {
      mail(state, "odile.farrow", state);
    }
    clock.move(OldMessages.MAIL.minusHours(1));
    old.run(clock.instant());
    assertThat(subjects()).hasSize(6);
    clock.move(Duration.ofHours(2));
    old.run(clock.instant());
    assertThat(subjects())
        .as("what is not over stays, and why the address is refused")
        .containsExactly("refused", "sending", "waiting");
    mail("sent", "odile.farrow", "newer");
    old.run(clock.instant());
    assertThat(subjects()).containsExactly("newer", "sending", "waiting");
    clock.move(OldMessages.NOTICES.minus(OldMessages.MAIL).minusHours(2));
    old.run(clock.instant());
    assertThat(told()).isEqualTo(3);
    clock.move(Duration.ofHours(2));
    old.run(clock.instant());
    assertThat(told()).isZero();
  }

  private void mail(String state, String person, String subject) {
    database.update(
        "insert into mail (id, person, recipient, subject, body, state, made_at)"
            + " values (?, ?, 'a@larkmoor.example', ?, '', ?, ?)",
        subject,
        person,
        subject,
        state,
        clock.instant().atOffset(java.time.ZoneOffset.UTC));
  }

  /** Notices, and what is told once. */
  private long told() {
    return database
        .queryForList("select person from notice union all select person from told_once")
        .size();
  }
}
