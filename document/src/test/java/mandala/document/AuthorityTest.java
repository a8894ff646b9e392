package mandala.document;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import mandala.core.authority.Authority;
import mandala.core.authority.Refusal;
import mandala.core.authority.RequiredRight;
import mandala.core.authority.SecondApproval;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Who may change what (section 11), row by row. */
class AuthorityTest {

  private static final Instant NOW = Instant.parse("2026-11-23T12:00:00Z");

  private static final String MODEL =
      """
      {"format": "mandala-model/1",
       "accounts": [{"key": "trust"}, {"key": "sea", "parent": "trust"}, {"key": "dunlow"}],
       "units": [{"key": "rooms", "account": "sea"},
                 {"key": "attic", "account": "sea", "parent": "rooms"}],
       "patterns": [{"key": "p-sea", "account": "sea"}, {"key": "p-free"}],
       "principals": [
         {"key": "mar", "kind": "person", "account": "trust", "mfa": true},
         {"key": "ilse", "kind": "person", "account": "trust", "mfa": true},
         {"key": "dario", "kind": "person", "account": "sea", "mfa": true},
         {"key": "noor", "kind": "person", "account": "sea", "unit": "rooms",
          "reach": [{"unit": "attic", "level": "view"}]},
         {"key": "pia", "kind": "person", "account": "dunlow"}],
       "guests": [{"principal": "pia", "account": "sea"}],
       "groups": [{"key": "team", "account": "sea", "members": ["person:noor"]},
                  {"key": "other", "account": "trust"}],
       "resourceTypes": [{"key": "room"}],
       "permissions": [
         {"key": "room.enter", "on": ["room"], "class": "view", "risk": "low"},
         {"key": "room.burn", "on": ["room"], "class": "change", "risk": "critical"}],
       "permissionSets": [{"key": "s-sea", "account": "sea", "allow": ["room.enter"]}],
       "roles": [{"key": "keeper", "sets": ["s-sea"]}],
       "resources": [{"key": "hall", "type": "room", "account": "sea"},
                     {"key": "vault", "type": "room", "account": "sea", "parent": "hall",
                      "sealed": true}],
       "collections": [{"key": "c", "account": "sea", "members": ["hall"]},
                       {"key": "none", "account": "sea"}],
       "assignments": [
         {"key": "own", "subject": "person:mar", "gives": "role:mandala.owner",
          "scope": [{"tree": "account:trust"}]},
         {"key": "sec", "subject": "person:ilse", "gives": "role:mandala.security-administrator",
          "scope": [{"tree": "account:trust"}]},
         {"key": "del", "subject": "person:dario", "gives": "role:mandala.security-administrator",
          "scope": [{"tree": "account:sea"}]},
         {"key": "jit", "subject": "group:team", "gives": "role:keeper",
          "scope": [{"tree": "hall"}], "mode": "just-in-time"}],
       "bridges": [{"key": "b", "account": "dunlow", "group": "team",
                    "gives": "permission:room.enter", "scope": [{"account": "dunlow"}]}]}
      """;

  private final Engine engine = Engine.of(DocumentReader.read(MODEL).orThrow());

  private static Session session(String who) {
    return new Session(new PrincipalKey(who), NOW, true, null);
  }

  private static Thing thing(String kind, String json) {
    Kind of = ThingDocument.kind(kind);
    assertThat(of).isNotNull();
    ThingDocument.Result result = ThingDocument.read(of, json.replace('\'', '"'));
    assertThat(result.faults()).isEmpty();
    return Objects.requireNonNull(result.thing());
  }

  /** What a thing sent in place of one of its key changes; an empty text removes the key's. */
  private Change change(String kind, String json) {
    Catalogue catalogue = engine.catalogue();
    if (json.startsWith("-")) {
      return new Change.Removed(
          catalogue
              .find(Objects.requireNonNull(ThingDocument.kind(kind)), json.substring(1))
              .getFirst());
    }
    Thing now = thing(kind, json);
    Thing old = catalogue.find(now);
    return old == null ? new Change.Added(now) : new Change.Altered(old, now);
  }

  private Authority judged(String author, Change... changes) {
    return Authority.of(engine, Draft.of(List.of(changes)), session(author));
  }

