package mandala.server.catalog;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.UnitKey;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import tools.jackson.databind.JsonNode;

/** The directory's filters and groups, against what the model says of each person by itself. */
@ApiTest
class DirectoryTest {

  @Autowired private Environment environment;
  @Autowired private JdbcTemplate database;
  @Autowired private LiveModel model;

  @BeforeEach
  void codesAgain() {
    database.update("update credential set totp_last_step = -1");
  }

  private Caller as(String who) {
    return Caller.as(who, environment);
  }

  private Engine engine() {
    return model.state().engine();
  }

  private Catalogue catalogue() {
    return engine().catalogue();
  }

  /** The keys that a list gives, read page by page. */
  private static Set<String> found(Caller caller, String query) {
    Set<String> keys = new HashSet<>();
    int total = 1;
    for (int offset = 0; offset < total; offset += 200) {
      Caller.Answer answer = caller.get("/api/people?limit=200&offset=" + offset + "&" + query);
      assertThat(answer.status()).as(answer.body()).isEqualTo(200);
      JsonNode page = answer.json();
      total = page.get("total").intValue();
      page.get("rows").forEach(row -> keys.add(row.get("key").stringValue()));
    }
    assertThat(keys).as(query).hasSize(total);
    return keys;
  }

  /** Who fits of those whom the head of security may read: all of the trust. */
  private Set<String> all(Predicate<Principal> fits) {
    return catalogue().principals().values().stream()
        .filter(it -> catalogue().isAtOrBelow(it.account(), new AccountKey("larkmoor")))
        .filter(fits)
        .map(it -> it.key().value())
        .collect(Collectors.toSet());
  }

  @Test
  void eachFilterGivesWhomTheModelSays() {
    Caller ilse = as("ilse.varga");
    Instant now = Instant.now();
    UnitKey registry = new UnitKey("q-registry");
    Map<String, Predicate<Principal>> filters = new HashMap<>();
    filters.put(
        "unit=" + registry,
        it -> it.unit() != null && catalogue().isAtOrBelow(it.unit(), registry));
    filters.put("unit=-", it -> it.unit() == null);
    filters.put(
        "manager=tomas.brandt", it -> new PrincipalKey("tomas.brandt").equals(it.manager()));
    filters.put("manager=-", it -> it.kind() == Principal.Kind.PERSON && it.manager() == null);
    filters.put(
        "role=registrar",
        it -> engine().rolesHeld(it.key(), now).contains(new RoleKey("registrar")));
    filters.put("role=-", it -> engine().rolesHeld(it.key(), now).isEmpty());
    filters.put(
        "group=q-registrars",
        it ->
            engine().hasSubject(it.key(), new Subject.OfGroup(new GroupKey("q-registrars")), now));
    filters.put(
        "unseen=30",
        it -> it.lastSeen() == null || it.lastSeen().isBefore(now.minus(Duration.ofDays(30))));
    filters.put("factor=yes", Principal::mfa);
    filters.put(
        "text=lowe%40larkmoor", it -> it.email() != null && it.email().contains("lowe@larkmoor"));
    filters.put("factor=no", it -> !it.mfa());
    filters.put("kind=service", it -> it.kind() == Principal.Kind.SERVICE);
    filters.put(
        "kind=guest",
        it -> catalogue().guests().stream().anyMatch(guest -> guest.principal().equals(it.key())));
    filters.put(
        "ends=365",
        it -> {
          Instant until = it.window().until();
          return until != null
              && until.isAfter(now)
              && !until.isAfter(now.plus(Duration.ofDays(365)));
        });
    filters.put("signIn=none", it -> it.kind() == Principal.Kind.PERSON && !hasPassword(it));
    Map<String, Set<String>> answers = new HashMap<>();
    filters.forEach((query, fits) -> {
      answers.put(query, found(ilse, query));
      assertThat(answers.get(query)).as(query).isEqualTo(all(fits));
    });
    assertThat(answers.get("role=registrar")).contains("tomas.brandt");
    assertThat(answers.get("kind=guest")).isNotEmpty();
    answers.forEach((one, its) ->
        answers.forEach((other, those) -> {
          if (!one.split("=", -1)[0].equals(other.split("=", -1)[0])) {
            Set<String> both = new HashSet<>(its);
            both.retainAll(those);
            assertThat(found(ilse, one + "&" + other)).as(one + "&" + other).isEqualTo(both);
          }
        }));
  }

