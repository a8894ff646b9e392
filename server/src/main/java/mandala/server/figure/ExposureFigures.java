package mandala.server.figure;

import java.sql.Date;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import mandala.core.engine.Engine;
import mandala.core.excess.Excess;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.UseWindow;
import mandala.core.model.Group;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import mandala.server.excess.ExcessStudies;
import mandala.server.model.LiveModel;
import mandala.server.schedule.WorkWhereChanged;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Keeps for each day how exposed people, groups, roles' holders and accounts are, and how much of
 * it they do not use (section 12), in the window of the policy. That of several people is the sum
 * of theirs; that of an account is of those at home in it.
 */
@Component
public class ExposureFigures extends WorkWhereChanged {

  /** How many days are kept. */
  private static final int KEPT = 400;

  /** Rows written at a time. */
  private static final int BATCH = 2_000;

  private final LiveModel model;
  private final ExcessStudies studies;
  private final JdbcTemplate database;
  private final TransactionTemplate transactions;
  private final Clock clock;
  private final ZoneId zone;
  private volatile @Nullable Newest newest;

  ExposureFigures(
      LiveModel model,
      ExcessStudies studies,
      JdbcTemplate database,
      TransactionTemplate transactions,
      Clock clock,
      @Value("${mandala.zone}") ZoneId zone) {
    super(clock);
    this.model = model;
    this.studies = studies;
    this.database = database;
    this.transactions = transactions;
    this.clock = clock;
    this.zone = zone;
  }

  /** What has a figure. */
  public enum Of {
    PRINCIPAL,
    GROUP,
    ROLE,
    ACCOUNT;

    String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  /**
   * A figure.
   *
   * @param people of how many
   * @param rights that are effective
   * @param exposure of these
   * @param unused the exposure that is not used
   */
  public record Figure(int people, long rights, long exposure, long unused) {

    static final Figure NONE = new Figure(0, 0, 0, 0);

    Figure plus(Figure other) {
      return new Figure(
          people + other.people,
          rights + other.rights,
          exposure + other.exposure,
          unused + other.unused);
    }

    static Figure of(Excess it) {
      return new Figure(1, it.rights(), it.exposure(), it.excessExposure());
    }

    /** {@return the share of the exposure that is not used}, from 0 to 1 */
    public double share() {
      return exposure == 0 ? 0 : (double) unused / exposure;
    }
  }

  /** The newest figures of principals. */
  public record Newest(Instant countedAt, Map<PrincipalKey, Figure> people) {}

  /** A figure since a day, until that of the next. */
  public record Since(LocalDate day, Figure figure) {}

  @Override
  public String name() {
    return "exposure";
  }

  @Override
  public String description() {
    return "Counts how exposed everybody is, and how much of it they do not use.";
  }

  @Override
  protected boolean doWhereChanged() {
    Instant now = clock.instant();
    LiveModel.State state = model.state();
    ExcessStudies.Basis basis = studies.basis(state, LocalDate.ofInstant(now, zone));
    if (basis.equals(counted())) {
      return false;
    }
    count(state, basis, now);
    return true;
  }

  private ExcessStudies.@Nullable Basis counted() {
    return database
        .query(
            "select revision, use_basis, window_days, day from exposure_count",
            (row, _) -> ExcessStudies.Basis.of(row))
        .stream()
        .findFirst()
        .orElse(null);
  }

  private void count(LiveModel.State state, ExcessStudies.Basis basis, Instant at) {
    Engine engine = state.engine();
    ExcessStudies.Everybody everybody = studies.everybody(state, basis, at);
    UseWindow window = everybody.window();
    Map<PrincipalKey, Figure> people =
        people(engine.excess(everybody.then(), everybody.use(), window));
    if (people == null) {
      return;
    }
    Map<Of, Map<String, Figure>> all = new HashMap<>();
    Map<String, Figure> each = new HashMap<>();
    people.forEach((key, it) -> each.put(key.value(), it));
    all.put(Of.PRINCIPAL, each);
    all.put(Of.GROUP, groups(engine, window.at(), people));
    all.put(Of.ROLE, roles(engine, window.at(), people));
    all.put(Of.ACCOUNT, accounts(engine, people));
    transactions.executeWithoutResult(_ -> {
      database.query("select pg_advisory_xact_lock(hashtext('exposure'))", _ -> {});
      ExcessStudies.Basis kept = counted();
      if (kept != null && kept.sawAsMuchAs(basis)) {
        return; // another count, made meanwhile
      }
      all.forEach((of, figures) -> keep(of, figures, basis.day()));
      database.update("delete from exposure_count");
      database.update(
          "insert into exposure_count (revision, use_basis, window_days, day, counted_at)"
              + " values (?, ?, ?, ?, ?)",
          basis.revision(),
          basis.use(),
          basis.days(),
          Date.valueOf(basis.day()),
          at.atOffset(ZoneOffset.UTC));
    });
  }

  /** {@return the figures of everybody in a study}, null where the thread was interrupted */
  static @Nullable Map<PrincipalKey, Figure> people(ExcessStudy study) {
    Map<PrincipalKey, Figure> people = new ConcurrentHashMap<>();
    boolean whole =
        study.each(
            study.everybody(),
            (_, _) -> !Thread.currentThread().isInterrupted(),
            it -> people.put(it.principal(), Figure.of(it)));
    return whole ? people : null;
  }

  private static Map<String, Figure> groups(
      Engine engine, Instant at, Map<PrincipalKey, Figure> people) {
    Map<String, Figure> sums = new HashMap<>();
    for (Group it : engine.catalogue().groups().values()) {
      sums.put(
          it.key().value(),
          engine.having(new Subject.OfGroup(it.key()), at).stream()
              .map(member -> people.getOrDefault(member.key(), Figure.NONE))
              .reduce(Figure.NONE, Figure::plus));
    }
    return sums;
  }

