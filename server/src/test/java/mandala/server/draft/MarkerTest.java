package mandala.server.draft;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.document.DocumentReader;
import mandala.document.HeldReader;
import mandala.document.ThingDocument;
import mandala.server.Caller;
import mandala.server.MandalaApplication;
import mandala.server.TestDatabase;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.finding.FindingLook;
import mandala.server.model.LiveModel;
import mandala.server.model.RevisionCause;
import mandala.server.reconcile.SystemSetup;
import mandala.server.session.Credentials;
import mandala.server.session.DemoCredentials;
import org.apache.commons.codec.digest.DigestUtils;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.context.ContextConfiguration;
import tools.jackson.databind.JsonNode;

/**
 * Nothing that one may not read comes back, from no call whatever (section 11, "who may read
 * what"). The model has two accounts of strangers, a root of its own and a sister of the callers'
 * account, whose every name is a marker, and ties from the callers' account to them. Every
 * operation of the API's description is called by each kind of caller, with and without a hostile
 * draft, with the strangers' keys in every parameter; a new operation, parameter or body that this
 * test does not know makes it fail.
 */
@SpringBootTest(
    classes = MandalaApplication.class,
    webEnvironment = SpringBootTest.WebEnvironment.RANDOM_PORT,
    properties = "mandala.demo=false")
