package mandala.server.review;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** Counts how rounds go: what is left, how it is decided, and how fast. */
@Component
class RoundFigures {

  private final JdbcTemplate database;

  RoundFigures(JdbcTemplate database) {
    this.database = database;
  }

  /** How many items of a round, somebody's or everybody's, are in which state. */
  record Progress(int all, int decided, int done, int gone, int kept, int reduced, int removed) {}

  /** {@return how far each decider is}, by key; nobody's under an empty text */
  Map<String, Progress> progress(long round) {
    Map<String, Progress> progress = new LinkedHashMap<>();
    database.query(
        "select coalesce(decider, ''), count(*), count(*) filter (where state = 'decided'),"
            + " count(*) filter (where state = 'done'), count(*) filter (where state = 'gone'),"
            + " count(*) filter (where verdict = 'keep'),"
            + " count(*) filter (where verdict = 'reduce'),"
            + " count(*) filter (where verdict = 'remove')"
            + " from review_item where round = ? group by 1 order by 2 desc, 1",
        row -> {
          progress.put(
              row.getString(1),
              new Progress(
                  row.getInt(2),
                  row.getInt(3),
                  row.getInt(4),
                  row.getInt(5),
                  row.getInt(6),
                  row.getInt(7),
                  row.getInt(8)));
        },
        round);
    return progress;
  }

  /** How many items a round has, and how many of them are not open. */
  record Sizes(int all, int finished) {}

  /** {@return how many items each round has}, by its number; none of those that have none */
  Map<Long, Sizes> sizes() {
    Map<Long, Sizes> sizes = new HashMap<>();
    database.query(
        "select round, count(*), count(*) filter (where state <> 'open') from review_item"
            + " group by 1",
        row -> {
          sizes.put(row.getLong(1), new Sizes(row.getInt(2), row.getInt(3)));
        });
    return sizes;
  }

  /** {@return the median seconds between one decision and the next}, by who decided */
  Map<String, Double> pace(long round) {
    Map<String, Double> pace = new HashMap<>();
    database.query(
        "select decided_by, percentile_cont(0.5) within group (order by gap) from ("
            + " select decided_by, extract(epoch from decided_at"
            + " - lag(decided_at) over (partition by decided_by order by decided_at)) gap"
            + " from review_item where round = ? and decided_at is not null) g"
            + " where gap is not null group by 1",
        row -> {
          pace.put(row.getString(1), row.getDouble(2));
        },
        round);
    return pace;
  }

  /** How many controls somebody decided, and how many of these they kept. */
  record Controls(int decided, int kept) {}

  /** {@return how controls were decided}, by who decided */
  Map<String, Controls> controls(long round) {
    Map<String, Controls> found = new HashMap<>();
    database.query(
        "select decided_by, count(*), count(*) filter (where verdict = 'keep') from review_item"
            + " where round = ? and control and decided_by is not null group by 1",
        row -> {
          found.put(row.getString(1), new Controls(row.getInt(2), row.getInt(3)));
        },
        round);
    return found;
  }

  /** Number of open items that somebody must decide, in one round. */
  record Waiting(long round, int items, int decided) {}

  /** {@return what waits for somebody in open rounds} */
  List<Waiting> waiting(String decider) {
    return database.query(
        "select i.round, count(*), count(*) filter (where i.state <> 'open') from review_item i"
            + " join review_round r on r.number = i.round"
            + " where i.decider = ? and r.state = 'open' and i.state <> 'gone'"
            + " group by 1 order by 1",
        (row, _) -> new Waiting(row.getLong(1), row.getInt(2), row.getInt(3)),
        decider);
  }
}
