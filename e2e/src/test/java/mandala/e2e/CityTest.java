package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.CookieManager;
import java.net.ServerSocket;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicBoolean;
import mandala.bench.Settlement;
import mandala.bench.Size;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.excess.UseRecord;
import mandala.core.excess.UseWindow;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Term;
import mandala.core.model.Thing;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.present.Access;
import mandala.core.question.Session;
import mandala.server.finding.FindingLook;
import mandala.server.model.LiveModel;
import mandala.server.session.Credentials;
import mandala.server.session.DemoCredentials;
import mandala.server.use.UseSetup;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIfSystemProperty;
import org.springframework.jdbc.core.JdbcTemplate;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * The whole server with a city of a hundred thousand people: how long it takes to start on it, what
 * it weighs, and what the screens' calls take. Takes minutes, so it runs when asked: {@code
 * ./mandala city}.
 */
@EnabledIfSystemProperty(named = "mandala.city", matches = "[a-zA-Z]+")
class CityTest {

  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final String DATABASE = "city";
  static final String PASSWORD = "city-of-many";
  private final Size size =
      Size.valueOf(System.getProperty("mandala.city").toUpperCase(Locale.ROOT));
  private final CookieManager cookies = new CookieManager();
  private final HttpClient client = HttpClient.newBuilder().cookieHandler(cookies).build();

  static void say(String what, Object... values) {
    System.out.printf(Locale.ROOT, "CITY " + what + "%n", values);
  }

  /** Each step takes minutes; one may be asked for alone. */
  private static boolean isWanted(String step) {
    String only = System.getProperty("mandala.city.step", "");
    return only.isEmpty() || only.equals(step);
  }

  static double seconds(long since) {
    return (System.nanoTime() - since) / 1e9;
  }

  private static long heapMegabytes() {
    for (int i = 0; i < 4; i++) {
      System.gc();
    }
    return (Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory()) >> 20;
  }

  /** Fills the database; what was generated is not kept. {@return who may see all of it} */
  private PrincipalKey fill() {
    AccessModel model = Settlement.of(size, 1);
    Principal owner =
        model.principals().stream()
            .filter(it ->
                it.kind() == Principal.Kind.PERSON
                    && it.status() == Principal.Status.ACTIVE
                    && it.window().equals(Window.ALWAYS)
                    && it.mfa())
            .findFirst()
            .orElseThrow();
    List<Thing> owning = new ArrayList<>();
    for (Account account : model.accounts()) {
      if (account.parent() == null) {
        if (!account.key().equals(owner.account())) {
          owning.add(new Guest(About.NONE, owner.key(), account.key(), true, Window.ALWAYS, null));
        }
        owning.add(
            new Assignment(
                new AssignmentKey("owner-of-" + account.key()),
                About.NONE,
                new Subject.OfPrincipal(owner.kind(), owner.key()),
                new Gives.OfRole(Supplied.OWNER),
                Assignment.Effect.ALLOW,
                List.of(Clause.of(new Term.Tree(ResourceKey.of(account.key())))),
                List.of(),
                Window.ALWAYS,
                Assignment.Mode.STANDING,
                true));
      }
    }
    AccessModel.Builder all = AccessModel.builder().addAll(owning);
    for (Kind kind : Kind.values()) {
      model.things(kind).stream().filter(it -> !isGuest(it, owner)).forEach(all::add);
    }
    all.add(tenThousand(model));
    AccessModel city = all.build();
    try (Application application = Application.start(DATABASE, false)) {
      long start = System.nanoTime();
      Credentials credentials = application.part(Credentials.class);
      String hash = credentials.hash(PASSWORD);
      application
          .part(LiveModel.class)
          .replace(
              city,
              true,
              entities ->
                  credentials.keep(
                      entities, owner.key(), hash, DemoCredentials.secretOf(owner.key())));
      say("%d things written in %.1f s", city.size(), seconds(start));
    }
    return owner.key();
  }

