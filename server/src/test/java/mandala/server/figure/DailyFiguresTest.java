package mandala.server.figure;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.Date;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import mandala.core.RandomChanges;
import mandala.core.change.Change;
import mandala.core.model.About;
import mandala.core.model.Assignment;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.server.Altered;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.MovableClock;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.SmartLifecycle;
import org.springframework.context.annotation.Import;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.test.context.TestPropertySource;
import tools.jackson.databind.JsonNode;

/** What an account has is counted each day, and what was missed from the history. */
@ApiTest
@Import(MovableClock.Moves.class)
@DirtiesContext
@TestPropertySource(properties = "mandala.figures.past=30")
class DailyFiguresTest {

  private static final AccountKey QUILLHAVEN = new AccountKey("quillhaven");
  private static final AccountKey FERNWICK = new AccountKey("fernwick");
  private static final PrincipalKey NOOR = new PrincipalKey("noor.haddad");

  @Autowired private Environment environment;
  @Autowired private SmartLifecycle schedulers;
  @Autowired private DailyFigures figures;
  @Autowired private AccountCounts counts;
  @Autowired private LiveModel model;
  @Autowired private JdbcTemplate database;
  @Autowired private MovableClock clock;

  @BeforeEach
  void nothingIsCountedYet() {
    clock.reset();
    schedulers.stop(); // counts are made here
    database.update("delete from daily_figures");
    database.update("update credential set totp_last_step = -1");
  }

  private AccountCounts.Counts now(AccountKey account) {
    return Objects.requireNonNull(counts.of(model.state(), clock.instant()).get(account));
  }

  private Instant second() {
    return clock.instant().truncatedTo(ChronoUnit.SECONDS);
  }

  private LocalDate today() {
    return LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
  }

  private Map<LocalDate, AccountCounts.Counts> kept() {
    return figures.ofMonth(QUILLHAVEN).stream()
        .collect(Collectors.toMap(DailyFigures.Day::day, DailyFigures.Day::counts));
  }

  private Principal noor() {
    return Objects.requireNonNull(model.engine().catalogue().principals().get(NOOR));
  }

  @Test
  void countsWhomTheModelHasAtAnInstant() {
    AccountCounts.Counts before = now(QUILLHAVEN);
    Principal was = noor();
    Principal gone = RandomChanges.suspended(was);
    model.change(List.of(new Change.Altered(was, gone)));
    assertThat(now(QUILLHAVEN).people()).isEqualTo(before.people() - 1);
    Instant longAgo = second().minus(AccountCounts.DORMANT).minusSeconds(60);
    Principal dormant = Altered.with(was, "lastSeen", longAgo.toString());
    model.change(List.of(new Change.Altered(gone, dormant)));
    assertThat(now(QUILLHAVEN).people()).isEqualTo(before.people());
    assertThat(now(QUILLHAVEN).dormant()).isEqualTo(before.dormant() + 1);
    model.change(List.of(new Change.Altered(dormant, was)));
    assertThat(now(QUILLHAVEN)).isEqualTo(before);
    assertThat(now(new AccountKey("larkmoor")).services())
        .as("the services of the demo at Larkmoor")
        .isEqualTo(6);
    assertThat(counts.of(model.state(), clock.instant()).values())
        .anySatisfy(it -> assertThat(it.guests()).isPositive())
        .anySatisfy(it -> assertThat(it.findings()).isPositive());
  }

  @Test
  void findingsAreThoseThatSomebodySeesWhoMayAskInTheAccountAlone() {
    Assignment auditor =
        new Assignment(
            new AssignmentKey("pia-audits"),
            About.NONE,
            new Subject.OfPrincipal(Principal.Kind.PERSON, new PrincipalKey("pia.lund")),
            new Gives.OfRole(new RoleKey("mandala.auditor")),
            Assignment.Effect.ALLOW,
            List.of(Clause.of(new Term.Tree(ResourceKey.of(FERNWICK)))),
            List.of(),
            Window.ALWAYS,
            Assignment.Mode.STANDING,
            false);
    model.change(List.of(new Change.Added(auditor)));
    Caller.Answer checks = Caller.as("pia.lund", environment).get("/api/checks");
    assertThat(checks.status()).as(checks.body()).isEqualTo(200);
    JsonNode seen = checks.json();
    long people =
        seen.get("findings")
            .valueStream()
            .filter(it -> it.get("cases").valueStream().anyMatch(each -> each.has("principal")))
            .count();
    assertThat(people).as("findings about people").isPositive();
    assertThat(now(FERNWICK).findings()).isEqualTo(seen.get("findings").size());
    model.change(List.of(new Change.Removed(auditor)));
  }

