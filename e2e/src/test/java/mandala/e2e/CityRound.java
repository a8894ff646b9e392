package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import mandala.core.model.key.PrincipalKey;
import mandala.server.model.LiveModel;
import mandala.server.review.ReviewSetup;
import org.springframework.jdbc.core.JdbcTemplate;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A round over a whole city: made, read, and decided by many reviewers at the same time. */
final class CityRound {

  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final int REVIEWERS = 200;
  private static final int DECISIONS = 5;

  private final Application application;
  private final PrincipalKey owner;
  private final JdbcTemplate database;

  CityRound(Application application, PrincipalKey owner) {
    this.application = application;
    this.owner = owner;
    database = application.part(JdbcTemplate.class);
  }

  void run() throws InterruptedException {
    Instant now = Instant.now();
    long start = System.nanoTime();
    long round =
        application
            .part(ReviewSetup.class)
            .begin(
                new ReviewSetup.Plan(
                    "Everything",
                    List.of(
                        "people",
                        "guests",
                        "services",
                        "groups",
                        "roles",
                        "patterns",
                        "everybody",
                        "bridges",
                        "delegations",
                        "exemptions",
                        "owners"),
                    List.of(),
                    "low",
                    List.of("manager", "place-owner", "thing-owner", "person:" + owner),
                    now,
                    now.plus(Duration.ofDays(14)),
                    1,
                    owner.value()),
                application.part(LiveModel.class).state(),
                now);
    CityTest.say(
        "a round of %d items is made in %.1f s",
        count("select count(*) from review_item where round = " + round), CityTest.seconds(start));
    database.execute("analyze review_item");
    plans(round);
    many(round, reviewers(round));
  }

  private long count(String sql) {
    return Objects.requireNonNull(database.queryForObject(sql, Long.class));
  }

  /** How the database finds what the pages ask for. */
  private void plans(long round) {
    String someone =
        Objects.requireNonNull(
            database.queryForObject(
                "select decider from review_item where round = ? and decider is not null"
                    + " group by 1 order by count(*) desc offset 20 limit 1",
                String.class,
                round));
    List<String> asked =
        List.of(
            "select * from review_item where decider = '%s' and round = %d order by number",
            "select round, count(*) from review_item where decider = '%s' and state = 'open'"
                + " and round >= %d group by 1",
            "select * from review_item where about = '%s' and round = %d and about_kind ="
                + " 'principals' order by number",
            "select decided_by, decided_at from review_item where decided_by = '%s' and round = %d");
    asked.forEach(sql -> {
      String with = sql.formatted(someone, round);
      CityTest.say("PLAN %s", with.replaceAll("'p-[^']*'", "?"));
      database
          .queryForList(
              "explain (analyze, costs off, summary off, timing off) " + with, String.class)
          .forEach(line -> CityTest.say("PLAN   %s", line));
    });
  }

  /** Reviewers with items of their own, who can sign in as the owner does. */
  private List<String> reviewers(long round) {
    List<String> some =
        database.queryForList(
            "select decider from review_item where round = ? and decider is not null and decider"
                + " <> ? group by 1 having count(*) >= ? order by count(*) desc limit ?",
            String.class,
            round,
            owner.value(),
            DECISIONS,
            REVIEWERS);
    for (String it : some) {
      database.update(
          "insert into credential (principal, password_hash, totp_secret)"
              + " select ?, password_hash, null from credential where principal = ?"
              + " on conflict do nothing",
          it,
          owner.value());
    }
    return some;
  }

  /** What all reviewers waited for, in milliseconds. */
  private record Waited(
      Queue<Double> pages,
      Queue<Double> evidence,
      Queue<Double> decisions,
      Queue<Double> effects,
      Queue<Double> refused) {}

  private void many(long round, List<String> reviewers) throws InterruptedException {
    List<Caller> callers = new ArrayList<>();
    for (String it : reviewers) {
      callers.add(new Caller(it));
    }
    Waited alone = waited();
    callers.stream().limit(20).forEach(it -> decide(round, it, alone, 0));
    tell("one reviewer after the other", alone);
    Waited together = waited();
    long start = System.nanoTime();
    List<Future<?>> running = new ArrayList<>();
    try (ExecutorService each = Executors.newVirtualThreadPerTaskExecutor()) {
      callers.forEach(it -> running.add(each.submit(() -> decide(round, it, together, 1))));
    }
    assertThat(running).allSatisfy(it -> assertThat(it.state()).isEqualTo(Future.State.SUCCESS));
    CityTest.say(
        "%d reviewers at once: %.1f s for %d decisions",
        callers.size(), CityTest.seconds(start), together.decisions().size());
    tell("many at once", together);
    assertThat(
            count("select count(*) from review_item where state = 'decided' and round = " + round))
        .as("no decision is lost")
        .isEqualTo(alone.decisions().size() + together.decisions().size());
  }