  /** A group that lists ten thousand people, as no generated one does. */
  private static Group tenThousand(AccessModel model) {
    return new Group(
        new GroupKey("ten-thousand"),
        About.NONE,
        model.accounts().getFirst().key(),
        false,
        model.principals().stream()
            .limit(10_000)
            .map(it -> (Group.Member) new Group.Member.OfPrincipal(it.kind(), it.key()))
            .toList(),
        null,
        List.of());
  }

  /** The owner's own guest memberships make room for those of an owner. */
  private static boolean isGuest(Thing thing, Principal owner) {
    return thing instanceof Guest guest && guest.principal().equals(owner.key());
  }

  private HttpResponse<String> send(Application application, String path, String body)
      throws IOException, InterruptedException {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(application.address() + path))
            .header("Content-Type", "application/json");
    cookies.getCookieStore().getCookies().stream()
        .filter(it -> it.getName().equals("XSRF-TOKEN"))
        .forEach(it -> request.header("X-XSRF-TOKEN", it.getValue()));
    return client.send(
        (body.isEmpty() ? request.GET() : request.POST(HttpRequest.BodyPublishers.ofString(body)))
            .build(),
        HttpResponse.BodyHandlers.ofString());
  }

  private JsonNode people(Application application, int offset)
      throws IOException, InterruptedException {
    return JSON.readTree(send(application, "/api/people?limit=50&offset=" + offset, "").body());
  }

  private void ask(Application application, String what, List<String> paths)
      throws IOException, InterruptedException {
    double[] took = new double[paths.size()];
    long characters = 0;
    for (int i = -3; i < took.length; i++) {
      long start = System.nanoTime();
      HttpResponse<String> answer =
          send(application, paths.get(Math.floorMod(i, paths.size())), "");
      assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
      if (i >= 0) {
        took[i] = seconds(start) * 1e3;
        characters += answer.body().length();
      }
    }
    say("%s: %s, %d kB each", what, spread(took), characters / took.length / 1000);
  }

  /** {@return median, nearly worst and worst of some times}, in milliseconds */
  static String spread(double[] took) {
    double[] sorted = took.clone();
    Arrays.sort(sorted);
    return String.format(
        Locale.ROOT,
        "median %.0f ms, 95 of 100 within %.0f ms, slowest of %d %.0f ms",
        sorted[sorted.length / 2],
        sorted[Math.min(sorted.length - 1, sorted.length * 95 / 100)],
        sorted.length,
        sorted[sorted.length - 1]);
  }

  private static int freePort() throws IOException {
    try (ServerSocket socket = new ServerSocket(0)) {
      return socket.getLocalPort();
    }
  }

  /** Notes what the health page says until the server is ready. */
  private static void watch(String address, Set<String> told, AtomicBoolean ready) {
    HttpClient anybody = HttpClient.newHttpClient();
    HttpRequest health = HttpRequest.newBuilder(URI.create(address + "/actuator/health")).build();
    await()
        .atMost(Duration.ofHours(1))
        .pollInterval(Duration.ofMillis(20))
        .ignoreExceptionsInstanceOf(IOException.class) // it does not listen yet
        .until(() -> {
          // how far it is, only who may is told; that it is not ready, everybody
          String body = anybody.send(health, HttpResponse.BodyHandlers.ofString()).body();
          if (!body.contains("\"UP\"")) {
            told.add(body);
          }
          return ready.get();
        });
  }

  @Test
  void aCityIsReadAndTheScreensAnswer() throws IOException, InterruptedException {
    PrincipalKey owner = fill();
    long before = heapMegabytes();
    int port = freePort();
    String address = "http://127.0.0.1:" + port;
    Set<String> told = ConcurrentHashMap.newKeySet();
    AtomicBoolean ready = new AtomicBoolean();
    Thread watch = Thread.ofVirtual().start(() -> watch(address, told, ready));
    long start = System.nanoTime();
    try (Application application = Application.on(DATABASE, false, port)) {
      HttpResponse<String> first = send(application, "/api/session", "");
      assertThat(first.statusCode()).isEqualTo(200);
      say("the first answer %.1f s after the start", seconds(start));
      ready.set(true);
      watch.join();
      say("until it was ready the health page said: %s", told);
      say("heap afterwards %d MB, %d MB before the start", heapMegabytes(), before);
      HttpResponse<String> signedIn =
          send(
              application,
              "/api/session",
              "{\"name\": \"%s\", \"password\": \"%s\", \"code\": \"%s\"}"
                  .formatted(
                      owner,
                      PASSWORD,
                      application.part(Credentials.class).demoCode(owner, Instant.now())));
      assertThat(signedIn.statusCode()).as(signedIn.body()).isEqualTo(200);
      Random random = new Random(4);
      List<String> people = new ArrayList<>();
      List<String> asked = new ArrayList<>();
      int all = people(application, 0).get("total").intValue();
      for (int i = 0; i < 40; i++) {
        int offset = random.nextInt(all - 50);
        people.add("/api/people?limit=50&offset=" + offset);
        for (JsonNode row : people(application, offset).get("rows")) {
          if (!row.path("figure").isNull() && asked.size() <= i) {
            asked.add(
                "/api/ask/access?principal=%s&in=%s"
                    .formatted(row.get("key").stringValue(), row.get("account").stringValue()));
          }
        }
      }
      say("the owner sees %d people", all);
      ask(application, "People, fifty of all with their mandalas", people);
      ask(
          application,
          "People, by a word",
          List.of("/api/people?text=" + URLEncoder.encode("p-77", StandardCharsets.UTF_8)));
      ask(application, "Ask, somebody's access in the home account", asked);
      if (isWanted("people")) {
        people(application);
      }
      if (isWanted("findings")) {
        findings(application);
      }
      if (isWanted("round")) {
        new CityRound(application, owner).run();
      }
      if (isWanted("drafts")) {
        drafts(application);
        seal(application, owner);
      }
      say("heap at the end %d MB", heapMegabytes());
    }
  }

  /** Every filter, order and grouping of the list of people, and the plans of what it reads. */
  private void people(Application application) throws IOException, InterruptedException {
    Catalogue catalogue = application.part(LiveModel.class).engine().catalogue();
    JdbcTemplate database = application.part(JdbcTemplate.class);
    // half of them were seen within a year, as would be in use
    database.update(
        "insert into seen (principal, at) select key, now() - random() * interval '365 days'"
            + " from principal where random() < 0.5 on conflict do nothing");
    database.execute("analyze");
    String account = catalogue.model().accounts().getLast().key().value();
    String unit = catalogue.units().keySet().iterator().next().value();
    String role = catalogue.roles().keySet().iterator().next().value();
    String manager =
        catalogue.principals().values().stream()
            .filter(it -> it.manager() != null)
            .map(it -> String.valueOf(it.manager()))
            .findFirst()
            .orElseThrow();
    for (String filter :
        List.of(
            "state=active",
            "state=suspended,left",
            "kind=guest",
            "account=" + account,
            "unit=" + unit,
            "group=ten-thousand",
            "role=" + role,
            "manager=" + manager,
            "manager=-",
            "unseen=90",
            "factor=no",
            "signIn=none",
            "ends=30",
            "sort=-seen",
            "sort=unit",
            "sort=title",
            "group=ten-thousand&state=active&factor=yes&unseen=90&sort=-seen")) {
      ask(
          application,
          "People, " + filter,
          List.of("/api/people?limit=50&" + filter, "/api/people?limit=50&offset=5000&" + filter));
    }
    for (String by : List.of("account", "unit", "manager", "role", "group")) {
      ask(application, "People, grouped by " + by, List.of("/api/people/groups?by=" + by));
    }
    for (String query :
        List.of(
            "select principal, at, number from seen where number > 1000000000 order by number",
            "select principal from credential",
            "select totp_secret is not null from credential where principal = 'p-77'")) {
      say("plan of %s: %s", query, database.queryForList("explain analyze " + query, String.class));
    }
  }

  /** Use of everybody, all detectors with it as their work does it, and Checks afterwards. */
  private void findings(Application application) throws IOException, InterruptedException {
    LiveModel model = application.part(LiveModel.class);
    Engine engine = model.engine();
    LocalDate today = LocalDate.now(ZoneOffset.UTC);
    UseSetup use = application.part(UseSetup.class);
    Map<AccountKey, List<UseRecord>> used = used(engine, today);
    long start = System.nanoTime();
    int records = 0;
    for (Account root : engine.catalogue().accounts().values()) {
      if (root.parent() == null) {
        String source = "use-of-" + root.key();
        List<UseRecord> its = used.getOrDefault(root.key(), List.of());
        use.source(
            source,
            source,
            root.key(),
            engine.catalogue().permissions().keySet(),
            today.minusDays(UseWindow.MOST));
        use.take(source, its, engine.catalogue());
        records += its.size();
      }
    }
    say("%d rights in use taken in after %.1f s", records, seconds(start));
    start = System.nanoTime();
    boolean looked = application.part(FindingLook.class).doWhereChanged();
    say("all detectors: %.1f s (%s), %d MB of heap", seconds(start), looked, heapMegabytes());
    JsonNode list = JSON.readTree(send(application, "/api/findings?state=any", "").body());
    say("%d findings, of kinds: %s", list.get("total").intValue(), list.get("kinds"));
    ask(application, "Checks, the worst", List.of("/api/findings"));
    ask(
        application,
        "Checks, filtered",
        List.of("/api/findings?harm=excess&risk=critical", "/api/findings?text=p-77"));
    String one = list.get("findings").get(0).get("id").stringValue();
    ask(
        application,
        "Checks, one finding with its remedies",
        List.of("/api/findings/one?id=" + URLEncoder.encode(one, StandardCharsets.UTF_8)));
  }

  /** By root account: some rights of everybody, used on some day of the last half year. */
  private static Map<AccountKey, List<UseRecord>> used(Engine engine, LocalDate today) {
    Catalogue catalogue = engine.catalogue();
    List<PermissionKey> permissions = List.copyOf(catalogue.permissions().keySet());
    Random random = new Random(5);
    Map<AccountKey, List<UseRecord>> used = new HashMap<>();
    for (Principal who : catalogue.principals().values()) {
      Access access = engine.accessAfresh(new Session(who.key(), Instant.now(), true, null));
      for (int i = 0; i < 16; i++) {
        PermissionKey what = permissions.get(random.nextInt(permissions.size()));
        for (Access.Interval some : access.intervals(what).stream().limit(1).toList()) {
          AccountKey account = catalogue.accountOf(some.first());
          used.computeIfAbsent(root(account, catalogue), _ -> new ArrayList<>())
              .add(
                  new UseRecord(
                      who.key(),
                      what,
                      some.first(),
                      today.minusDays(1 + random.nextInt(170)),
                      1,
                      null));
        }
      }
    }
    return used;
  }

  private static AccountKey root(@Nullable AccountKey account, Catalogue catalogue) {
    Account at = catalogue.accounts().get(Objects.requireNonNull(account));
    while (at != null && at.parent() != null) {
      at = catalogue.accounts().get(at.parent());
    }
    return Objects.requireNonNull(at).key();
  }

  private static String gives(Gives gives) {
    return switch (gives) {
      case Gives.OfRole(RoleKey key) -> "role:" + key;
      case Gives.OfSet(PermissionSetKey key) -> "set:" + key;
      case Gives.OfPermission(PermissionKey key) -> "permission:" + key;
    };
  }

  /** Edits that touch few and many: the edit with its judgement, and the impact on everybody. */
  private void drafts(Application application) throws IOException, InterruptedException {
    Engine engine = application.part(LiveModel.class).engine();
    List<Group> groups =
        engine.catalogue().groups().values().stream()
            .filter(it -> it.rule() == null && !it.retired())
            .sorted(Comparator.comparingInt(it -> it.members().size()))
            .toList();
    Group large = groups.getLast();
    Group middle =
        groups.stream().filter(it -> it.members().size() >= 400).findFirst().orElse(large);
    Assignment like = engine.catalogue().assignments().values().iterator().next();
    for (Group group : List.of(middle, large)) {
      String edit =
          "{\"edits\":[{\"kind\":\"assignments\",\"after\":{\"subject\":\"group:%s\",\"gives\":\"%s\","
                  .formatted(group.key(), gives(like.gives()))
              + "\"scope\":[{\"account\":\"%s\"}]}}]}".formatted(group.account());
      for (int round = 0; round < 3; round++) {
        long start = System.nanoTime();
        HttpResponse<String> edited = send(application, "/api/drafts/open/edits", edit);
        assertThat(edited.statusCode()).as(edited.body()).isEqualTo(200);
        double took = seconds(start);
        JsonNode impact;
        do {
          impact =
              JSON.readTree(send(application, "/api/drafts/open/impact?wait=10000", "").body());
        } while (impact.get("state").stringValue().equals("running"));
        say(
            "an edit for a group with %d members: answered in %.0f ms, its impact on %d people"
                + " after %.0f ms: %s",
            group.members().size(),
            took * 1e3,
            impact.get("of").intValue(),
            seconds(start) * 1e3,
            impact.get("summary").stringValue());
        start = System.nanoTime();
        send(application, "/api/drafts/open", "");
        say("the draft's page, with whether a second person must approve: %.1f s", seconds(start));
      }
      ask(
          application,
          "a group's page, " + group.members().size() + " members",
          List.of("/api/rights/groups/" + group.key() + "?draft=open"));
    }
  }

  /** A seal is judged and applied; meanwhile others change the model and read it. */
  private void seal(Application application, PrincipalKey owner)
      throws IOException, InterruptedException {
    LiveModel model = application.part(LiveModel.class);
    JdbcTemplate database = application.part(JdbcTemplate.class);
    database.update("update draft set state = 'discarded' where state in ('open', 'aside')");
    Resource place = model.engine().catalogue().model().resources().getFirst();
    String edit =
        "{\"edits\":[{\"kind\":\"resources\",\"key\":\"%s\",\"set\":{\"sealed\":%s}}]}"
            .formatted(place.key(), !place.sealed());
    HttpResponse<String> edited = send(application, "/api/drafts/open/edits", edit);
    assertThat(edited.statusCode()).as(edited.body()).isEqualTo(200);
    String content = JSON.readTree(edited.body()).at("/draft/content").stringValue();
    database.update("update credential set totp_last_step = -1");
    String code = application.part(Credentials.class).demoCode(owner, Instant.now());
    String proof = "{\"content\":\"%s\",\"proof\":\"%s\"}".formatted(content, code);
    long start = System.nanoTime();
    CompletableFuture<HttpResponse<String>> applied =
        CompletableFuture.supplyAsync(
            () -> {
              try {
                return send(application, "/api/drafts/open/apply", proof);
              } catch (IOException e) {
                throw new UncheckedIOException(e);
              } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                throw new IllegalStateException(e);
              }
            },
            Thread::startVirtualThread);
    double longestChange = 0;
    double longestRead = 0;
    int changes = 0;
    while (!applied.isDone()) {
      long at = System.nanoTime();
      send(application, "/api/people?limit=20", "");
      longestRead = Math.max(longestRead, seconds(at));
      if (changes == 0) { // one revision in between: the seal is judged once more
        at = System.nanoTime();
        Group group = model.engine().catalogue().groups().values().iterator().next();
        Group renamed =
            new Group(
                group.key(),
                About.named("Renamed meanwhile"),
                group.account(),
                group.retired(),
                group.members(),
                group.rule(),
                group.owners());
        model.change(List.of(new Change.Altered(group, renamed)));
        longestChange = Math.max(longestChange, seconds(at));
        changes++;
      }
    }
    HttpResponse<String> answer = applied.join();
    say(
        "a seal on %s: %d after %.1f s; meanwhile %d change of others waited %.1f s at most, a page"
            + " %.1f s",
        place.key(), answer.statusCode(), seconds(start), changes, longestChange, longestRead);
    assertThat(answer.statusCode()).as(answer.body()).isIn(200, 409);
  }
}