  @Test
  void whatIsWholeStaysAsItWasCounted() {
    figures.run(clock.instant());
    LocalDate day = today().minusDays(3);
    database.update("update daily_figures set people = 7 where day = ?", Date.valueOf(day));
    clock.move(Duration.ofDays(-3)); // as an instance whose run was begun that day
    figures.run(clock.instant());
    clock.reset();
    assertThat(Objects.requireNonNull(kept().get(day)).people()).isEqualTo(7);
  }

  @Test
  void aMonthIsCountedFromTheHistory() {
    figures.run(clock.instant());
    Map<LocalDate, AccountCounts.Counts> kept = kept();
    assertThat(kept).hasSize(DailyFigures.MONTH);
    assertThat(kept.get(today())).isEqualTo(now(QUILLHAVEN));
    figures.run(clock.instant());
    assertThat(kept()).as("counted twice").isEqualTo(kept);
    database.update("delete from daily_figures where day < ?", Date.valueOf(today()));
    figures.run(clock.instant());
    assertThat(kept()).as("counted anew").isEqualTo(kept);
  }

  @Test
  void whatIsMissedIsCaughtUpAsItWasThen() {
    figures.run(clock.instant());
    LocalDate first = today();
    int before = now(QUILLHAVEN).people();
    Principal was = noor();
    Instant end = second().plus(Duration.ofHours(60));
    Principal leaving = Altered.with(was, "until", end.toString());
    model.change(List.of(new Change.Altered(was, leaving)));
    clock.move(Duration.ofDays(5)); // no server ran for that long
    figures.run(clock.instant());
    Map<LocalDate, AccountCounts.Counts> kept = kept();
    assertThat(Objects.requireNonNull(kept.get(first)).people()).isEqualTo(before);
    assertThat(Objects.requireNonNull(kept.get(first.plusDays(1))).people()).isEqualTo(before);
    assertThat(Objects.requireNonNull(kept.get(first.plusDays(4))).people()).isEqualTo(before - 1);
    assertThat(
            database.queryForObject(
                "select bool_and(whole) from daily_figures where day < ?",
                Boolean.class,
                Date.valueOf(today())))
        .isTrue();
    model.change(List.of(new Change.Altered(leaving, was)));
  }

  @Test
  void figuresOfAnAccountThatIsGoneAreDeleted() {
    database.update(
        "insert into daily_figures values ('nowhere', ?, true, 1, 1, 1, 1, 1)",
        Date.valueOf(today()));
    figures.run(clock.instant());
    assertThat(
            database.queryForObject(
                "select count(*) from daily_figures where account = 'nowhere'", Integer.class))
        .isZero();
  }

  @Test
  void areToldToWhoMayReadTheAccount() {
    figures.run(clock.instant());
    String path = "/api/accounts/quillhaven/figures";
    Caller auditor = Caller.as("vera.lindqvist", environment);
    JsonNode days = auditor.get(path).json().get("days");
    assertThat(days).hasSize(DailyFigures.MONTH);
    JsonNode last = days.get(DailyFigures.MONTH - 1);
    assertThat(last.get("day").stringValue()).isEqualTo(today().toString());
    assertThat(last.get("people").intValue()).isEqualTo(now(QUILLHAVEN).people());
    assertThat(last.get("findings").intValue()).isEqualTo(now(QUILLHAVEN).findings());
    assertThat(auditor.get("/api/accounts/nowhere/figures").status()).isEqualTo(404);
    Caller noor = Caller.as("noor.haddad", environment);
    assertThat(noor.get(path).status()).as("reads nobody").isEqualTo(404);
    Caller dario = Caller.as("dario.penn", environment);
    assertThat(dario.get("/api/accounts/fernwick/figures").status()).isEqualTo(200);
    assertThat(dario.get(path).status()).as("of another account").isEqualTo(404);
  }
}
