package mandala.server.platform;

import static org.assertj.core.api.Assertions.assertThat;

import ch.qos.logback.classic.Level;
import ch.qos.logback.classic.Logger;
import ch.qos.logback.classic.spi.ILoggingEvent;
import ch.qos.logback.core.read.ListAppender;
import java.io.IOException;
import java.net.InetAddress;
import java.net.Socket;
import java.net.URLEncoder;
import java.net.http.HttpRequest;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import mandala.core.model.Kind;
import mandala.core.model.key.PrincipalKey;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.session.DemoCredentials;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Whatever is sent, the server answers: thousands of calls over the whole description, with values
 * of the demo, values of no use, and values that are no text, in parameters, headers and bodies.
 * None is answered by 500 and none leaves a stack trace in the log. The calls of a seed are always
 * the same ({@code -Dmandala.fuzz.seed}, {@code -Dmandala.fuzz.calls}).
 */
@ApiTest
@DirtiesContext
class FuzzTest {

  private static final long SEED = Long.getLong("mandala.fuzz.seed", 20261128);
  private static final int CALLS = Integer.getInteger("mandala.fuzz.calls", 3_000);

  /** In a query or a path, already encoded: what is no text, or hardly any. */
  private static final List<String> HOSTILE =
      List.of(
          "%ff",
          "%c3%28",
          "%ed%a0%80",
          "%00",
          "a%00b",
          "%20",
          "%09",
          "+1000000000-12-31T23:59:59Z",
          "-1000000000-01-01T00:00:00Z",
          "%2b1000000000-12-31T23:59:59Z",
          "0000-01-01T00:00:00Z",
          "9999-12-31T23:59:59.999Z",
          "9223372036854775807",
          "-9223372036854775808",
          "9223372036854775808",
          "-1",
          "0",
          "1e9",
          "null",
          "NaN",
          "%27%3b--",
          "%25%5f%5c",
          "~",
          "*",
          "account%3a",
          "role%3a",
          "..%2f..",
          "%f0%9f%8c%b8",
          "%e2%80%ae",
          "a".repeat(3_000));

  /** In a JSON body. */
  private static final List<String> JUNK =
      List.of(
          "null",
          "true",
          "0",
          "-1",
          "1e400",
          "99999999999999999999",
          "\"\"",
          "\" \"",
          "\"\\u0000\"",
          "\"a\\u0000b\"",
          "\"\\ud800\"",
          "\"x\\udc00y\"",
          "\"+1000000000-12-31T23:59:59Z\"",
          "\"mandala.owner\"",
          "\"~abc\"",
          "[]",
          "[null]",
          "[[]]",
          "{}",
          "{\"\":null}",
          "\"" + "x".repeat(5_000) + "\"");

  private static final List<String> TYPES =
      List.of("*/*", "application/*", "text/plain", "nonsense", "application/json;charset=utf-7");

  private static final JsonMapper JSON = JsonMapper.builder().build();

  @Autowired private Environment environment;
  @Autowired private JdbcTemplate database;

  private final Random random = new Random(SEED);
  private final Map<String, List<String>> known = new TreeMap<>();
  private JsonNode schemas = JSON.nullNode();

  private <T> T any(List<T> of) {
    return of.get(random.nextInt(of.size()));
  }

  private Caller caller(String who) {
    Caller caller = new Caller(environment);
    if (!who.isEmpty()) {
      database.update("update credential set totp_last_step = -1");
      database.update("delete from sign_in_throttle");
      String code = DemoCredentials.codeOf(new PrincipalKey(who), Instant.now());
      Caller.Answer answer = caller.signIn(who, DemoCredentials.PASSWORD, code);
      if (answer.status() != 200) {
        answer = caller.signIn(who, DemoCredentials.PASSWORD, "");
      }
      assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    }
    return caller;
  }

  private void learn() {
    List<String> places = List.of("account:fernwick", "account:larkmoor", "group:fernwick-guards");
    List<String> people = List.of("ilse.varga", "marten.holloway", "dario.penn", "anonymous");
    for (String name :
        List.of("principal", "one", "other", "who", "person", "actingFor", "owner")) {
      known.put(name, people);
    }
    for (String name : List.of("resource", "on", "below", "place")) {
      known.put(name, places);
    }
    known.put("permission", List.of("mandala.owner", "mandala.directory.read"));
    known.put("in", List.of("fernwick", "larkmoor"));
    known.put("account", List.of("fernwick", "larkmoor"));
    known.put("draft", List.of("open"));
    known.put("otherDraft", List.of("open"));
    known.put("id", List.of("open"));
    known.put("key", List.of("ilse.varga", "fernwick-guards", "mandala.owner"));
    known.put("at", List.of("2026-05-01T09:00:00Z", Instant.now().toString()));
    known.put("otherAt", known.get("at"));
    known.put("revision", List.of("1", "2"));
    known.put("number", List.of("1", "2"));
    known.put("format", List.of("csv", "xlsx", "json"));
    known.put("wait", List.of("0"));
    known.put("changes", List.of("1"));
    List<String> kinds = new ArrayList<>();
    for (Kind kind : Kind.values()) {
      kinds.add(kind.field());
    }
    known.put("kind", kinds);
  }

