package mandala.server.reconcile;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.net.http.HttpRequest.BodyPublishers;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import mandala.core.change.Change;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.demo.Larkmoor;
import mandala.server.Altered;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.MovableClock;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.annotation.Import;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** What another system holds is compared, again and again, and each difference is settled. */
@ApiTest
@Import(MovableClock.Moves.class)
@DirtiesContext
class SystemApiTest {

  private static final String SYSTEM = "/api/systems/loans-desk";
  private static final String CORIN = "extra corin.bladen desk.open";
  private static final String PETRA = "missing petra.lowe loan.approve";

  private static final String ORDER =
      """
      {"name": "Loans desk", "account": "quillhaven", "identity": "user",
       "entitlement": "level", "place": "site"}
      """;

  @Autowired private Environment environment;
  @Autowired private LiveModel model;
  @Autowired private JdbcTemplate database;
  @Autowired private MovableClock clock;

  @BeforeEach
  void noSystemYet() {
    clock.reset();
    database.update("delete from connected_system");
    database.update("delete from sign_in_throttle");
  }

  private Caller as(String who) {
    database.update("update credential set totp_last_step = -1");
    return Caller.as(who, environment);
  }

  private static JsonNode ok(Caller.Answer answer) {
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    return answer.json();
  }

  private static String sample(String name) {
    try (InputStream in = Objects.requireNonNull(Larkmoor.class.getResourceAsStream(name), name)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new AssertionError(e);
    }
  }

  private static Caller.Answer table(Caller who, String path, String table) {
    return who.send(
        "POST", SYSTEM + path, BodyPublishers.ofString(table), Map.of("Content-Type", "text/csv"));
  }

  /** Connects the loans desk, with the terms that come with the demo in force. */
  private static void connect(Caller who) {
    ok(who.send("PUT", SYSTEM, ORDER));
    ok(table(who, "/terms", sample("loans-desk-terms.csv")));
    ok(table(who, "/terms/1/trial", sample("loans-desk-held.csv")));
    ok(table(who, "/terms/1/force", ""));
  }

  private static void compare(Caller who, String held) {
    JsonNode job = who.job(table(who, "/comparisons", held));
    assertThat(job.get("state").stringValue()).as(job.toString()).isEqualTo("done");
  }

  private static JsonNode list(Caller who, String query) {
    return ok(who.get(SYSTEM + "/discrepancies" + query));
  }

  private static List<String> ids(JsonNode list) {
    return list.get("discrepancies").valueStream().map(it -> it.get("id").stringValue()).toList();
  }

  private static JsonNode row(JsonNode list, String id) {
    return list.get("discrepancies")
        .valueStream()
        .filter(it -> it.get("id").stringValue().equals(id))
        .findFirst()
        .orElseThrow(() -> new AssertionError("No '" + id + "' in " + ids(list)));
  }

  private static String selected(String... ids) {
    return "{\"ids\": [\"" + String.join("\", \"", ids) + "\"]}";
  }

  // ---- terms ------------------------------------------------------------------------------------