  private static String told(RequiredRight demand) {
    return demand.permission().value().substring("mandala.".length())
        + "@"
        + String.join("|", demand.anyOf().stream().map(Key::value).toList());
  }

  @ParameterizedTest(name = "{0} {1}")
  @CsvSource(
      delimiter = ';',
      quoteCharacter = '`',
      value = {
        "principals; {'key':'new','kind':'person','account':'sea'}; people.manage@account:sea",
        "principals; {'key':'new','kind':'person','account':'sea','unit':'attic'};"
            + " people.manage@unit:attic",
        "principals; {'key':'noor','kind':'person','account':'sea'};"
            + " people.manage@unit:rooms people.manage@account:sea",
        "principals; {'key':'noor','kind':'person','account':'sea','unit':'rooms',"
            + "'reach':[{'unit':'attic','level':'full'}]};"
            + " people.manage@unit:rooms people.manage@unit:attic",
        "principals; {'key':'noor','kind':'person','account':'sea','unit':'rooms'};"
            + " people.manage@unit:rooms",
        "units; {'key':'attic','account':'sea'};"
            + " people.manage@unit:attic people.manage@unit:rooms people.manage@account:sea",
        "units; {'key':'new','account':'sea','parent':'rooms'}; people.manage@unit:rooms",
        "guests; {'principal':'pia','account':'trust'}; people.manage@account:trust",
        "guests; {'principal':'pia','account':'trust','withSubaccounts':true};"
            + " people.manage@account:trust people.manage@account:sea",
        "groups; {'key':'new','account':'sea'}; groups.manage@account:sea",
        "groups; {'key':'team','account':'sea','members':['person:noor','person:pia']};"
            + " groups.manage@group:team",
        "groups; {'key':'team','account':'sea','members':['group:other']};"
            + " groups.manage@group:team groups.manage@group:other",
        "groups; -team; groups.manage@group:team groups.manage@account:sea",
        "groups; {'key':'team','account':'trust'};"
            + " groups.manage@group:team groups.manage@account:sea groups.manage@account:trust",
        "roles; {'key':'new','account':'sea'}; rights.define@account:sea",
        "roles; {'key':'new'}; rights.define@account:trust rights.define@account:dunlow",
        "roles; {'key':'keeper','account':'sea'};"
            + " rights.define@account:trust rights.define@account:dunlow rights.define@account:sea",
        "patterns; {'key':'p-sea','account':'sea','name':'x'}; rights.define@account:sea",
        "resourceTypes; {'key':'new','account':'sea'}; rights.define@account:sea",
        "resources; {'key':'hall','type':'room','account':'sea','sealed':true};"
            + " places.manage@hall",
        "resources; {'key':'new','type':'room','account':'sea','parent':'hall'};"
            + " places.manage@hall",
        "resources; {'key':'vault','type':'room','account':'sea','sealed':true};"
            + " places.manage@vault places.manage@hall places.manage@account:sea",
        "resources; -vault; places.manage@vault places.manage@hall",
        "collections; {'key':'c','account':'sea','members':['vault']};"
            + " places.manage@hall places.manage@vault",
        "collections; {'key':'none','account':'sea','name':'x'}; places.manage@account:sea",
        "assignments; {'key':'n','subject':'person:noor','gives':'role:keeper',"
            + "'scope':[{'tree':'hall'},{'account':'dunlow','type':'room'}]};"
            + " access.assign@hall access.assign@account:dunlow",
        "assignments; {'key':'n','subject':'person:noor','gives':'role:keeper',"
            + "'scope':[{'collection':'c'}],'viewScope':[{'unit':'attic'}]};"
            + " access.assign@hall access.assign@unit:attic",
        "assignments; {'key':'n','subject':'group:team','gives':'role:keeper',"
            + "'scope':[{'owner':'self'}]}; access.assign@account:sea",
        "assignments; {'key':'n','subject':'pattern:p-free','gives':'role:keeper',"
            + "'scope':[{'unit':'own'}]};"
            + " access.assign@account:trust access.assign@account:dunlow",
        "assignments; {'key':'n','subject':'person:pia','gives':'role:keeper',"
            + "'scope':[{'unit':'own'}]}; access.assign@account:dunlow",
        "assignments; {'key':'n','subject':'person:noor','gives':'role:keeper',"
            + "'scope':[{'type':'room'}]};"
            + " access.assign@account:trust access.assign@account:dunlow",
        "assignments; {'key':'n','subject':'person:noor','gives':'role:keeper','scope':[]};"
            + " access.assign@account:trust access.assign@account:dunlow",
        "assignments; {'key':'n','subject':'person:noor','gives':'role:keeper',"
            + "'scope':[{'tree':'hall'}],'crossesSeals':true};"
            + " access.assign@hall access.assign@vault",
        "bridges; {'key':'n','account':'dunlow','group':'team','gives':'permission:room.enter',"
            + "'scope':[{'account':'dunlow'}]}; bridge.manage@account:sea",
        "bridges; {'key':'b','account':'dunlow','group':'team','gives':'permission:room.enter',"
            + "'scope':[{'account':'dunlow'}],'status':'accepted'}; bridge.manage@account:dunlow",
        "bridges; {'key':'b','account':'dunlow','group':'team','gives':'permission:room.enter',"
            + "'scope':[{'account':'dunlow'}],'status':'ended'};"
            + " bridge.manage@account:sea|account:dunlow",
        "bridges; -b; bridge.manage@account:sea|account:dunlow",
        "accounts; {'key':'sea','parent':'trust','sealed':true};"
            + " account.manage@account:sea account.manage@account:trust",
        "accounts; {'key':'new','parent':'sea'}; account.manage@account:sea",
        "delegations; {'key':'d','principal':'noor','delegate':'dario','limit':'all',"
            + "'scope':[{'tree':'hall'}]}; people.manage@unit:rooms",
      })
  void aChangeAsksForWhatTheTableSays(String kind, String json, String expected) {
    Change change = change(kind, json);
    Authority authority = judged("ilse", change);
    assertThat(authority.demandsOf(change).stream().map(AuthorityTest::told))
        .containsExactlyInAnyOrder(expected.split(" "));
  }