  private String encoded(String parameter) {
    List<String> plain = known.get(parameter);
    return plain != null && random.nextInt(5) < 3
        ? URLEncoder.encode(any(plain), StandardCharsets.UTF_8)
        : any(HOSTILE);
  }

  /** A value that fits a schema, or nearly. */
  private String value(JsonNode schema, String name, int deep) {
    if (random.nextInt(8) == 0 || deep > 6) {
      return any(JUNK);
    }
    String reference = schema.path("$ref").asString("");
    if (!reference.isEmpty()) {
      return value(schemas.path(reference.substring(reference.lastIndexOf('/') + 1)), name, deep);
    }
    JsonNode type = schema.path("type");
    String word = type.isArray() ? type.get(0).asString() : type.asString("");
    return switch (word) {
      case "array" -> {
        List<String> items = new ArrayList<>();
        for (int i = random.nextInt(3); i > 0; i--) {
          items.add(value(schema.path("items"), name, deep + 1));
        }
        yield "[" + String.join(",", items) + "]";
      }
      case "integer", "number" -> String.valueOf(random.nextInt(5));
      case "boolean" -> String.valueOf(random.nextBoolean());
      case "object" -> {
        if (schema.path("properties").isEmpty()) {
          yield thing();
        }
        Map<String, String> parts = new LinkedHashMap<>();
        schema
            .get("properties")
            .properties()
            .forEach(it -> {
              if (random.nextInt(4) > 0) {
                parts.put(it.getKey(), value(it.getValue(), it.getKey(), deep + 1));
              }
            });
        yield object(parts);
      }
      default ->
          known.containsKey(name)
              ? JSON.writeValueAsString(any(known.get(name)))
              : any(List.of("\"open\"", "\"csv\"", "\"x\"", any(JUNK)));
    };
  }

  private static String object(Map<String, String> parts) {
    List<String> fields = new ArrayList<>();
    parts.forEach((name, value) -> fields.add(JSON.writeValueAsString(name) + ":" + value));
    return "{" + String.join(",", fields) + "}";
  }

  /** Something like a thing of a model. */
  private String thing() {
    Map<String, String> parts = new LinkedHashMap<>();
    for (String field :
        List.of(
            "key", "name", "account", "members", "kind", "email", "scope", "labels", "window")) {
      if (random.nextBoolean()) {
        parts.put(
            field,
            random.nextInt(3) == 0
                ? any(JUNK)
                : switch (field) {
                  case "account" -> "\"fernwick\"";
                  case "kind" -> "\"person\"";
                  case "members" -> "[\"person:ilse.varga\"," + any(JUNK) + "]";
                  case "scope" -> "[{\"tree\":\"account:fernwick\"}]";
                  case "window" -> "{\"until\":" + any(JUNK) + "}";
                  default -> "\"fuzz-" + random.nextInt(50) + "\"";
                });
      }
    }
    return object(parts);
  }

  /** One call, and what it looked like. */
  private record Call(String method, String path, String body, Map<String, String> headers) {}

  private Call call(Map.Entry<String, JsonNode> path, Map.Entry<String, JsonNode> operation) {
    String address = path.getKey();
    List<String> query = new ArrayList<>();
    for (JsonNode it : operation.getValue().path("parameters")) {
      String name = it.get("name").stringValue();
      String sent = encoded(name);
      if (it.get("in").stringValue().equals("path")) {
        address = address.replace("{" + name + "}", sent.replace("..%2f..", "%20"));
      } else if (it.path("required").asBoolean(false)
          ? random.nextInt(20) > 0
          : random.nextInt(3) == 0) {
        query.add(name + "=" + sent);
      }
    }
    JsonNode content = operation.getValue().path("requestBody").path("content");
    String body = "";
    if (!content.isEmpty()) {
      body =
          random.nextInt(20) == 0
              ? any(List.of("", "{", "nul", "\u0000", "[1,", "\ufeff{}", "{\"a\":1}{"))
              : value(content.iterator().next().path("schema"), "", 0);
    } else if (!operation.getKey().equals("get")) {
      body = any(JUNK);
    }
    Map<String, String> headers = new LinkedHashMap<>();
    if (random.nextInt(12) == 0) {
      headers.put("Content-Type", any(TYPES));
    }
    if (random.nextInt(20) == 0) {
      headers.put("Accept", any(TYPES));
    }
    if (random.nextInt(30) == 0) {
      headers.put("Mandala-As", any(List.of("ilse.varga", " ", "~", "%00")));
      headers.put("Mandala-As-At", any(List.of("never", "+1000000000-12-31T23:59:59Z")));
    }
    return new Call(
        operation.getKey().toUpperCase(Locale.ROOT),
        address + (query.isEmpty() ? "" : "?" + String.join("&", query)),
        body,
        headers);
  }

