package mandala.bench;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** PostgreSQL, asked in SQL, gives the engine's answers: another reference, on a whole village. */
class DatabaseTest {

  private static final String NAME = "mandala_bench_test";

  private String url = "";
  private String user = "";
  private String password = "";

  private void onServer(String sql) throws SQLException {
    try (Connection connection = DriverManager.getConnection(url + "postgres", user, password);
        Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  @BeforeEach
  void create() throws SQLException {
    url = System.getenv().getOrDefault("MANDALA_TEST_DB_URL", "");
    user = System.getenv().getOrDefault("MANDALA_TEST_DB_USER", "");
    password = System.getenv().getOrDefault("MANDALA_TEST_DB_PASSWORD", "");
    assumeThat(url).as("./mandala test starts a database and names it").isNotEmpty();
    onServer("drop database if exists " + NAME);
    onServer("create database " + NAME);
  }

  @AfterEach
  void drop() throws SQLException {
    if (!url.isEmpty()) {
      onServer("drop database " + NAME + " with (force)");
    }
  }

  @Test
  void everyAnswerIsTheSame() throws SQLException {
    AccessModel model = Settlement.of(Size.VILLAGE, 2);
    Results results = new Results();
    try (Database database =
        new Database(new World(model, Engine.of(model)), results, url + NAME, user, password)) {
      database.run(); // throws where an answer differs
    }
    assertThat(results.comparisons())
        .hasSize(4)
        .allSatisfy(it -> {
          assertThat(it.engine()).isPositive();
          assertThat(it.other()).isPositive();
        });
    assertThat(results.table()).contains("PostgreSQL: who can").contains("same answers");
  }
}
