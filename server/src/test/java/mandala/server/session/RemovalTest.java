package mandala.server.session;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import mandala.core.change.Change;
import mandala.core.model.About;
import mandala.core.model.Principal;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;

/** Removing somebody ends all that was theirs; whoever gets the key later is somebody else. */
@ApiTest
@DirtiesContext
class RemovalTest {

  private static final Principal MIRA =
      new Principal(
          new PrincipalKey("mira.stone"),
          About.named("Mira Stone"),
          Principal.Kind.PERSON,
          new AccountKey("quillhaven"),
          null,
          null,
          Principal.Status.ACTIVE,
          Window.ALWAYS,
          false,
          Map.of(),
          null,
          List.of(),
          null,
          null,
          null);

  @Autowired private LiveModel model;
  @Autowired private JdbcTemplate database;
  @Autowired private Environment environment;

  private void giveAPassword() {
    database.update(
        "insert into credential select 'mira.stone', password_hash, null from credential limit 1");
  }

  @Test
  void endsCredentialsSessionsDraftsAndLeavesTheTrailToTheOneWhoWas() {
    model.change(List.of(new Change.Added(MIRA)));
    giveAPassword();
    Caller first = Caller.as("mira.stone", environment);
    assertThat(first.send("POST", "/api/drafts", "{\"name\":\"hers\"}").status()).isEqualTo(200);
    assertThat(first.get("/api/trail").json().get("total").longValue()).isPositive();

    model.change(List.of(new Change.Removed(MIRA)));
    assertThat(first.get("/api/accounts").status()).isEqualTo(401);
    assertThat(new Caller(environment).signIn("mira.stone", "larkmoor-demo", "").status())
        .isEqualTo(401);

    model.change(List.of(new Change.Added(MIRA)));
    assertThat(first.get("/api/accounts").status()).as("her session is gone").isEqualTo(401);
    assertThat(new Caller(environment).signIn("mira.stone", "larkmoor-demo", "").status())
        .as("her password is gone")
        .isEqualTo(401);
    giveAPassword();
    Caller second = Caller.as("mira.stone", environment);
    assertThat(second.get("/api/drafts").json().get("mine")).isEmpty();
    assertThat(second.get("/api/trail").body())
        .contains("Signed in")
        .satisfies(it ->
            assertThat(second.get("/api/trail").json().get("total").longValue())
                .as("only what she did herself")
                .isLessThanOrEqualTo(2));
  }
}