  @Test
  void nothingIsAnsweredByAFailure() {
    learn();
    JsonNode description = caller("").get("/v3/api-docs").json();
    schemas = description.path("components").path("schemas");
    List<Map.Entry<String, JsonNode>> paths =
        new ArrayList<>(description.get("paths").properties());
    List<Caller> callers =
        List.of(caller(""), caller("ilse.varga"), caller("marten.holloway"), caller("noor.haddad"));
    ListAppender<ILoggingEvent> log = new ListAppender<>();
    Logger root = (Logger) LoggerFactory.getLogger(org.slf4j.Logger.ROOT_LOGGER_NAME);
    log.start();
    root.addAppender(log);
    List<String> failures = new ArrayList<>();
    Map<Integer, Integer> statuses = new TreeMap<>();
    try {
      for (int i = 0; i < CALLS; i++) {
        Map.Entry<String, JsonNode> path = paths.get(i % paths.size());
        Map.Entry<String, JsonNode> operation = any(new ArrayList<>(path.getValue().properties()));
        boolean ends = path.getKey().equals("/api/session") && operation.getKey().equals("delete");
        Caller caller = ends ? callers.getFirst() : any(callers);
        Call call = call(path, operation);
        Caller.Answer answer =
            caller.send(
                call.method(),
                call.path(),
                HttpRequest.BodyPublishers.ofString(call.body()),
                call.headers());
        statuses.merge(answer.status(), 1, Integer::sum);
        boolean told =
            answer.status() < 400
                || call.method().equals("HEAD")
                || (answer.type().startsWith("application/problem+json")
                    && !answer.json().path("title").asString("").isBlank()
                    && !answer.json().path("detail").asString("").isBlank());
        if (answer.status() >= 500 || !told) {
          failures.add(i + ": " + call + " -> " + answer);
        }
      }
    } finally {
      root.detachAppender(log);
    }
    List<String> traces =
        log.list.stream()
            .filter(
                it -> it.getThrowableProxy() != null && it.getLevel().isGreaterOrEqual(Level.INFO))
            .map(it -> it.getFormattedMessage() + " " + it.getThrowableProxy().getMessage())
            .distinct()
            .toList();
    assertThat(failures).as("answers of seed %d, %s", SEED, statuses).isEmpty();
    assertThat(traces).isEmpty();
    assertThat(statuses.getOrDefault(200, 0)).as("%s", statuses).isGreaterThan(CALLS / 20);
  }

  /** Sends a request as it is written, and gives what comes back. */
  private String raw(String request) throws IOException {
    int port = Integer.parseInt(environment.getRequiredProperty("local.server.port"));
    try (Socket socket = new Socket(InetAddress.getLoopbackAddress(), port)) {
      socket.getOutputStream().write(request.getBytes(StandardCharsets.ISO_8859_1));
      socket.shutdownOutput();
      return new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    }
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "GET /error HTTP/1.1",
        "GET /error?x=%ff HTTP/1.1",
        "POST /error HTTP/1.1",
        "GET /api/people?text=%zz HTTP/1.1",
        "GET /api/people?text=%e4 HTTP/1.1",
        "GET /api/people?%00=1 HTTP/1.1",
        "GET /api/rights/people/%ff HTTP/1.1",
        "GET /api/rights/people/%20 HTTP/1.1",
        "GET /api/rights/people/a;b HTTP/1.1",
        "GET /api/../error HTTP/1.1",
        "GET //api//people HTTP/1.1",
        "GET /api/session HTTP/1.1\r\nAccept: nonsense",
        "GET /api/session HTTP/1.1\r\nCookie: MANDALA=AAAA; XSRF-TOKEN=%00",
        "GET /api/session HTTP/1.1\r\nCookie: MANDALA=\u00ff\u00fe",
        "POST /api/session HTTP/1.1\r\nContent-Type: */*\r\nContent-Length: 2\r\n\r\n{}",
        "OPTIONS * HTTP/1.1",
        "TRACE /api/session HTTP/1.1"
      })
  void oddRequestsAreAnsweredInWords(String line) throws IOException {
    boolean whole = line.contains("\r\n\r\n");
    String host = "\r\nHost: 127.0.0.1\r\nConnection: close";
    int end = line.indexOf("\r\n");
    String request =
        end < 0
            ? line + host + "\r\n\r\n"
            : line.substring(0, end) + host + line.substring(end) + (whole ? "" : "\r\n\r\n");
    String answer = raw(request);
    assertThat(answer).startsWith("HTTP/1.1 ").doesNotStartWith("HTTP/1.1 5");
    assertThat(answer).doesNotContain("<html").doesNotContain("\tat ");
    if (answer.startsWith("HTTP/1.1 4")) {
      assertThat(answer).contains("application/problem+json").contains("\"detail\"");
    }
  }
}