  @Test
  void whatTheDraftItselfCreatesStandsForItsNearestAncestor() {
    Change unit = change("units", "{'key':'u','account':'sea','parent':'attic'}");
    Change person =
        change("principals", "{'key':'new','kind':'person','account':'sea','unit':'u'}");
    Change room = change("resources", "{'key':'r','type':'room','account':'sea','parent':'vault'}");
    Change grant =
        change(
            "assignments",
            "{'key':'n','subject':'person:new','gives':'role:keeper','scope':[{'tree':'r'}]}");
    Authority authority = judged("ilse", unit, person, room, grant);
    assertThat(authority.demandsOf(person).stream().map(AuthorityTest::told))
        .containsExactly("people.manage@unit:attic");
    assertThat(authority.demandsOf(grant).stream().map(AuthorityTest::told))
        .containsExactly("access.assign@vault");
  }

  @Test
  void aDelegatedAdministratorIsStoppedAtTheBorder() {
    Change inside = change("groups", "{'key':'n','account':'sea'}");
    Change outside = change("groups", "{'key':'m','account':'trust'}");
    assertThat(judged("dario", inside).refusals()).isEmpty();
    Authority authority = judged("dario", inside, outside);
    assertThat(authority.refusals()).hasSize(1);
    Refusal.Lacking lacking = (Refusal.Lacking) authority.refusals().getFirst();
    assertThat(lacking.change()).isEqualTo(outside);
    assertThat(told(lacking.demand())).isEqualTo("groups.manage@account:trust");
    assertThat(authority.whoCould(lacking.demand()).stream().map(Key::value))
        .containsExactlyInAnyOrder("mar", "ilse");
  }

  @Test
  void theSecondFactorOfTheSessionCounts() {
    Change change = change("groups", "{'key':'n','account':'sea'}");
    Session without = new Session(new PrincipalKey("dario"), NOW, false, null);
    assertThat(Authority.of(engine, Draft.of(List.of(change)), without).refusals()).hasSize(1);
    Session acting = new Session(new PrincipalKey("dario"), NOW, true, new PrincipalKey("ilse"));
    assertThatThrownBy(() -> Authority.of(engine, Draft.EMPTY, acting))
        .hasMessageContaining("acting for someone else");
  }

