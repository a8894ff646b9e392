package mandala.server;

import static mandala.server.Patience.await;
import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;

/** The database goes away and comes back. */
@ApiTest
@DirtiesContext
class OutageTest {

  @Test
  void aLostDatabaseIsToldAndNothingIsLost(
      @Autowired Environment environment, @Autowired JdbcTemplate database) {
    database.update("update credential set totp_last_step = -1");
    Caller caller = Caller.as("noor.haddad", environment);
    String question = "/api/ask/access?principal=noor.haddad&in=quillhaven";
    String before = caller.get(question).json().get("regions").toString();
    TestDatabase.admit(environment, false);
    try {
      Caller.Answer away = caller.get(question);
      assertThat(away.status()).isEqualTo(503);
      assertThat(away.type()).startsWith("application/problem+json");
      assertThat(away.json().get("title").stringValue())
          .isEqualTo("The database cannot be reached");
      assertThat(caller.send("POST", "/api/session/second-factor", "{\"code\": \"1\"}").status())
          .isEqualTo(503);
      assertThat(Caller.withToken("mandala_any", environment).get("/api/people").status())
          .isEqualTo(503);
    } finally {
      TestDatabase.admit(environment, true);
    }
    await().until(() -> caller.get(question).status() == 200);
    assertThat(caller.get(question).json().get("regions").toString()).isEqualTo(before);
  }
}
