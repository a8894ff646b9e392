package mandala.server;

import static mandala.server.Patience.await;
import static org.assertj.core.api.Assertions.assertThat;

import java.sql.SQLException;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.test.annotation.DirtiesContext;

/** The database goes away and comes back. */
@ApiTest
@DirtiesContext
class OutageTest {

  private static void admit(String database, boolean admitted) {
    try (var connection = TestDatabase.connect("postgres");
        var statement = connection.createStatement()) {
      statement.execute("alter database " + database + " with allow_connections " + admitted);
      if (!admitted) {
        statement.execute(
            "select pg_terminate_backend(pid) from pg_stat_activity where datname = '"
                + database
                + "'");
      }
    } catch (SQLException e) {
      throw new AssertionError(e);
    }
  }

  @Test
  void aLostDatabaseIsToldAndNothingIsLost(@Autowired Environment environment) {
    String url = environment.getRequiredProperty("spring.datasource.url");
    String database = url.substring(url.lastIndexOf('/') + 1);
    Caller caller = Caller.as("noor.haddad", environment);
    String question = "/api/ask/access?principal=noor.haddad&in=quillhaven";
    String before = caller.get(question).json().get("regions").toString();
    admit(database, false);
    try {
      Caller.Answer away = caller.get(question);
      assertThat(away.status()).isEqualTo(503);
      assertThat(away.type()).startsWith("application/problem+json");
      assertThat(away.json().get("title").stringValue())
          .isEqualTo("The database cannot be reached");
      assertThat(caller.send("POST", "/api/session/second-factor", "{\"code\": \"1\"}").status())
          .isEqualTo(503);
    } finally {
      admit(database, true);
    }
    await().until(() -> caller.get(question).status() == 200);
    assertThat(caller.get(question).json().get("regions").toString()).isEqualTo(before);
  }
}
