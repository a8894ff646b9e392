package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.TimeUnit;
import mandala.core.model.key.PrincipalKey;
import mandala.server.session.Credentials;
import mandala.server.session.DemoCredentials;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.jdbc.core.JdbcTemplate;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A client in another language, with nothing but its standard library, asks each question. */
@ExtendWith(Running.class)
class OutsideClientTest {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  @TempDir private Path folder;

  private Map<String, JsonNode> answers(Application application)
      throws IOException, InterruptedException {
    application.part(JdbcTemplate.class).update("update credential set totp_last_step = -1");
    Path script = folder.resolve("outside_client.py");
    try (InputStream in = OutsideClientTest.class.getResourceAsStream("/outside_client.py")) {
      Files.copy(Objects.requireNonNull(in), script);
    }
    Process client =
        new ProcessBuilder(
                "python3",
                script.toString(),
                application.address(),
                "ilse.varga",
                DemoCredentials.PASSWORD,
                application
                    .part(Credentials.class)
                    .demoCode(new PrincipalKey("ilse.varga"), Instant.now()))
            .redirectErrorStream(true)
            .start();
    String out = new String(client.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(client.waitFor(1, TimeUnit.MINUTES)).isTrue();
    assertThat(client.exitValue()).as(out).isZero();
    Map<String, JsonNode> answers = new HashMap<>();
    out.lines()
        .map(JSON::readTree)
        .forEach(it -> answers.put(it.get("question").stringValue(), it));
    return answers;
  }

  @Test
  void everyFormIsAskedFromOutsideAndTheAnswersFitTogether(Application application)
      throws IOException, InterruptedException {
    Map<String, JsonNode> told = answers(application);
    long rights = told.get("what").get("rights").longValue();
    assertThat(rights).isPositive();
    assertThat(told.get("why").get("verdict").stringValue()).isEqualTo("allowed");
    assertThat(told.get("why").get("live").intValue()).isPositive();
    assertThat(told.get("ways").get("end").intValue()).isPositive();
    assertThat(told.get("ways").get("give").intValue()).isZero();
    assertThat(told.get("who").get("among").booleanValue()).isTrue();
    JsonNode difference = told.get("difference");
    assertThat(difference.get("other").longValue() - difference.get("one").longValue())
        .isEqualTo(difference.get("gained").longValue() - difference.get("lost").longValue());
    assertThat(told.get("checks").get("findings").intValue()).isPositive();
    JsonNode refused = told.get("refused");
    assertThat(refused.get("status").intValue()).isEqualTo(404);
    assertThat(refused.get("type").stringValue()).startsWith("application/problem+json");
    assertThat(refused.get("detail").stringValue()).contains("no.such");
  }
}
