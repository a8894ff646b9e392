package mandala.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import mandala.core.model.key.PrincipalKey;
import mandala.server.session.DemoCredentials;
import org.springframework.core.env.Environment;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Somebody who calls the API as a browser does: with cookies and the protection token. */
public final class Caller {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final CookieManager cookies;
  private final HttpClient client;
  private final String address;
  private final String eyes;
  private final String token;

  /** Calls the server of a test context. */
  public Caller(Environment environment) {
    cookies = new CookieManager();
    client =
        HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).cookieHandler(cookies).build();
    eyes = "";
    token = "";
    address = "http://127.0.0.1:" + environment.getProperty("local.server.port");
    get("/api/session");
  }

  /** {@return a demo person signed in}, with a second factor where enrolled */
  public static Caller as(String principal, Environment environment) {
    Caller caller = new Caller(environment);
    for (JsonNode person : caller.get("/api/demo/people").json()) {
      if (person.get("key").stringValue().equals(principal)) {
        Answer answer =
            caller.signIn(principal, DemoCredentials.PASSWORD, person.path("code").asString(""));
        assertThat(answer.status()).as(answer.body()).isEqualTo(200);
        return caller;
      }
    }
    Answer answer =
        caller.signIn(new PrincipalKey(principal).value(), DemoCredentials.PASSWORD, "");
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    return caller;
  }

  /** A verb that tells the reader of a refusal what to do next. */
  private static final Pattern NEXT_STEP =
      Pattern.compile(
          "(^|[.:;,] )(then )?(Add|Apply|Ask|Assign|Begin|Change|Check|Choose|Compare|Correct|Encode|Enrol|Export"
              + "|Fix|Give|Hand|Import|Leave|Look|Make|Name|Narrow|Open|Read|Reload|Remove|Retire|Send|Sign"
              + "|Split|Start|Try|Type|Use|Wait|Write|Copy|Confirm)\\b",
          Pattern.CASE_INSENSITIVE);

  /**
   * What came back; of a file what can be read in it. Every refusal says what is wrong in its
   * title, and what to do next.
   */
  public record Answer(int status, String type, String body) {
    /** Holds refusals to their parts. */
    public Answer {
      if (type.startsWith("application/problem+json")) {
        JsonNode problem = JSON.readTree(body);
        String detail = problem.path("detail").asString("");
        assertThat(problem.path("title").asString("")).as(body).isNotBlank().doesNotEndWith(".");
        assertThat(detail).as(body).endsWith(".");
        assertThat(detail).as("the next step in: %s", body).containsPattern(NEXT_STEP);
      }
    }

    /** {@return the body as JSON} */
    public JsonNode json() {
      return JSON.readTree(body);
    }
  }

  /** {@return the same session, looking with another's eyes, with a second factor} */
  public Caller seeingAs(String principal) {
    Answer begun = send("POST", "/api/views", "{\"principal\":\"" + principal + "\"}");
    assertThat(begun.status()).as(begun.body()).isEqualTo(200);
    return new Caller(this, principal);
  }

  /** {@return a program that calls with a token} */
  public static Caller withToken(String secret, Environment environment) {
    return new Caller(secret, environment);
  }

  private Caller(String secret, Environment environment) {
    cookies = new CookieManager();
    client = HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();
    eyes = "";
    token = secret;
    address = "http://127.0.0.1:" + environment.getProperty("local.server.port");
  }

  /** {@return the same, without having begun a view} */
  public Caller pretendingToSeeAs(String principal) {
    return new Caller(this, principal);
  }

  private Caller(Caller own, String principal) {
    address = own.address;
    cookies = own.cookies;
    client = own.client;
    eyes = principal;
    token = "";
  }

  public Answer signIn(String name, String password, String code) {
    return send(
        "POST",
        "/api/session",
        JSON.writeValueAsString(Map.of("name", name, "password", password, "code", code)));
  }

  public Answer get(String path) {
    return send("GET", path, "");
  }

  public Answer send(String method, String path, String body) {
    return send(method, path, HttpRequest.BodyPublishers.ofString(body));
  }

  /** Calls with the protection token that the cookie tells. */
  public Answer send(String method, String path, HttpRequest.BodyPublisher body) {
    return send(method, path, body, Map.of());
  }

  /** Calls with further headers. */
  public Answer send(
      String method, String path, HttpRequest.BodyPublisher body, Map<String, String> headers) {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(address + path))
            .method(method, method.equals("GET") ? HttpRequest.BodyPublishers.noBody() : body)
            .header("Content-Type", "application/json");
    headers.forEach(request::setHeader);
    if (!token.isEmpty()) {
      request.header("Authorization", "Bearer " + token);
    }
    if (!eyes.isEmpty()) {
      request.header("Mandala-As", eyes).header("Mandala-As-Factor", "1");
    }
    cookie("XSRF-TOKEN").ifPresent(token -> request.header("X-XSRF-TOKEN", token));
    return sent(request.build());
  }

  /** {@return a file, byte by byte} */
  public byte[] file(String path) {
    try {
      HttpResponse<byte[]> response =
          client.send(
              HttpRequest.newBuilder(URI.create(address + path)).build(),
              HttpResponse.BodyHandlers.ofByteArray());
      assertThat(response.statusCode()).as(path).isEqualTo(200);
      return response.body();
    } catch (IOException e) {
      throw new AssertionError(path + " failed", e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new AssertionError(e);
    }
  }

  /** Calls as a foreign page would: with the cookies but without the token. */
  public Answer sendUnprotected(String method, String path) {
    return sent(
        HttpRequest.newBuilder(URI.create(address + path))
            .method(method, HttpRequest.BodyPublishers.ofString("{}"))
            .header("Content-Type", "application/json")
            .build());
  }

  private Answer sent(HttpRequest request) {
    try {
      HttpResponse<byte[]> response = client.send(request, HttpResponse.BodyHandlers.ofByteArray());
      String type = response.headers().firstValue("Content-Type").orElse("");
      return new Answer(response.statusCode(), type, FileText.of(type, response.body()));
    } catch (IOException e) {
      throw new AssertionError(request + " failed", e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new AssertionError(e);
    }
  }

  /** {@return a job that a call begins}, when it is over */
  public JsonNode job(String path, String body) {
    return job(send("POST", path, body));
  }

  /** {@return a job that a call began}, when it is over */
  public JsonNode job(Answer begun) {
    if (begun.status() != 200) {
      throw new AssertionError(begun.status() + " " + begun.body());
    }
    String id = begun.json().get("id").stringValue();
    Patience.await().until(() -> !List.of("waiting", "running").contains(state("/api/jobs/" + id)));
    return get("/api/jobs/" + id).json();
  }

  private String state(String path) {
    return get(path).json().get("state").stringValue();
  }

  public java.util.Optional<String> cookie(String name) {
    return cookies.getCookieStore().getCookies().stream()
        .filter(cookie -> cookie.getName().equals(name))
        .map(HttpCookie::getValue)
        .findFirst();
  }
}
