package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.io.File;
import java.io.IOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import mandala.core.model.key.GroupKey;
import mandala.server.MandalaApplication;
import mandala.server.audit.Trail;
import mandala.server.model.LiveModel;
import mandala.server.session.DemoCredentials;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The server's process killed in the middle of an apply: the old revision stands, or the new. */
class KilledServerTest {

  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final String DATABASE = "killed";

  /** When it is killed, in milliseconds after it was asked to apply; last when it has answered. */
  private static final int ANSWERED = Integer.MAX_VALUE;

  private static final List<Integer> MILLISECONDS = List.of(25, ANSWERED);

  private final HttpClient client =
      HttpClient.newBuilder().cookieHandler(new CookieManager()).build();

  /** A server in a process of its own, so that it can be killed. */
  private static Process server(int port) throws IOException {
    String url = System.getenv("MANDALA_TEST_DB_URL") + DATABASE;
    return new ProcessBuilder(
            Path.of(System.getProperty("java.home"), "bin", "java").toString(),
            "-cp",
            System.getProperty("java.class.path"),
            MandalaApplication.class.getName(),
            "--server.port=" + port,
            "--mandala.keys=target/keys/" + DATABASE,
            "--spring.datasource.url=" + url,
            "--spring.datasource.username=" + System.getenv("MANDALA_TEST_DB_USER"),
            "--spring.datasource.password=" + System.getenv("MANDALA_TEST_DB_PASSWORD"),
            "--mandala.demo=true")
        .redirectErrorStream(true)
        .redirectOutput(new File("target/killed-server.log"))
        .start();
  }

  private HttpResponse<String> send(String address, String method, String path, String body)
      throws IOException, InterruptedException {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(address + path))
            .method(method, HttpRequest.BodyPublishers.ofString(body))
            .timeout(Duration.ofMinutes(1)) // no answer is lost for good
            .header("Content-Type", "application/json");
    ((CookieManager) client.cookieHandler().orElseThrow())
        .getCookieStore().getCookies().stream()
            .filter(it -> it.getName().equals("XSRF-TOKEN"))
            .forEach(it -> request.header("X-XSRF-TOKEN", it.getValue()));
    return client.send(request.build(), HttpResponse.BodyHandlers.ofString());
  }

  private void awaitAnswer(String address, Process server) {
    await()
        .atMost(Duration.ofMinutes(8)) // a busy machine starts it slowly
        .pollInterval(Duration.ofSeconds(1))
        .ignoreExceptionsInstanceOf(IOException.class) // it does not listen yet
        .until(() -> {
          assertThat(server.isAlive()).as("see target/killed-server.log").isTrue();
          return send(address, "GET", "/api/session", "").statusCode() == 200;
        });
  }

  private String code(String address) throws IOException, InterruptedException {
    for (JsonNode person : JSON.readTree(send(address, "GET", "/api/demo/people", "").body())) {
      if (person.get("key").stringValue().equals("ilse.varga")) {
        return person.get("code").stringValue();
      }
    }
    throw new IllegalStateException("ilse.varga is nobody of the demo");
  }

  /** Edits, applies, and kills the server meanwhile. {@return whether it was said to be applied} */
  private boolean applyAndKill(int port, String group, int afterMillis) throws Exception {
    Process server = server(port);
    try {
      String address = "http://127.0.0.1:" + port;
      awaitAnswer(address, server);
      Database.run(DATABASE, "update credential set totp_last_step = -1");
      String signIn =
          "{\"name\":\"ilse.varga\",\"password\":\"%s\",\"code\":\"%s\"}"
              .formatted(DemoCredentials.PASSWORD, code(address));
      assertThat(send(address, "POST", "/api/session", signIn).statusCode()).isEqualTo(200);
      String edit =
          "{\"edits\":[{\"kind\":\"groups\",\"after\":{\"key\":\"%s\",\"account\":\"quillhaven\"}}]}"
              .formatted(group);
      HttpResponse<String> edited = send(address, "POST", "/api/drafts/open/edits", edit);
      assertThat(edited.statusCode()).as(edited.body()).isEqualTo(200);
      JsonNode draft = JSON.readTree(send(address, "GET", "/api/drafts/open", "").body());
      Database.run(DATABASE, "update credential set totp_last_step = -1");
      String proof =
          "{\"content\":%s,\"proof\":\"%s\"}".formatted(draft.get("content"), code(address));
      CompletableFuture<Boolean> applied =
          CompletableFuture.supplyAsync(() -> {
            try {
              return send(address, "POST", "/api/drafts/open/apply", proof).statusCode() == 200;
            } catch (IOException _) {
              return false; // killed before it answered
            } catch (InterruptedException e) {
              Thread.currentThread().interrupt();
              return false;
            }
          });
      if (afterMillis == ANSWERED) {
        applied.get(1, TimeUnit.MINUTES);
      } else {
        CompletableFuture.runAsync(
                server::destroyForcibly,
                CompletableFuture.delayedExecutor(afterMillis, TimeUnit.MILLISECONDS))
            .get();
      }
      server.destroyForcibly();
      return applied.get(1, TimeUnit.MINUTES);
    } finally {
      server.destroyForcibly().waitFor();
    }
  }

  @Test
  void aKilledServerLeavesTheOldRevisionOrTheNewOne() throws Exception {
    Application.start(DATABASE, true).close();
    int port = Database.freePort();
    long revision = 0;
    for (int round = 0; round < MILLISECONDS.size(); round++) {
      String group = "killed-" + round;
      boolean said = applyAndKill(port, group, MILLISECONDS.get(round));
      try (Application application = Application.on(DATABASE, true, 0)) {
        LiveModel model = application.part(LiveModel.class);
        boolean there = model.engine().catalogue().groups().containsKey(new GroupKey(group));
        long now = model.state().revision();
        if (MILLISECONDS.get(round) == ANSWERED) {
          assertThat(said).as("what nothing stood against is applied").isTrue();
        }
        if (said) {
          assertThat(there).as("what was said to be applied is").isTrue();
        }
        if (revision > 0) {
          assertThat(now).isEqualTo(there ? revision + 1 : revision);
        }
        String state =
            Database.word(DATABASE, "select state from draft order by changed_at desc limit 1");
        assertThat(state).isEqualTo(there ? "applied" : "open");
        assertThat(application.part(Trail.class).verify().fault()).isEmpty();
        Database.run(DATABASE, "update draft set state = 'discarded' where state = 'open'");
        revision = now;
      }
    }
  }
}