  @Test
  void aNewRootIsMadeOnTheCommandLineOnly() {
    assertThat(judged("mar", change("accounts", "{'key':'isle'}")).refusals())
        .anyMatch(Refusal.NewRoot.class::isInstance);
    assertThat(judged("mar", change("accounts", "{'key':'sea'}")).refusals())
        .anyMatch(Refusal.NewRoot.class::isInstance);
  }

  @Test
  void whatABridgeGivesChangesOnlyWhileItIsOffered() {
    String accepted =
        "{'key':'b','account':'dunlow','group':'team','gives':'permission:%s',"
            + "'scope':[{'account':'dunlow'}],'status':'accepted'}";
    Change accepts = change("bridges", accepted.formatted("room.enter"));
    Engine after = engine.after(List.of(accepts));
    Change gives =
        new Change.Altered(
            accepts.things().getLast(), thing("bridges", accepted.formatted("room.burn")));
    assertThat(Authority.of(after, Draft.of(List.of(gives)), session("ilse")).refusals())
        .contains(new Refusal.NotOffered(gives));
  }

  @Test
  void anActivationIsMadeByItsPrincipalOfAnAssignmentOfWhichItHasTheSubject() {
    String json = "{'principal':'%s','assignment':'jit','until':'2026-11-24T00:00:00Z'}";
    Change noors = new Change.Added(thing("activations", json.formatted("noor")));
    Change darios = new Change.Added(thing("activations", json.formatted("dario")));
    assertThat(judged("noor", noors).refusals()).isEmpty();
    assertThat(judged("ilse", noors).refusals()).containsExactly(new Refusal.NotOneself(noors));
    assertThat(judged("dario", darios).refusals()).containsExactly(new Refusal.NotOneself(darios));
  }

  @Test
  void aDelegationIsMadeByWhomItIsOf() {
    Change change =
        change(
            "delegations",
            "{'key':'d','principal':'noor','delegate':'dario','limit':'all',"
                + "'scope':[{'tree':'hall'}]}");
    assertThat(judged("noor", change).refusals()).isEmpty();
    assertThat(judged("pia", change).refusals()).hasSize(1);
  }

  @Nested
  class TheLastOwner {

    private List<Refusal> ownerless(Change... changes) {
      Draft draft = Draft.of(List.of(changes));
      return Authority.of(engine, draft, session("mar")).ownerless(engine.after(draft.inOrder()));
    }

    @Test
    void stays() {
      Refusal expected = new Refusal.LastOwner(new AccountKey("trust"));
      assertThat(ownerless(change("assignments", "-own"))).containsExactly(expected);
      assertThat(
              ownerless(
                  change(
                      "principals",
                      "{'key':'mar','kind':'person','account':'trust','mfa':true,"
                          + "'status':'suspended'}")))
          .containsExactly(expected);
      assertThat(
              ownerless(
                  change(
                      "assignments",
                      "{'key':'own','subject':'person:mar','gives':'role:mandala.owner',"
                          + "'scope':[{'tree':'account:trust'}],'until':'2030-01-01T00:00:00Z'}")))
          .containsExactly(expected);
    }

    @Test
    void isNoOwnerWhoseOwnTimeEnds() {
      Refusal expected = new Refusal.LastOwner(new AccountKey("trust"));
      assertThat(
              ownerless(
                  change(
                      "principals",
                      "{'key':'mar','kind':'person','account':'trust','mfa':true,"
                          + "'until':'2030-01-01T00:00:00Z'}")))
          .containsExactly(expected);
    }

    @Test
    void mayGoWhereAnotherComes() {
      Change next =
          change(
              "assignments",
              "{'key':'own2','subject':'person:ilse','gives':'role:mandala.owner',"
                  + "'scope':[{'account':'trust'}]}");
      assertThat(ownerless(change("assignments", "-own"), next)).isEmpty();
    }

    @Test
    void isNotAskedForWhereThereWasNone() {
      assertThat(ownerless(change("accounts", "{'key':'dunlow','name':'x'}"))).isEmpty();
    }
  }

