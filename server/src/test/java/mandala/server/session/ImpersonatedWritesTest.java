package mandala.server.session;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import mandala.server.ApiTest;
import mandala.server.Caller;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import tools.jackson.databind.JsonNode;

/**
 * Nothing can be changed with another's eyes (section 7): every call of the description is tried.
 */
@ApiTest
class ImpersonatedWritesTest {

  /** One's own session, and the views themselves. */
  private static final List<String> ALLOWED = List.of("/api/session", "/api/views");

  /** Calls that only look, though they send a body. */
  private static final Set<String> LOOKS =
      Set.of(
          "/api/places/scope",
          "/api/places/rule",
          "/api/people/named",
          "/api/ask/escalation/everyone",
          "/api/trail/exports",
          "/api/jobs/{id}");

  @Autowired private Environment environment;
  @Autowired private JdbcTemplate database;

  private record Write(String method, String path) {}

  private List<Write> writes() {
    List<Write> writes = new ArrayList<>();
    JsonNode paths = new Caller(environment).get("/v3/api-docs").json().get("paths");
    for (String path : paths.propertyNames()) {
      for (String method : paths.get(path).propertyNames()) {
        boolean open =
            ALLOWED.stream().anyMatch(it -> path.equals(it) || path.startsWith(it + "/"));
        if (!method.equals("get") && !open && !LOOKS.contains(path)) {
          writes.add(new Write(method.toUpperCase(Locale.ROOT), path.replaceAll("\\{\\w+}", "1")));
        }
      }
    }
    return writes;
  }

  @Test
  void everyWriteIsRefusedBeforeItIsRead() {
    database.update("update credential set totp_last_step = -1");
    Caller ilse = Caller.as("ilse.varga", environment);
    assertThat(ilse.send("POST", "/api/views", "{\"principal\":\"noor.haddad\"}").status())
        .isEqualTo(200);
    Caller asNoor = ilse.pretendingToSeeAs("noor.haddad");
    long revisions = count("model_entry");
    long drafts = count("draft");
    List<Write> writes = writes();
    assertThat(writes).hasSizeGreaterThan(20);
    for (Write it : writes) {
      for (String body : List.of("{}", "[]", "no body at all")) {
        Caller.Answer answer = asNoor.send(it.method(), it.path(), body);
        assertThat(answer.status()).as("%s with %s: %s", it, body, answer.body()).isEqualTo(403);
        assertThat(answer.body()).as(it.toString()).contains("in an impersonated view");
      }
    }
    assertThat(count("model_entry")).isEqualTo(revisions);
    assertThat(count("draft")).isEqualTo(drafts);
  }

  @Test
  void whatOnlyLooksIsAnswered() {
    database.update("update credential set totp_last_step = -1");
    Caller ilse = Caller.as("ilse.varga", environment);
    ilse.send("POST", "/api/views", "{\"principal\":\"noor.haddad\"}");
    Caller asNoor = ilse.pretendingToSeeAs("noor.haddad");
    assertThat(asNoor.get("/api/drafts").status()).isEqualTo(200);
    for (String path : LOOKS) {
      Caller.Answer answer =
          path.contains("{")
              ? asNoor.send("DELETE", path.replaceAll("\\{\\w+}", "1"), "")
              : asNoor.send("POST", path, "{}");
      assertThat(answer.body()).as(path).doesNotContain("in an impersonated view");
    }
    assertThat(asNoor.send("DELETE", "/api/views/noor.haddad", "").status()).isEqualTo(204);
  }

  private long count(String table) {
    Long found = database.queryForObject("select count(*) from " + table, Long.class);
    return found == null ? -1 : found;
  }
}