@ContextConfiguration(initializers = TestDatabase.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class MarkerTest {

  /** In every name, description, note, title, label and address of the strangers. */
  private static final String NAME = "Zqxname";

  /** Begins every key of the strangers. */
  private static final String KEY = "zqxkey";

  private static final String MODEL =
      """
      {"format": "mandala-model/1",
       "accounts": [
         {"key": "trust", "name": "Trust"},
         {"key": "branch", "name": "Branch", "parent": "trust"},
         {"key": "zqxkey-sister", "name": "Zqxname sister", "parent": "trust", "note": "Zqxname"},
         {"key": "zqxkey-root", "name": "Zqxname root", "description": "Zqxname"}],
       "units": [
         {"key": "desk", "name": "Desk", "account": "branch"},
         {"key": "zqxkey-unit", "name": "Zqxname unit", "account": "zqxkey-root"},
         {"key": "zqxkey-unit2", "name": "Zqxname unit", "account": "zqxkey-sister"}],
       "patterns": [
         {"key": "clerk", "name": "Clerk", "account": "branch"},
         {"key": "zqxkey-pattern", "name": "Zqxname pattern", "account": "zqxkey-root"}],
       "principals": [
         {"key": "mar", "name": "Mar", "kind": "person", "account": "trust", "mfa": true},
         {"key": "dario", "name": "Dario", "kind": "person", "account": "branch", "mfa": true},
         {"key": "vera", "name": "Vera", "kind": "person", "account": "branch"},
         {"key": "noor", "name": "Noor", "kind": "person", "account": "branch", "unit": "desk",
          "pattern": "clerk", "attributes": {"title": "Clerk"}},
         {"key": "pia", "name": "Pia", "kind": "person", "account": "branch", "unit": "desk",
          "manager": "zqxkey-ann", "pattern": "zqxkey-pattern", "attributes": {"title": "Clerk"},
          "reach": [{"unit": "zqxkey-unit", "level": "full"}]},
         {"key": "robot", "name": "Robot", "kind": "service", "account": "branch",
          "sponsor": "zqxkey-ann"},
         {"key": "zqxkey-ann", "name": "Zqxname Ann", "kind": "person", "account": "zqxkey-root",
          "unit": "zqxkey-unit", "email": "ann@zqxname.example", "mfa": true,
          "attributes": {"title": "Zqxname title"}},
         {"key": "zqxkey-bob", "name": "Zqxname Bob", "kind": "person", "account": "zqxkey-sister",
          "unit": "zqxkey-unit2", "attributes": {"title": "Clerk"}, "mfa": true}],
       "guests": [{"principal": "mar", "account": "zqxkey-root"}],
       "groups": [
         {"key": "crew", "name": "Crew", "account": "branch",
          "members": ["person:pia", "person:zqxkey-bob", "group:zqxkey-group"],
          "owners": ["zqxkey-ann"]},
         {"key": "ruled", "name": "Ruled", "account": "branch",
          "rule": {"any": [{"attribute": "manager", "op": "is", "value": "zqxkey-ann"}]}},
         {"key": "zqxkey-group", "name": "Zqxname group", "account": "zqxkey-root",
          "members": ["person:zqxkey-ann"]},
         {"key": "zqxkey-above", "name": "Zqxname above", "account": "zqxkey-root",
          "members": ["group:crew"]}],
       "resourceTypes": [
         {"key": "room", "name": "Room"},
         {"key": "zqxkey-type", "name": "Zqxname type", "account": "zqxkey-root"}],
       "permissions": [
         {"key": "room.enter", "name": "Enter", "on": ["room"], "class": "view", "risk": "low"},
         {"key": "room.burn", "name": "Burn", "on": ["room"], "class": "change",
          "risk": "critical"},
         {"key": "zqxkey-permission", "name": "Zqxname permission", "description": "Zqxname",
          "account": "zqxkey-root", "on": ["room", "zqxkey-type"], "class": "change",
          "risk": "high"}],
       "permissionSets": [
         {"key": "rooms", "name": "Rooms", "allow": ["room.enter"]},
         {"key": "zqxkey-set", "name": "Zqxname set", "account": "zqxkey-root",
          "allow": ["zqxkey-permission"]}],
       "roles": [
         {"key": "keeper", "name": "Keeper", "sets": ["rooms"], "maxHolders": 1},
         {"key": "mixed", "name": "Mixed", "account": "branch", "sets": ["rooms", "zqxkey-set"],
          "inherits": ["zqxkey-role"], "basedOn": "zqxkey-role", "owners": ["zqxkey-ann"],
          "prerequisites": ["zqxkey-role"]},
         {"key": "zqxkey-role", "name": "Zqxname role", "account": "zqxkey-root",
          "sets": ["zqxkey-set"]}],
       "resources": [
         {"key": "hall", "name": "Hall", "type": "room", "account": "branch",
          "owner": "zqxkey-ann"},
         {"key": "vault", "name": "Vault", "type": "room", "account": "branch", "parent": "hall",
          "sealed": true},
         {"key": "zqxkey-hall", "name": "Zqxname hall", "type": "room", "account": "zqxkey-root",
          "labels": {"zqxname": "Zqxname label"}},
         {"key": "zqxkey-room", "name": "Zqxname room", "type": "room", "account": "zqxkey-root",
          "parent": "zqxkey-hall", "owner": "zqxkey-ann"},
         {"key": "zqxkey-archive", "name": "Zqxname archive", "type": "room",
          "account": "zqxkey-sister", "sealed": true},
         {"key": "zqxkey-gift", "name": "Zqxname gift", "type": "zqxkey-type",
          "account": "zqxkey-sister", "parent": "zqxkey-archive"}],
       "collections": [
         {"key": "tour", "name": "Tour", "account": "branch", "members": ["hall"]},
         {"key": "zqxkey-tour", "name": "Zqxname tour", "account": "zqxkey-root",
          "members": ["zqxkey-hall"]}],
       "assignments": [
         {"key": "zqxkey-reads", "subject": "service:robot", "gives": "role:mandala.auditor",
          "scope": [{"everything": true}]},
         {"key": "own", "subject": "person:mar", "gives": "role:mandala.owner",
          "scope": [{"tree": "account:trust"}, {"tree": "account:zqxkey-root"}],
          "crossesSeals": true},
         {"key": "delegated", "subject": "person:dario",
          "gives": "role:mandala.security-administrator", "scope": [{"account": "branch"}]},
         {"key": "audits", "subject": "person:vera", "gives": "role:mandala.auditor",
          "scope": [{"account": "branch"}]},
         {"key": "enters", "subject": "person:noor", "gives": "role:keeper",
          "scope": [{"only": "hall"}]},
         {"key": "crew-enters", "subject": "group:crew", "gives": "role:mixed",
          "scope": [{"tree": "hall"}]},
         {"key": "comes-in", "subject": "group:zqxkey-group",
          "gives": "role:zqxkey-role", "scope": [{"tree": "hall"}]},
         {"key": "zqxkey-wide", "name": "Zqxname wide", "subject": "person:zqxkey-ann",
          "gives": "role:zqxkey-role", "scope": [{"tree": "account:trust"}],
          "crossesSeals": true},
         {"key": "zqxkey-deny", "subject": "group:zqxkey-above", "gives": "permission:room.burn",
          "effect": "deny", "scope": [{"everything": true}]},
         {"key": "zqxkey-own", "subject": "person:zqxkey-bob", "gives": "role:keeper",
          "scope": [{"tree": "zqxkey-archive"}, {"tree": "hall"}]},
         {"key": "zqxkey-jit", "subject": "account:zqxkey-root", "gives": "role:keeper",
          "scope": [{"collection": "zqxkey-tour"}], "mode": "just-in-time"}],
       "bridges": [
         {"key": "zqxkey-bridge", "name": "Zqxname bridge", "account": "branch",
          "group": "zqxkey-group", "gives": "permission:room.enter",
          "scope": [{"account": "branch"}], "status": "accepted"}],
       "delegations": [
         {"key": "zqxkey-delegation", "principal": "zqxkey-bob", "delegate": "pia",
          "limit": "all", "scope": [{"everything": true}]}],
       "exclusions": [
         {"key": "burners", "name": "Burners", "sides": [["room.enter"], ["zqxkey-permission"]],
          "where": "anywhere", "exempt": [{"principal": "zqxkey-bob", "reason": "agreed"}]}],
       "expectations": [
         {"key": "only-noor", "name": "Only Noor", "form": "only", "subjects": ["person:noor"],
          "permissions": ["room.enter"], "scope": [{"everything": true}]},
         {"key": "zqxkey-cannot", "name": "Zqxname cannot", "account": "zqxkey-root",
          "form": "cannot", "subjects": ["signed-in"], "permissions": ["room.enter"],
          "scope": [{"tree": "zqxkey-hall"}]}]}
      """;

  @Autowired private Environment environment;
  @Autowired private LiveModel model;
  @Autowired private Credentials credentials;
  @Autowired private Drafts drafts;
  @Autowired private Trail trail;
  @Autowired private JdbcTemplate database;
  @Autowired private FindingLook look;

  private static final String THEIR_TERMS =
      """
      kind,theirs,ours,below
      person,id1,zqxkey-ann,
      person,id2,zqxkey-bob,
      person,id3,pia,
      entitlement,Opener,room.enter,
      entitlement,Other,zqxkey-permission,
      place,House,hall,yes
      place,Elsewhere,zqxkey-hall,yes
      """;

  private static final String THEIR_HOLDINGS =
      """
      identity,entitlement,place
      id1,Opener,House
      id2,Opener,Elsewhere
      id3,Other,House
      id3,Opener,Elsewhere
      id4,Opener,House
      """;

  @Autowired private SystemSetup systems;

  private String strangersDraft = "";

  @BeforeAll
  void strangersAreThere() {
    String hash = credentials.hash(DemoCredentials.PASSWORD);
    model.replace(
        DocumentReader.read(MODEL).orThrow(),
        false,
        session ->
            List.of("mar", "dario", "vera", "noor")
                .forEach(it -> {
                  PrincipalKey who = new PrincipalKey(it);
                  boolean enrolled = it.equals("mar") || it.equals("dario");
                  credentials.keep(
                      session, who, hash, enrolled ? DemoCredentials.secretOf(who) : null);
                }));
    // a source of the callers' account that reports what only others may read
    database.update(
        "insert into use_source (key, name, account, permissions, places, since, columns)"
            + " values ('doors', 'Doors', 'branch', '{room.enter,zqxkey-permission}',"
            + " '{hall,zqxkey-hall}', '2026-01-01', '{\"principal\": \"a\", \"permission\": \"b\","
            + " \"resource\": \"c\", \"day\": \"d\"}')");
    // revisions, lines of the trail and a draft that tell of strangers
    change(
        "resources",
        "zqxkey-room",
        "{'key':'zqxkey-room','name':'Zqxname other room',"
            + "'type':'room','account':'zqxkey-root','parent':'zqxkey-hall'}");
    change(
        "groups",
        "crew",
        "{'key':'crew','name':'Crew','account':'branch','members':"
            + "['person:pia','person:zqxkey-bob','group:zqxkey-group'],"
            + "'description':'of the house'}");
    change(
        "principals",
        "pia",
        "{'key':'pia','name':'Pia','kind':'person','account':'branch',"
            + "'unit':'desk','manager':'zqxkey-bob','attributes':{'title':'Clerk'}}");
    Draft owners =
        Draft.EMPTY.with(
            new Change.Added(
                thing(
                    "groups",
                    "{'key':'zqxkey-new','name':'Zqxname new','account':'zqxkey-root'}")));
    connect();
    strangersDraft = drafts.begin("mar", "Zqxname draft", model.state().revision(), owners).id();
    drafts.comment(strangersDraft, "mar", "Zqxname comment");
    look.doWhereChanged();
    assertThat(database.queryForList("select id from finding", String.class))
        .as("findings about strangers")
        .anyMatch(it -> it.contains("zqxkey"));
  }

  /** A system of the callers' account holds things for strangers. */
  private void connect() {
    database.update("delete from connected_system");
    systems.connect(
        "their-system",
        "Their system",
        new AccountKey("branch"),
        HeldReader.Columns.PLAIN,
        "zqxkey-ann",
        THEIR_TERMS.getBytes(StandardCharsets.UTF_8),
        THEIR_HOLDINGS.getBytes(StandardCharsets.UTF_8),
        model.state());
    database.update("delete from review_rule");
    database.update( // of a stranger, about a stranger, who decides
        "insert into review_rule (what, owner, made_at, seen, held_up) values (?, 'zqxkey-ann',"
            + " now(), 1, null)",
        MarkerCalls.eventRule("['branch']", "person:zqxkey-ann").replace('\'', '"'));
    database.update("truncate personnel_source, personnel_list restart identity");
    Long list =
        database.queryForObject( // set up by a stranger, who gave a file by hand
            "insert into personnel_source (what, owner, made_at) values (?, 'zqxkey-ann', now())"
                + " returning number",
            Long.class,
            MarkerCalls.PERSONNEL.formatted("branch").replace('\'', '"'));
    database.update(
        "insert into personnel_list (source, at, given_by, hash, state, content)"
            + " values (?, now(), 'zqxkey-ann', 'x', 'stopped', ?)",
        list,
        "number,name,email,manager\n1,Ann,ann@zqxname.example,zqxkey-ann\n2,Pia,,pia");
  }

  private static Thing thing(String kind, String json) {
    Kind of = ThingDocument.kind(kind);
    assertThat(of).isNotNull();
    ThingDocument.Result read = ThingDocument.read(of, json.replace('\'', '"'));
    assertThat(read.faults()).isEmpty();
    return Objects.requireNonNull(read.thing());
  }

  private void change(String kind, String key, String after) {
    Thing now = thing(kind, after);
    model.change(
        state -> {
          Thing was =
              state
                  .engine()
                  .catalogue()
                  .find(Objects.requireNonNull(ThingDocument.kind(kind)), key)
                  .getFirst();
          return List.of(new Change.Altered(was, now));
        },
        new RevisionCause("mar", "Zqxname title", null, null),
        (state, revision) -> {
          Thing was =
              state
                  .engine()
                  .catalogue()
                  .find(Objects.requireNonNull(ThingDocument.kind(kind)), key)
                  .getFirst();
          trail.write(
              List.of(
                  new AuditEvent(
                      AuditEvent.Act.CHANGED,
                      "mar",
                      "Mar",
                      null,
                      revision,
                      kind,
                      key,
                      key.startsWith(KEY) ? "Zqxname thing" : key,
                      key.startsWith(KEY) ? List.of("zqxkey-root") : List.of("branch"),
                      List.of(),
                      "Zqxname was changed",
                      ThingDocument.write(was),
                      ThingDocument.write(now),
                      "127.0.0.1")));
        });
  }

  @BeforeEach
  void freshCodes() {
    database.update("update credential set totp_last_step = -1");
    database.update("delete from sign_in_throttle");
  }

  /** With a token of somebody who reads all accounts, cut to one. */
  private Caller token() {
    String secret = "mandala_robot";
    database.update("delete from token");
    database.update(
        "insert into token (id, name, principal, purposes, accounts, hash, made_by, made_at,"
            + " ends_at) values ('t', 'Robot', 'robot', ?, ?, ?, 'mar', now(), now() + interval"
            + " '1 day')",
        new String[] {"access", "directory", "findings", "trail"},
        new String[] {"branch"},
        DigestUtils.sha256Hex(secret));
    return Caller.withToken(secret, environment);
  }

  private Caller caller(String who) {
    if (who.equals("robot")) {
      return token();
    }
    Caller caller = new Caller(environment);
    if (!who.equals("nobody")) {
      String code =
          who.equals("dario") ? DemoCredentials.codeOf(new PrincipalKey(who), Instant.now()) : "";
      database.update("update credential set totp_last_step = -1");
      assertThat(caller.signIn(who, DemoCredentials.PASSWORD, code).status()).isEqualTo(200);
    }
    return caller;
  }

  /** Writes a hostile draft as an earlier version might have kept it: past every check. */
  private void hostile(String who) {
    database.update(
        "update draft set state = 'discarded' where owner = ? and state in ('open', 'aside')", who);
    Draft draft = Draft.EMPTY;
    for (String each : MarkerCalls.HOSTILE) {
      int blank = each.indexOf(' ');
      String json = each.substring(blank + 1).replace("%s", who);
      draft = draft.with(new Change.Added(thing(each.substring(0, blank), json)));
    }
    Draft all = draft;
    drafts.begin(who, null, model.state().revision(), all);
  }

  // ---- what is called ---------------------------------------------------------------------------

  private List<MarkerCalls.Operation> operations() {
    List<MarkerCalls.Operation> operations = new ArrayList<>();
    JsonNode paths = caller("nobody").get("/v3/api-docs").json().get("paths");
    paths
        .properties()
        .forEach(path ->
            path.getValue()
                .properties()
                .forEach(it ->
                    operations.add(
                        new MarkerCalls.Operation(
                            it.getKey().toUpperCase(java.util.Locale.ROOT),
                            path.getKey(),
                            it.getValue()))));
    return operations;
  }

  /** What a caller typed may come back in the answer to that very call. */
  private static String withoutWhatWasTyped(String body, String typed) {
    String rest = body;
    Set<String> words =
        new TreeSet<>((one, other) -> {
          int longer = other.length() - one.length();
          return longer == 0 ? one.compareTo(other) : longer;
        });
    var keys = java.util.regex.Pattern.compile(KEY + "-[a-z0-9]+").matcher(typed);
    while (keys.find()) {
      words.add(keys.group());
    }
    for (String word : words) {
      rest = rest.replace(word, "");
    }
    // a key that was taken gets an ending of its own, in what the caller itself makes
    return rest.replaceAll(KEY + "-group-[a-z0-9]{6,}", "").replace("ann@zqxname.example", "");
  }

  /** A marker where a word begins: an id made at random may have its letters in the middle. */
  private static final java.util.regex.Pattern MARKER =
      java.util.regex.Pattern.compile("(?i)(?<![a-z0-9])zqx|" + NAME + "|" + KEY);

  @ParameterizedTest(name = "{0}, hostile draft: {1}")
  @CsvSource({
    "nobody,false",
    "noor,false",
    "noor,true",
    "vera,false",
    "vera,true",
    "dario,false",
    "dario,true",
    "robot,false"
  })
  void noCallTellsOfStrangers(String who, boolean draft) {
    Caller caller = caller(who);
    List<String> leaks = new ArrayList<>();
    int called = 0;
    int answered = 0;
    for (MarkerCalls.Operation it : operations()) {
      boolean ends =
          (it.path().equals("/api/session") || it.path().endsWith("/sign-out"))
              && !it.method().equals("GET");
      for (String[] call : new MarkerCalls(strangersDraft).of(it, who)) {
        if (draft) {
          hostile(who);
        }
        Caller speaks = ends ? caller(who) : caller;
        if (who.equals("robot")) {
          database.update("delete from sign_in_throttle where id like 'token:%'");
        }
        Caller.Answer answer = speaks.send(call[0], call[1], call[2]);
        if (it.path().endsWith("/sign-out") && call[1].contains("/" + who + "/")) {
          caller = caller(who); // who signs themselves out goes on in a new session
        }
        called++;
        answered += answer.status() < 400 ? 1 : 0;
        String rest = withoutWhatWasTyped(answer.body(), call[3]);
        var marker = MARKER.matcher(rest);
        if (marker.find()) {
          int at = marker.start();
          leaks.add(
              call[0]
                  + " "
                  + call[1]
                  + " "
                  + call[2]
                  + " -> "
                  + answer.status()
                  + " …"
                  + rest.substring(Math.max(0, at - 120), Math.min(rest.length(), at + 80)));
        }
      }
    }
    assertThat(leaks).as("of %s calls, %s answered", called, answered).isEmpty();
    assertThat(answered).as("of %s calls", called).isGreaterThan(who.equals("nobody") ? 0 : 80);
  }

  /** What a job answers is fetched by its id, which no other test here has. */
  @ParameterizedTest
  @ValueSource(strings = {"noor", "vera", "dario"})
  void noProposalToTidyTellsOfStrangers(String who) {
    Caller caller = caller(who);
    Caller.Answer begun = caller.send("POST", "/api/tidy", "{\"roles\":true}");
    if (begun.status() == 403) {
      assertThat(who).as("who may read nobody").isEqualTo("noor");
      return;
    }
    String job = caller.job(begun).get("id").stringValue();
    Caller.Answer answer = caller.get("/api/tidy/" + job);
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    assertThat(MARKER.matcher(answer.body()).find()).as(answer.body()).isFalse();
  }

  @ParameterizedTest
  @ValueSource(strings = {"noor", "vera", "dario"})
  void noDiscrepancyTellsOfStrangers(String who) {
    connect(); // other calls here may have removed it
    Caller caller = caller(who);
    String path = "/api/systems/their-system/";
    StringBuilder answers = new StringBuilder();
    Caller.Answer list = caller.get(path + "discrepancies");
    if (list.status() == 200) {
      List<String> strangers = new ArrayList<>();
      for (JsonNode it : list.json().get("discrepancies")) {
        if (it.get("kind").stringValue().equals("unknown")) {
          strangers.add(it.toString().replaceAll("id\\d", "id").replace("Elsewhere", "House"));
        }
      }
      assertThat(strangers).as("who is there and who is not looks alike").hasSize(3);
      assertThat(Set.copyOf(strangers)).hasSize(1);
    }
    for (String it : List.of("discrepancies", "discrepancies?state=any", "terms/1")) {
      answers.append(caller.get(path + it).body());
    }
    Caller.Answer trial = caller.send("POST", path + "terms/1/trial", THEIR_HOLDINGS);
    answers.append(trial.body());
    if (trial.status() == 200) {
      assertThat(trial.body()).contains("[\"id1\",\"id2\",\"id4\"]");
    }
    assertThat(trial.status())
        .as(trial.body())
        .isEqualTo(
            switch (who) {
              case "dario" -> 200;
              case "vera" -> 403;
              default -> 404;
            });
    assertThat(MARKER.matcher(answers).find()).as(answers.toString()).isFalse();
  }

  @Test
  void theMarkersAreThereForWhoMayReadThem() {
    database.update("update credential set totp_last_step = -1");
    Caller owner = new Caller(environment);
    String code = DemoCredentials.codeOf(new PrincipalKey("mar"), Instant.now());
    assertThat(owner.signIn("mar", DemoCredentials.PASSWORD, code).status()).isEqualTo(200);
    assertThat(owner.get("/api/people").body()).contains("Zqxname Ann");
    assertThat(owner.get("/api/trail").body()).contains("Zqxname was changed");
    assertThat(owner.get("/api/revisions").body()).contains("Zqxname title");
    connect();
    assertThat(owner.get("/api/systems/their-system/discrepancies").body())
        .contains("zqxkey-ann room.enter");
    assertThat(owner.get("/api/places/matrix?place=hall").body()).contains("comes-in");
    assertThat(owner.get("/api/rights/groups/crew").body()).contains("Zqxname Bob");
  }
}