  private boolean hasPassword(Principal it) {
    Integer rows =
        database.queryForObject(
            "select count(*) from credential where principal = ?", Integer.class, it.key().value());
    return rows != null && rows > 0;
  }

  @ParameterizedTest
  @ValueSource(strings = {"account", "unit", "manager", "role", "group"})
  void aGroupListsAsManyAsItCounts(String by) {
    Caller ilse = as("ilse.varga");
    String filter = "account=quillhaven&state=active&by=" + by;
    JsonNode groups = ilse.get("/api/people/groups?" + filter).json().get("groups");
    assertThat(groups).isNotEmpty();
    Set<String> everybody = new HashSet<>();
    for (JsonNode group : groups) {
      Set<String> members = found(ilse, filter + "&of=" + group.get("key").stringValue());
      assertThat(members).as(group.toString()).hasSize(group.get("people").intValue()).isNotEmpty();
      everybody.addAll(members);
    }
    assertThat(everybody).isEqualTo(found(ilse, "account=quillhaven&state=active"));
  }

  @Test
  void whoMayNotReadAThingFindsNobodyByIt() {
    Caller dario = as("dario.penn");
    for (String query :
        new String[] {"unit=l-security", "group=l-auditors", "manager=ilse.varga"}) {
      Caller.Answer hidden = dario.get("/api/people?" + query);
      Caller.Answer unknown = dario.get("/api/people?" + query.split("=", -1)[0] + "=nothing");
      assertThat(hidden.status()).as(hidden.body()).isEqualTo(404);
      assertThat(unknown.status()).isEqualTo(404);
      assertThat(hidden.body().replace(query.split("=", -1)[1], "nothing"))
          .as("as of what is not there")
          .isEqualTo(unknown.body());
    }
    for (String by : new String[] {"manager", "group", "role", "unit"}) {
      String groups = dario.get("/api/people/groups?by=" + by).body();
      assertThat(groups)
          .contains("\"people\":")
          .doesNotContain("l-auditors", "ilse.varga", "Ilse Varga", "l-security");
    }
  }

  @ParameterizedTest
  @CsvSource({
    "unit=nowhere,404",
    "role=nothing,404",
    "unseen=-1,400",
    "unseen=many,400",
    "ends=99999,400",
    "factor=maybe,400",
    "signIn=magic,400",
    "by=colour&of=x,400",
    "by=unit&of=nowhere,404",
    "exposed=much,400"
  })
  void aFaultyFilterIsRefusedInWords(String query, int status) {
    Caller.Answer refused = as("ilse.varga").get("/api/people?" + query);
    assertThat(refused.status()).as(refused.body()).isEqualTo(status);
    assertThat(refused.json().path("detail").asString("")).isNotBlank();
    assertThat(as("ilse.varga").get("/api/people/groups?by=colour").status()).isEqualTo(400);
  }

  @Test
  void manyAreSignedOutAndTheRestIsSaid() {
    Caller noor = as("noor.haddad");
    assertThat(noor.get("/api/session").json().at("/who/key").asString(""))
        .isEqualTo("noor.haddad");
    JsonNode done =
        as("ilse.varga")
            .send(
                "POST",
                "/api/people/sign-outs",
                "{\"people\":[\"noor.haddad\",\"noor.haddad\",\"no.body\"]}")
            .json();
    assertThat(done.get("done").intValue()).isEqualTo(1);
    assertThat(done.at("/notDone/0/key").stringValue()).isEqualTo("no.body");
    assertThat(done.at("/notDone/0/why").stringValue()).contains("There is nobody called");
    assertThat(noor.get("/api/people").status()).isEqualTo(401);
    JsonNode refused =
        as("vera.lindqvist")
            .send("POST", "/api/people/sign-outs", "{\"people\":[\"noor.haddad\"]}")
            .json();
    assertThat(refused.get("done").intValue()).isZero();
    assertThat(refused.at("/notDone/0/why").stringValue()).contains("You need");
  }

  @Test
  void manyGetALinkEach() {
    database.update("delete from mail");
    JsonNode done =
        as("ilse.varga")
            .send(
                "POST",
                "/api/people/invitations",
                "{\"people\":[\"noor.haddad\",\"pia.lund\",\"label-printer\"]}")
            .json();
    int sent = done.get("done").intValue();
    assertThat(sent + done.get("notDone").size()).isEqualTo(3);
    Integer mails = database.queryForObject("select count(*) from mail", Integer.class);
    assertThat(mails).isEqualTo(sent);
  }
}