  private static Map<String, Figure> roles(
      Engine engine, Instant at, Map<PrincipalKey, Figure> people) {
    Map<String, Figure> sums = new HashMap<>();
    engine.catalogue().roles().keySet().forEach(it -> sums.put(it.value(), Figure.NONE));
    for (Principal it : engine.catalogue().principals().values()) {
      Figure its = people.getOrDefault(it.key(), Figure.NONE);
      for (RoleKey role : engine.rolesHeld(it.key(), at)) {
        sums.merge(role.value(), its, Figure::plus);
      }
    }
    return sums;
  }

  /** {@return the sums over those at home in each account} */
  static Map<String, Figure> accounts(Engine engine, Map<PrincipalKey, Figure> people) {
    Map<String, Figure> sums = new HashMap<>();
    engine.catalogue().accounts().keySet().forEach(it -> sums.put(it.value(), Figure.NONE));
    for (Principal it : engine.catalogue().principals().values()) {
      sums.merge(it.account().value(), people.getOrDefault(it.key(), Figure.NONE), Figure::plus);
    }
    return sums;
  }

  /** Writes those that are others than before, and deletes those of what is gone or old. */
  private void keep(Of of, Map<String, Figure> figures, LocalDate day) {
    Map<String, Figure> before = before(of, day);
    Map<String, Figure> today = new HashMap<>();
    database.query(
        "select name, people, rights, exposure, unused from exposure where kind = ? and since = ?",
        row -> {
          today.put(
              row.getString(1),
              new Figure(row.getInt(2), row.getLong(3), row.getLong(4), row.getLong(5)));
        },
        of.word(),
        Date.valueOf(day));
    List<Object[]> rows = new ArrayList<>();
    List<Object[]> same = new ArrayList<>();
    figures.forEach((name, it) -> {
      if (it.equals(before.get(name))) {
        if (today.containsKey(name)) {
          same.add(new Object[] {of.word(), name, Date.valueOf(day)});
        }
      } else if (!it.equals(today.get(name))) {
        rows.add(
            new Object[] {
              of.word(),
              name,
              Date.valueOf(day),
              it.people(),
              it.rights(),
              it.exposure(),
              it.unused()
            });
      }
    });
    // as it was yesterday, after it was otherwise today
    database.batchUpdate("delete from exposure where kind = ? and name = ? and since = ?", same);
    for (int i = 0; i < rows.size(); i += BATCH) {
      database.batchUpdate(
          "insert into exposure (kind, name, since, people, rights, exposure, unused)"
              + " values (?, ?, ?, ?, ?, ?, ?)"
              + " on conflict (kind, name, since) do update set people = excluded.people,"
              + " rights = excluded.rights, exposure = excluded.exposure,"
              + " unused = excluded.unused",
          rows.subList(i, Math.min(rows.size(), i + BATCH)));
    }
    Set<String> gone = new HashSet<>(before.keySet());
    gone.addAll(today.keySet());
    gone.removeAll(figures.keySet());
    database.update(
        "delete from exposure where kind = ? and name = any (?)",
        of.word(),
        gone.toArray(String[]::new));
    Date oldest = Date.valueOf(day.minusDays(KEPT));
    database.update(
        "delete from exposure as old where kind = ? and since < ? and exists (select 1 from"
            + " exposure as next where next.kind = old.kind and next.name = old.name"
            + " and next.since > old.since and next.since <= ?)",
        of.word(),
        oldest,
        oldest);
  }

  /** The figures of one kind before a day. */
  private Map<String, Figure> before(Of of, LocalDate day) {
    Map<String, Figure> before = new HashMap<>();
    database.query(
        "select distinct on (name) name, people, rights, exposure, unused from exposure"
            + " where kind = ? and since < ? order by name, since desc",
        row -> {
          before.put(
              row.getString(1),
              new Figure(row.getInt(2), row.getLong(3), row.getLong(4), row.getLong(5)));
        },
        of.word(),
        Date.valueOf(day));
    return before;
  }

  /** {@return the newest figures of all principals}; none where nothing was counted yet */
  public Newest newest() {
    Newest known = newest;
    Instant counted =
        database
            .query(
                "select counted_at from exposure_count",
                (row, _) -> row.getTimestamp(1).toInstant())
            .stream()
            .findFirst()
            .orElse(Instant.MIN);
    if (known == null || !known.countedAt().equals(counted)) {
      Map<PrincipalKey, Figure> people = new HashMap<>();
      before(Of.PRINCIPAL, LocalDate.ofInstant(clock.instant(), zone).plusDays(1))
          .forEach((name, it) -> people.put(new PrincipalKey(name), it));
      known = new Newest(counted, people);
      newest = known;
    }
    return known;
  }

  /** {@return the figures of one thing from a day on}, with the one that counted on that day */
  public List<Since> since(Of of, String name, LocalDate first) {
    return database.query(
        "select since, people, rights, exposure, unused from exposure"
            + " where kind = ? and name = ? and since >= coalesce((select max(since) from exposure"
            + " where kind = ? and name = ? and since <= ?), ?) order by since",
        (row, _) ->
            new Since(
                row.getDate(1).toLocalDate(),
                new Figure(row.getInt(2), row.getLong(3), row.getLong(4), row.getLong(5))),
        of.word(),
        name,
        of.word(),
        name,
        Date.valueOf(first),
        Date.valueOf(first));
  }
}