  private static Waited waited() {
    return new Waited(
        new ConcurrentLinkedQueue<>(),
        new ConcurrentLinkedQueue<>(),
        new ConcurrentLinkedQueue<>(),
        new ConcurrentLinkedQueue<>(),
        new ConcurrentLinkedQueue<>());
  }

  private static void tell(String how, Waited it) {
    CityTest.say("%s, their items: %s", how, spread(it.pages()));
    CityTest.say("%s, an item with its evidence: %s", how, spread(it.evidence()));
    CityTest.say("%s, a decision: %s", how, spread(it.decisions()));
    CityTest.say("%s, what the decisions do together: %s", how, spread(it.effects()));
    CityTest.say("%s, refused because the server was busy: %d", how, it.refused().size());
  }

  private static String spread(Queue<Double> times) {
    return CityTest.spread(times.stream().mapToDouble(it -> it).toArray());
  }

  /** Looks at what waits for somebody, and decides some of it as it is recommended. */
  private static void decide(long round, Caller caller, Waited waited, int turn) {
    JsonNode mine = caller.timed("GET", "/api/reviews/" + round + "/items", "", waited.pages());
    JsonNode items = mine.get("items");
    int from = turn * DECISIONS / 2;
    for (int i = from; i < from + DECISIONS / 2 && i < items.size(); i++) {
      String path = "/api/reviews/" + round + "/items/" + items.get(i).get("number").intValue();
      JsonNode item = caller.timed("GET", path, "", waited.evidence());
      String verdict =
          item.at("/row/recommended").stringValue("keep").equals("remove") ? "remove" : "keep";
      caller.timed(
          "PUT",
          path + "/decision",
          "{\"verdict\":\"%s\",\"facts\":\"%s\",\"reason\":\"Needed for the work\"}"
              .formatted(verdict, item.at("/facts").stringValue("")),
          waited.decisions());
      caller.effect(round, waited);
    }
  }

  /** Somebody at a browser of their own. */
  private final class Caller {

    private final CookieManager cookies = new CookieManager();
    private final HttpClient client = HttpClient.newBuilder().cookieHandler(cookies).build();

    Caller(String who) {
      send("GET", "/api/session", "");
      HttpResponse<String> signedIn =
          send(
              "POST",
              "/api/session",
              "{\"name\": \"%s\", \"password\": \"%s\", \"code\": \"\"}"
                  .formatted(who, CityTest.PASSWORD));
      assertThat(signedIn.statusCode()).as(signedIn.body()).isEqualTo(200);
    }

    private HttpResponse<String> send(String method, String path, String body) {
      HttpRequest.Builder request =
          HttpRequest.newBuilder(URI.create(application.address() + path))
              .header("Content-Type", "application/json")
              .method(method, HttpRequest.BodyPublishers.ofString(body));
      cookies.getCookieStore().getCookies().stream()
          .filter(it -> it.getName().equals("XSRF-TOKEN"))
          .forEach(it -> request.header("X-XSRF-TOKEN", it.getValue()));
      try {
        return client.send(request.build(), HttpResponse.BodyHandlers.ofString());
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new IllegalStateException(e);
      }
    }

    JsonNode timed(String method, String path, String body, Queue<Double> into) {
      long start = System.nanoTime();
      HttpResponse<String> answer = send(method, path, body);
      into.add(CityTest.seconds(start) * 1e3);
      assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
      return JSON.readTree(answer.body());
    }

    /** What the decisions do together; a server with much to do may say that it is busy. */
    void effect(long round, Waited waited) {
      long start = System.nanoTime();
      HttpResponse<String> answer = send("GET", "/api/reviews/" + round + "/effect", "");
      if (answer.statusCode() == 200) {
        waited.effects().add(CityTest.seconds(start) * 1e3);
      } else {
        assertThat(answer.headers().firstValue("Retry-After")).as(answer.body()).isPresent();
        waited.refused().add(CityTest.seconds(start) * 1e3);
      }
    }
  }
}