  @Nested
  class ASecondPerson {

    private List<String> reasons(String author, Change... changes) {
      Draft draft = Draft.of(List.of(changes));
      List<String> told = new ArrayList<>();
      new SecondApproval(engine)
          .reasons(engine.after(draft.inOrder()), draft, session(author))
          .forEach(reason ->
              told.add(
                  switch (reason) {
                    case SecondApproval.Reason.Widens(Instant at, long rights) ->
                        "widens " + rights + " at " + at;
                    case SecondApproval.Reason.WidensFor(
                            PrincipalKey who,
                            Instant at,
                            long rights) ->
                        "widens for " + who + " " + rights + " at " + at;
                    case SecondApproval.Reason.Critical(List<PermissionKey> what, Instant at) ->
                        "critical " + what + " at " + at;
                    case SecondApproval.Reason.ManyPeople(int people, int atMost) ->
                        people + " people, at most " + atMost;
                  }));
      return told;
    }

    private String grant(String subject, String gives, String more) {
      return "{'key':'n','subject':'%s','gives':'%s','scope':[{'tree':'hall'}]%s}"
          .formatted(subject, gives, more);
    }

    @Test
    void isNotNeededForAPlainGrantToAnother() {
      assertThat(reasons("ilse", change("assignments", grant("person:noor", "role:keeper", ""))))
          .isEmpty();
    }

    @Test
    void isNeededWhereTheAuthorGains() {
      assertThat(reasons("noor", change("assignments", grant("person:noor", "role:keeper", ""))))
          .as("switching on could give as much already, but for what is sealed off")
          .isEmpty();
      assertThat(reasons("dario", change("assignments", grant("person:dario", "role:keeper", ""))))
          .containsExactly("widens 1 at 2026-11-23T12:00:00Z");
    }

    @Test
    void isNeededWhereTheAuthorGainsLater() {
      assertThat(
              reasons(
                  "dario",
                  change(
                      "assignments",
                      grant("person:dario", "role:keeper", ",'from':'2027-01-01T00:00:00Z'"))))
          .containsExactly("widens 1 at 2027-01-01T00:00:00Z");
    }

    @Test
    void isNeededWhereTheAuthorMayActForAnother() {
      assertThat(
              reasons(
                  "dario",
                  change("assignments", grant("person:noor", "role:keeper", "")),
                  change(
                      "delegations",
                      "{'key':'d','principal':'noor','delegate':'dario','limit':'all',"
                          + "'scope':[{'tree':'hall'}]}")))
          .containsExactly("widens for noor 1 at 2026-11-23T12:00:00Z");
    }

    @Test
    void isNeededWhereAnybodyGainsSomethingCritical() {
      assertThat(
              reasons(
                  "ilse", change("assignments", grant("person:noor", "permission:room.burn", ""))))
          .containsExactly("critical [room.burn] at 2026-11-23T12:00:00Z");
      assertThat(
              reasons(
                  "ilse",
                  change(
                      "assignments",
                      grant("person:noor", "permission:room.burn", ",'mode':'just-in-time'"))))
          .as("switched on, it could be used")
          .containsExactly("critical [room.burn] at 2026-11-23T12:00:00Z");
    }

    @Test
    void isNeededWhereWhoeverIsNotSignedInGainsSomethingCritical() {
      assertThat(
              reasons(
                  "ilse", change("assignments", grant("anonymous", "permission:room.burn", ""))))
          .containsExactly("critical [room.burn] at 2026-11-23T12:00:00Z");
      assertThat(
              reasons(
                  "ilse",
                  change(
                      "assignments",
                      grant(
                          "anonymous", "permission:room.burn", ",'from':'2027-01-01T00:00:00Z'"))))
          .containsExactly("critical [room.burn] at 2027-01-01T00:00:00Z");
    }

    private Optional<SecondApproval.Reason> manyPeople(int atMost, Change... changes) {
      Draft draft = Draft.of(List.of(changes));
      return new SecondApproval(engine)
          .manyPeople(
              engine.after(draft.inOrder()),
              draft,
              atMost,
              NOW,
              mandala.core.question.Impact.Watch.TO_THE_END);
    }

