package mandala.bench;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Decision;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import mandala.core.question.WhoQuestion;

/**
 * The same questions put to the engine and to PostgreSQL, one after the other, and the answers held
 * against each other: how often the engine is faster. The tables are flattened, indexed and
 * analysed; each query runs with custom and with generic plans, and the faster one counts.
 */
final class Database implements AutoCloseable {

  private static final List<String> PLANS = List.of("force_custom_plan", "force_generic_plan");

  private static final long WARM_UP_NANOS = 3_000_000_000L;

  private final World world;
  private final Results results;
  private final Connection connection;
  private final Flattened tables;

  /**
   * Connects and loads.
   *
   * @param url a database whose schema {@code public} may be thrown away
   */
  Database(World world, Results results, String url, String user, String password)
      throws SQLException {
    this.world = world;
    this.results = results;
    connection = DriverManager.getConnection(url, user, password);
    tables = new Flattened(world.engine.catalogue(), connection);
    tables.load();
    execute("set jit = off");
    execute("set work_mem = '16MB'");
    execute("set effective_cache_size = '2GB'");
    execute("set random_page_cost = 1.1");
  }

  private void execute(String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  @Override
  public void close() throws SQLException {
    connection.close();
  }

  private interface Asked<T> {
    T ask() throws SQLException;
  }

  private static double median(List<Double> values) {
    return values.stream().sorted().skip(values.size() / 2).findFirst().orElse(Double.NaN);
  }

  private static <T> T timed(List<Double> into, Asked<T> asked) throws SQLException {
    long start = System.nanoTime();
    T answer = asked.ask();
    into.add((System.nanoTime() - start) / 1e3);
    return answer;
  }

  private interface Questions<A, B> {
    Asked<A> engine(int i);

    Asked<B> database(int i);

    default boolean same(A mine, B theirs) {
      return mine.equals(theirs);
    }
  }

  /** The first questions are put to both; all warm the engine up, so that none is still kept. */
  private <A, B> void compare(String name, int all, int many, Questions<A, B> questions)
      throws SQLException {
    long enough = System.nanoTime() + WARM_UP_NANOS;
    for (int i = 0; System.nanoTime() < enough; i = (i + 1) % all) {
      questions.engine(i).ask();
    }
    List<Double> engine = new ArrayList<>();
    List<A> answers = new ArrayList<>();
    for (int i = 0; i < many; i++) {
      answers.add(timed(engine, questions.engine(i)));
    }
    double best = Double.MAX_VALUE;
    for (String plan : PLANS) {
      execute("set plan_cache_mode = " + plan);
      List<Double> database = new ArrayList<>();
      for (int i = 0; i < many; i++) {
        B theirs = timed(database, questions.database(i));
        if (!questions.same(answers.get(i), theirs)) {
          throw new IllegalStateException(
              "%s, question %d: the engine says %s, the database %s"
                  .formatted(name, i, answers.get(i), theirs));
        }
      }
      best = Math.min(best, median(database));
    }
    results.compared(name, median(engine), best, many + " questions, same answers");
  }

  private String one(String sql) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      rows.next();
      return rows.getString(1);
    }
  }

  private void prepare(String name, int parameters, String file) throws SQLException {
    String types = String.join(", ", java.util.Collections.nCopies(parameters, "int"));
    execute("prepare %s(%s) as %s".formatted(name, types, Flattened.sql(file)));
  }

  private static String call(String name, int... values) {
    return "execute %s(%s)"
        .formatted(
            name, String.join(", ", Arrays.stream(values).mapToObj(Integer::toString).toList()));
  }

  private boolean active(Question question) {
    return world.engine.isActive(question.principal(), question.at());
  }

  void run() throws SQLException {
    prepare("decision", 3, "decision.sql");
    prepare("decision_recursive", 3, "decision-recursive.sql");
    prepare("who_can", 2, "who-can.sql");
    prepare("whole_access", 1, "whole-access.sql");
    List<Question> questions = world.coldQuestions(1 << 14).stream().filter(this::active).toList();
    decisions(questions);
    recursive(questions);
    whoCan(questions);
    wholeAccess(questions);
  }

  private int[] asked(Question it) {
    return new int[] {
      tables.number(it.principal()), tables.number(it.permission()), tables.position(it.resource())
    };
  }

  private void decisions(List<Question> questions) throws SQLException {
    compare(
        "PostgreSQL: decision, cold",
        questions.size(),
        300,
        new Questions<String, String>() {
          @Override
          public Asked<String> engine(int i) {
            return () -> verdict(world.engine.decideAfresh(questions.get(i)));
          }

          @Override
          public Asked<String> database(int i) {
            String call = call("decision", asked(questions.get(i)));
            return () -> one(call);
          }
        });
  }

  private static String verdict(Decision decision) {
    return decision.verdict().name();
  }

  private void recursive(List<Question> all) throws SQLException {
    List<Question> questions =
        all.stream()
            .filter(it -> {
              Verdict verdict = world.engine.decideAfresh(it).verdict();
              return verdict == Verdict.ALLOWED || verdict == Verdict.NONE;
            })
            .toList();
    compare(
        "PostgreSQL: decision, cold, by a recursive query",
        questions.size(),
        60,
        new Questions<Boolean, Boolean>() {
          @Override
          public Asked<Boolean> engine(int i) {
            return () -> world.engine.decideAfresh(questions.get(i)).verdict() == Verdict.ALLOWED;
          }

          @Override
          public Asked<Boolean> database(int i) {
            String call = call("decision_recursive", asked(questions.get(i)));
            return () -> "t".equals(one(call));
          }
        });
  }

  private void whoCan(List<Question> questions) throws SQLException {
    Map<Integer, PrincipalKey> keys = new HashMap<>();
    world.model.principals().forEach(it -> keys.put(tables.number(it.key()), it.key()));
    compare(
        "PostgreSQL: who can",
        questions.size(),
        100,
        new Questions<WhoQuestion.Answer, Set<PrincipalKey>>() {
          @Override
          public boolean same(WhoQuestion.Answer mine, Set<PrincipalKey> theirs) {
            Set<PrincipalKey> found = new HashSet<>();
            mine.allowed().forEach(who -> found.add(who.principal()));
            return found.equals(theirs);
          }

          @Override
          public Asked<WhoQuestion.Answer> engine(int i) {
            Question it = questions.get(i);
            WhoQuestion question = WhoQuestion.of(it.permission(), it.resource(), it.at(), true);
            return () -> world.engine.whoCan(question);
          }

          @Override
          public Asked<Set<PrincipalKey>> database(int i) {
            int[] asked = asked(questions.get(i));
            String call = call("who_can", asked[1], asked[2]);
            return () -> {
              Set<PrincipalKey> found = new HashSet<>();
              try (Statement statement = connection.createStatement();
                  ResultSet rows = statement.executeQuery(call)) {
                while (rows.next()) {
                  found.add(keys.get(rows.getInt(1)));
                }
              }
              return found;
            };
          }
        });
  }

  private void wholeAccess(List<Question> questions) throws SQLException {
    compare(
        "PostgreSQL: whole access, counted",
        questions.size(),
        40,
        new Questions<Long, Long>() {
          @Override
          public Asked<Long> engine(int i) {
            return () -> world.engine.rights(questions.get(i).session());
          }

          @Override
          public Asked<Long> database(int i) {
            String call = call("whole_access", asked(questions.get(i))[0]);
            return () -> Long.valueOf(one(call));
          }
        });
  }
}