  @Test
  void termsCountOnceTheyWereTried() {
    Caller ilse = as("ilse.varga");
    ok(ilse.send("PUT", SYSTEM, ORDER));
    assertThat(table(ilse, "/comparisons", sample("loans-desk-held.csv")).body())
        .contains("has no terms in force");
    JsonNode added = ok(table(ilse, "/terms", sample("loans-desk-terms.csv")));
    assertThat(added.path("versions").get(0).get("madeBy").stringValue()).isEqualTo("Ilse Varga");
    Caller.Answer early = table(ilse, "/terms/1/force", "");
    assertThat(early.status()).isEqualTo(409);
    assertThat(early.body()).contains("was not tried yet");
    JsonNode trial = ok(table(ilse, "/terms/1/trial", sample("loans-desk-held.csv")));
    assertThat(trial.get("lines").asInt()).isEqualTo(41);
    assertThat(trial.get("translated").asInt()).isEqualTo(32);
    assertThat(trial.get("untranslated").toString()).isEqualTo("{\"entitlement Boss\":1}");
    assertThat(trial.get("strangers").valueStream().map(JsonNode::stringValue))
        .as("partners are nobody here")
        .contains("x.stranger", "gil.moreau")
        .hasSize(8);
    assertThat(trial.get("first").valueStream())
        .filteredOn(it -> it.get("identity").stringValue().equals("n.haddad"))
        .filteredOn(it -> it.get("entitlement").stringValue().equals("Clerk"))
        .allSatisfy(it -> {
          assertThat(it.get("whoName").stringValue()).isEqualTo("Noor Haddad");
          assertThat(it.get("permissions").toString()).contains("Draft");
          assertThat(it.get("below").asBoolean()).isTrue();
        })
        .isNotEmpty();
    assertThat(ok(table(ilse, "/terms/1/force", "")).get("terms").asInt()).isEqualTo(1);
    ok(table(ilse, "/terms", sample("loans-desk-terms.csv") + "entitlement,Boss,loan.approve,\n"));
    assertThat(ok(ilse.get("/api/systems")).get("systems").get(0).get("terms").asInt())
        .as("a new version does not count yet")
        .isEqualTo(1);
    assertThat(ilse.get(SYSTEM + "/terms/2").body()).endsWith("entitlement,Boss,loan.approve,\n");
    assertThat(ilse.get(SYSTEM + "/terms/9").status()).isEqualTo(404);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "kind,theirs|there is no column 'ours'",
        "kind,theirs,ours;person,a,nobody.such|there is no person or service 'nobody.such'",
        "kind,theirs,ours;entitlement,a,no.such|line 2: ours",
        "kind,theirs,ours;thing,a,b|is no kind of term",
        "kind,theirs,ours;entitlement,a,desk.open|The terms compare nothing"
      })
  void faultyTermsAreRefused(String content, String said) {
    Caller ilse = as("ilse.varga");
    ok(ilse.send("PUT", SYSTEM, ORDER));
    Caller.Answer answer = table(ilse, "/terms", content.replace(';', '\n') + "\n");
    assertThat(answer.status()).as(answer.body()).isIn(400, 422);
    assertThat(answer.body()).contains(said);
    assertThat(ok(ilse.get("/api/systems")).get("systems").get(0).get("versions")).isEmpty();
  }

  // ---- comparisons ------------------------------------------------------------------------------

  @Test
  void eachDifferenceIsFoundAndFollowedOverTime() {
    Caller ilse = as("ilse.varga");
    connect(ilse);
    String held = sample("loans-desk-held.csv");
    compare(ilse, held);
    JsonNode first = list(ilse, "");
    assertThat(first.get("kinds").toString())
        .isEqualTo("{\"extra\":2,\"missing\":4,\"orphaned\":1,\"unknown\":8}");
    assertThat(first.get("elsewhere").asBoolean()).as("of partners, who are nobody here").isTrue();
    assertThat(ids(first)).contains(CORIN, PETRA, "orphaned hanne.sorrel", "unknown x.stranger");
    assertThat(row(first, CORIN).get("held").toString()).contains("Quillhaven");
    assertThat(row(first, PETRA).get("said").stringValue())
        .startsWith("Petra Lowe should hold Approve loans on Loan 101");
    assertThat(ids(list(ilse, "?kind=extra&text=corin"))).hasSize(2).contains(CORIN);
    assertThat(ids(list(ilse, "?skip=3&most=2"))).isEqualTo(ids(first).subList(3, 5));

    clock.move(Duration.ofDays(1));
    Caller later = as("ilse.varga");
    String without =
        String.join(
            "\n",
            held.lines().filter(it -> !it.startsWith("hanne")).toList().toArray(String[]::new));
    compare(later, without + "\nx.other,Clerk,Quillhaven\n");
    JsonNode second = list(later, "");
    assertThat(ids(second)).contains("unknown x.other").doesNotContain("orphaned hanne.sorrel");
    assertThat(row(second, CORIN).get("since")).isEqualTo(row(first, CORIN).get("since"));
    JsonNode newest = second.get("comparisons").get(0);
    assertThat(newest.get("begun").asInt()).isEqualTo(1);
    assertThat(newest.get("gone").asInt()).isEqualTo(1);
    assertThat(second.get("comparisons").get(1).get("kinds")).isEqualTo(first.get("kinds"));
    JsonNode gone = row(list(later, "?state=settled"), "orphaned hanne.sorrel");
    assertThat(gone.get("goneAt")).isEqualTo(newest.get("at"));
    compare(later, held);
    assertThat(row(list(later, ""), "orphaned hanne.sorrel").get("since"))
        .as("it came back")
        .isNotEqualTo(gone.get("since"));
  }

  @Test
  void aChangedModelIsComparedAgainWithTheNewestTable() {
    Caller ilse = as("ilse.varga");
    connect(ilse);
    assertThat(ilse.job(table(ilse, "/comparisons", "")).get("state").stringValue())
        .as("nothing came in yet")
        .isEqualTo("failed");
    compare(ilse, sample("loans-desk-held.csv"));
    assertThat(list(ilse, "").get("outdated").asBoolean()).isFalse();
    Principal petra =
        Objects.requireNonNull(
            model.engine().catalogue().principals().get(new PrincipalKey("petra.lowe")));
    Principal left = Altered.with(petra, "status", "left");
    model.change(List.of(new Change.Altered(petra, left)));
    try {
      assertThat(list(ilse, "").get("outdated").asBoolean()).isTrue();
      compare(ilse, "");
      JsonNode again = list(ilse, "");
      assertThat(again.get("comparisons").get(0).get("sent").asBoolean()).isFalse();
      assertThat(ids(again)).contains("orphaned petra.lowe").doesNotContain(PETRA);
    } finally {
      model.change(List.of(new Change.Altered(left, petra)));
    }
  }

  @Test
  void aFaultyTableIsRefusedAndNothingIsKept() {
    Caller ilse = as("ilse.varga");
    connect(ilse);
    Caller.Answer answer = table(ilse, "/comparisons", "user,level,site\na,Clerk,Q\n,Clerk,Q\n");
    assertThat(answer.status()).isEqualTo(422);
    assertThat(answer.body()).contains("line 3: user", "The table has 1 fault");
    assertThat(table(ilse, "/comparisons", "name,level\na,b\n").body())
        .contains("there is no column 'user'", "there is no column 'site'");
    assertThat(list(ilse, "").get("comparisons")).isEmpty();
  }

  @Test
  void comparisonsAtOnceAreKeptOneAfterTheOther() throws Exception {
    Caller ilse = as("ilse.varga");
    connect(ilse);
    String held = sample("loans-desk-held.csv");
    List<Callable<Boolean>> all = new ArrayList<>();
    for (int i = 0; i < 3; i++) {
      all.add(() -> {
        compare(ilse, held);
        return true;
      });
    }
    try (ExecutorService threads = Executors.newFixedThreadPool(all.size())) {
      for (Future<Boolean> it : threads.invokeAll(all)) {
        assertThat(it.get()).isTrue();
      }
    }
    JsonNode list = list(ilse, "?state=any");
    assertThat(list.get("comparisons").valueStream().map(it -> it.get("number").asInt()))
        .containsExactly(3, 2, 1);
    assertThat(list.get("total").asInt()).as("each is there once").isEqualTo(15);
  }

  @Test
  void allOfThemGoOutAsAFile() {
    Caller ilse = as("ilse.varga");
    connect(ilse);
    compare(ilse, sample("loans-desk-held.csv"));
    Caller.Answer file = ilse.get(SYSTEM + "/discrepancies/file?kind=missing&most=1");
    assertThat(file.type()).startsWith("text/csv");
    assertThat(file.body().lines())
        .hasSize(5)
        .anyMatch(it -> it.contains("missing,petra.lowe,loan.approve"));
    assertThat(ilse.get(SYSTEM + "/discrepancies/file?format=odd").status()).isEqualTo(400);
    assertThat(as("dario.penn").get(SYSTEM + "/discrepancies/file").status()).isEqualTo(404);
  }

  /** Somebody who comes under an identity that was nobody's is found from then on. */
  @Test
  void anIdentityThatBecomesSomebodysIsNoStrangerAnyMore() {
    Caller ilse = as("ilse.varga");
    connect(ilse);
    String held = sample("loans-desk-held.csv");
    compare(ilse, held);
    ok(table(ilse, "/terms", sample("loans-desk-terms.csv") + "person,x.stranger,corin.bladen,\n"));
    ok(table(ilse, "/terms/2/trial", held));
    ok(table(ilse, "/terms/2/force", ""));
    compare(ilse, "");
    JsonNode list = list(ilse, "?state=any");
    assertThat(row(list, "unknown x.stranger").get("state").stringValue()).isEqualTo("settled");
    assertThat(list.get("comparisons").get(0).get("terms").asInt()).isEqualTo(2);
    assertThat(list.get("comparisons").get(0).get("gone").asInt()).isPositive();
  }

  // ---- decisions --------------------------------------------------------------------------------

  private static String acceptance(String id, String until) {
    return """
    {"ids": ["%s"], "until": "%s", "reason": "Until the desk moves"}
    """
        .formatted(id, until);
  }

  @Test
  void oneIsAcceptedUntilADateOrUntilItGrows() {
    Caller ilse = as("ilse.varga");
    connect(ilse);
    String held = sample("loans-desk-held.csv");
    compare(ilse, held);
    String until = clock.instant().plus(Duration.ofDays(10)).toString();
    String stranger = "unknown x.stranger";
    ok(ilse.send("POST", SYSTEM + "/accept", acceptance(stranger, until)));
    ok(ilse.send("POST", SYSTEM + "/accept", acceptance(CORIN, until)));
    assertThat(ids(list(ilse, ""))).doesNotContain(stranger, CORIN);
    assertThat(row(list(ilse, "?state=accepted"), CORIN).get("reason").stringValue())
        .isEqualTo("Until the desk moves");
    assertThat(
            ilse.send("POST", SYSTEM + "/accept", acceptance(PETRA, "2020-01-01T00:00:00Z"))
                .status())
        .isEqualTo(400);
    compare(ilse, held + "x.stranger,Reader,Quillhaven\n");
    assertThat(row(list(ilse, ""), stranger).get("returned").stringValue()).isEqualTo("worse");
    ok(ilse.send("POST", SYSTEM + "/reopen", selected(CORIN)));
    assertThat(row(list(ilse, ""), CORIN).has("returned")).isFalse();
    ok(ilse.send("POST", SYSTEM + "/accept", acceptance(CORIN, until)));
    clock.move(Duration.ofDays(11));
    assertThat(row(list(as("ilse.varga"), ""), CORIN).get("returned").stringValue())
        .isEqualTo("ended");
    assertThat(
            database.queryForObject(
                "select count(*) from trail where act = 'checked' and said like 'Accepted until %'",
                Long.class))
        .isEqualTo(3);
  }

  @Test
  void aDraftAdoptsWhatTheSystemHolds() {
    Caller ilse = as("ilse.varga");
    connect(ilse);
    compare(ilse, sample("loans-desk-held.csv"));
    JsonNode draft =
        ok(ilse.send("POST", SYSTEM + "/draft", selected(CORIN, PETRA, "orphaned hanne.sorrel")));
    assertThat(draft.get("changes").asInt()).isEqualTo(2);
    assertThat(draft.get("left").toString()).contains("Hanne Sorrel is not active");
    String id = draft.get("draft").stringValue();
    assertThat(row(list(ilse, ""), CORIN).get("state").stringValue()).isEqualTo("in-draft");
    JsonNode view = ok(ilse.get("/api/drafts/" + id));
    assertThat(view.get("refusals").toString()).as("its author may apply it").isEqualTo("[]");
    JsonNode impact = ok(ilse.get("/api/drafts/" + id + "/impact?wait=10000"));
    assertThat(impact.get("gained").asInt()).isPositive();
    assertThat(impact.get("lost").asInt()).isPositive();
    ilse.send("PATCH", "/api/drafts/" + id, "{\"state\":\"discarded\"}");
    assertThat(row(list(ilse, ""), CORIN).get("state").stringValue()).isEqualTo("new");
    Caller.Answer none = ilse.send("POST", SYSTEM + "/draft", selected("unknown x.stranger"));
    assertThat(none.status()).isEqualTo(409);
    assertThat(none.body()).contains("No change of the model settles this");
    assertThat(ilse.send("POST", SYSTEM + "/draft", selected("extra no one")).status())
        .isEqualTo(404);
  }

  // ---- who may ----------------------------------------------------------------------------------

  @Test
  void whoeverMayOnlyAskReadsAndDecidesNothing() {
    Caller ilse = as("ilse.varga");
    connect(ilse);
    compare(ilse, sample("loans-desk-held.csv"));
    Caller vera = as("vera.lindqvist");
    JsonNode seen = list(vera, "");
    assertThat(ids(seen)).isEqualTo(ids(list(ilse, "")));
    assertThat(seen.path("system").get("mine").asBoolean()).isFalse();
    assertThat(seen.get("discrepancies").valueStream()).noneMatch(it -> it.get("mine").asBoolean());
    String until = clock.instant().plus(Duration.ofDays(10)).toString();
    assertThat(vera.send("POST", SYSTEM + "/accept", acceptance(CORIN, until)).status())
        .isEqualTo(403);
    assertThat(vera.send("POST", SYSTEM + "/draft", selected(CORIN)).status()).isEqualTo(403);
    assertThat(table(vera, "/comparisons", "").status()).isEqualTo(403);
    assertThat(table(vera, "/terms", "").status()).isEqualTo(403);
    assertThat(vera.send("PUT", SYSTEM, ORDER).status()).isEqualTo(403);
    assertThat(vera.send("DELETE", SYSTEM, "").status()).isEqualTo(403);
  }

  @Test
  void whoeverHasNothingToDoWithItsAccountFindsNoSystem() {
    connect(as("ilse.varga"));
    Caller dario = as("dario.penn");
    assertThat(ok(dario.get("/api/systems")).get("systems")).isEmpty();
    assertThat(dario.get(SYSTEM + "/discrepancies").status()).isEqualTo(404);
    assertThat(dario.send("PUT", SYSTEM, ORDER).status()).isEqualTo(403);
    assertThat(as("tess.aldergate").get("/api/systems").status()).isEqualTo(403);
  }

  /** Whoever left the model for good is named to nobody, also before it is compared again. */
  @Test
  void whoeverIsNotInTheModelAnyMoreIsNobody() {
    Caller ilse = as("ilse.varga");
    connect(ilse);
    Principal petra =
        Objects.requireNonNull(
            model.engine().catalogue().principals().get(new PrincipalKey("petra.lowe")));
    Principal gone =
        Altered.with(
            Altered.with(Altered.with(petra, "key", "nell.gone"), "email", "n@gone.example"),
            "status",
            "left");
    model.change(List.of(new Change.Added(gone)));
    compare(ilse, sample("loans-desk-held.csv") + "nell.gone,Clerk,Quillhaven\n");
    assertThat(ids(list(ilse, "")))
        .contains("orphaned nell.gone")
        .doesNotContain("unknown nell.gone");
    model.change(List.of(new Change.Removed(gone)));
    assertThat(ids(list(ilse, "")))
        .contains("unknown nell.gone")
        .doesNotContain("orphaned nell.gone");
  }

  @Test
  void bothAccountsSeeThatASystemMoved() {
    Caller ilse = as("ilse.varga");
    ok(ilse.send("PUT", SYSTEM, ORDER));
    ok(ilse.send("PUT", SYSTEM, ORDER.replace("quillhaven", "fernwick")));
    assertThat(
            database.queryForList(
                "select accounts::text from trail where said like 'Changed the connected system %'"
                    + " order by seq desc limit 2",
                String.class))
        .anyMatch(it -> it.contains("quillhaven"))
        .anyMatch(it -> it.contains("fernwick"));
  }

  /** People whom the viewer may not read are nobody. */
  @Test
  void identitiesOfStrangersAreNobodys() {
    Caller dario = as("dario.penn");
    String order = ORDER.replace("quillhaven", "fernwick");
    assertThat(ok(dario.send("PUT", SYSTEM, order)).get("systems")).hasSize(1);
    String terms =
        """
        kind,theirs,ours,below
        entitlement,Clerk,desk.open,
        place,Desk,f-loans-desk,yes
        """;
    assertThat(table(dario, "/terms", terms + "person,o,corin.bladen,\n").body())
        .contains("there is no person or service 'corin.bladen'");
    ok(table(dario, "/terms", terms));
    String held =
        """
        user,level,site
        corin.bladen,Clerk,Desk
        nobody.such,Clerk,Desk
        hanne.sorrel,Clerk,Desk
        """;
    JsonNode trial = ok(table(dario, "/terms/1/trial", held));
    assertThat(trial.get("strangers").toString())
        .isEqualTo("[\"corin.bladen\",\"hanne.sorrel\",\"nobody.such\"]");
    ok(table(dario, "/terms/1/force", ""));
    compare(dario, held);
    JsonNode list = list(dario, "?state=any");
    assertThat(list.toString()).doesNotContain("Corin", "Hanne");
    assertThat(ids(list))
        .contains("unknown corin.bladen", "unknown nobody.such", "unknown hanne.sorrel")
        .noneMatch(it -> it.startsWith("orphaned") || it.startsWith("extra corin"));
    assertThat(list.has("agreeing")).isFalse();
    assertThat(ids(list(as("ilse.varga"), "?state=any")))
        .contains("extra corin.bladen desk.open", "orphaned hanne.sorrel")
        .doesNotContain("unknown corin.bladen");
  }

  @Test
  void aSystemGoesWithAllThatBelongsToIt() {
    Caller ilse = as("ilse.varga");
    connect(ilse);
    compare(ilse, sample("loans-desk-held.csv"));
    assertThat(ok(ilse.send("DELETE", SYSTEM, "")).get("systems")).isEmpty();
    for (String it :
        List.of("discrepancy", "system_identity", "system_comparison", "system_held")) {
      assertThat(database.queryForObject("select count(*) from " + it, Long.class)).as(it).isZero();
    }
    assertThat(ilse.send("PUT", "/api/systems/Bad Key".replace(" ", "%20"), ORDER).status())
        .isEqualTo(400);
    assertThat(ilse.send("PUT", SYSTEM, ORDER.replace("\"user\"", "\" \"")).status())
        .isEqualTo(400);
    assertThat(list400(ilse, "?kind=odd")).contains("There is no kind");
    assertThat(list400(ilse, "?state=odd")).contains("There is no state");
  }

  private static String list400(Caller who, String query) {
    connect(who);
    Caller.Answer answer = who.get(SYSTEM + "/discrepancies" + query);
    assertThat(answer.status()).isEqualTo(400);
    return answer.body();
  }
}