    @Test
    void isNeededWhereMorePeopleAreConcernedLaterThanThePolicyAllows() {
      Change later =
          change(
              "assignments",
              "{'key':'n','subject':'account:sea','gives':'role:keeper',"
                  + "'scope':[{'tree':'hall'}],'from':'2027-01-01T00:00:00Z'}");
      assertThat(manyPeople(2, later))
          .as("noor, dario and the guest pia, though nobody today")
          .contains(new SecondApproval.Reason.ManyPeople(3, 2));
      assertThat(manyPeople(3, later)).isEmpty();
    }

    @Test
    void isNotAskedForTwiceBySomebodyWhoGainsAtTwoTimes() {
      Change first =
          change(
              "assignments",
              grant("person:noor", "role:keeper", ",'until':'2027-01-01T00:00:00Z'"));
      Change second =
          change(
              "assignments",
              grant("person:noor", "role:keeper", ",'from':'2028-01-01T00:00:00Z'")
                  .replace("'key':'n'", "'key':'m'"));
      assertThat(manyPeople(1, first, second)).isEmpty();
      assertThat(manyPeople(0, first, second)).contains(new SecondApproval.Reason.ManyPeople(1, 0));
    }

    @Test
    void isNeededWhereWhoeverIsNotSignedInCountsToo() {
      Change open = change("assignments", grant("anonymous", "permission:room.enter", ""));
      assertThat(manyPeople(0, open)).contains(new SecondApproval.Reason.ManyPeople(1, 0));
    }

    @Test
    void isNotNeededForAPlaceOnWhichTheAuthorHasWhatHeHasAbove() {
      Change group = change("groups", "{'key':'n','account':'sea','members':['person:noor']}");
      Change room =
          change("resources", "{'key':'r','type':'room','account':'sea','parent':'hall'}");
      assertThat(reasons("dario", group, room)).isEmpty();
      assertThat(
              reasons(
                  "dario",
                  room,
                  change(
                      "assignments",
                      "{'key':'n','subject':'person:dario','gives':'role:keeper',"
                          + "'scope':[{'only':'r'}]}")))
          .as("but for what is given there besides")
          .containsExactly("widens 1 at 2026-11-23T12:00:00Z");
    }

    @Test
    void isNotNeededForSwitchingOn() {
      Change on =
          new Change.Added(
              thing(
                  "activations",
                  "{'principal':'noor','assignment':'jit','until':'2026-11-24T00:00:00Z'}"));
      assertThat(reasons("noor", on)).isEmpty();
    }

    @Test
    void isActiveAndNotTheAuthorAndMayApproveEverywhere() {
      Authority authority = judged("dario", change("groups", "{'key':'n','account':'sea'}"));
      assertThat(authority.mayApprove(session("dario"))).isFalse();
      assertThat(authority.mayApprove(session("ilse"))).isTrue();
      assertThat(authority.mayApprove(session("noor"))).isFalse();
      assertThat(authority.whoCouldApprove().stream().map(Key::value))
          .containsExactlyInAnyOrder("mar", "ilse");
      Authority both =
          judged(
              "dario",
              change("groups", "{'key':'n','account':'sea'}"),
              change("guests", "{'principal':'noor','account':'dunlow'}"));
      assertThat(both.mayApprove(session("ilse"))).isFalse();
      assertThat(both.whoCouldApprove()).isEmpty();
    }
  }

  @Test
  void changesAreReadAsTheyWereWritten() {
    List<Change> changes =
        List.of(
            change("groups", "{'key':'n','account':'sea'}"),
            change("groups", "-team"),
            change("units", "{'key':'attic','account':'sea'}"));
    assertThat(ThingDocument.changes(ThingDocument.write(changes))).isEqualTo(changes);
    assertThat(ThingDocument.read(Kind.GROUPS, "[]").faults()).hasSize(1);
    assertThat(ThingDocument.read(Kind.GROUPS, "{").faults().getFirst().what())
        .startsWith("this is not JSON");
    assertThat(ThingDocument.read(Kind.GROUPS, "{\"key\":\"x\",\"colour\":1}").faults())
        .extracting("path")
        .containsExactly("$.account", "$.colour");
  }
}
