package mandala.document;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import mandala.core.engine.Engine;
import mandala.core.explain.Explanation;
import mandala.core.explain.Route;
import mandala.core.explain.Routes;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Question;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Each reason why a route gives nothing now, said in the words that people read. */
class ReasonsTest {

  private static final String MODEL =
      """
      {"format": "mandala-model/1",
       "accounts": [{"key": "top", "name": "Top"}, {"key": "left", "name": "Left", "parent": "top"},
         {"key": "right", "name": "Right", "parent": "top"},
         {"key": "asleep", "name": "Asleep", "parent": "top", "status": "suspended"}],
       "units": [{"key": "ops", "name": "Ops", "account": "left"},
         {"key": "lab", "name": "Lab", "account": "left"}],
       "patterns": [{"key": "start", "name": "Start", "account": "left"}],
       "principals": [
         {"key": "ann", "name": "Ann", "kind": "person", "account": "left", "unit": "ops", "mfa": true,
          "reach": [{"unit": "lab", "level": "view"}]},
         {"key": "bob", "name": "Bob", "kind": "person", "account": "left", "mfa": true},
         {"key": "cid", "name": "Cid", "kind": "person", "account": "left", "status": "suspended"},
         {"key": "dot", "name": "Dot", "kind": "person", "account": "top"},
         {"key": "eve", "name": "Eve", "kind": "person", "account": "right"}],
       "groups": [
         {"key": "inner", "name": "Inner", "account": "left", "members": ["person:ann"]},
         {"key": "side", "name": "Side", "account": "left", "members": ["person:ann"]},
         {"key": "crew", "name": "Crew", "account": "left", "members": ["group:inner", "group:side"]},
         {"key": "old", "name": "Old", "account": "left", "status": "retired", "members": ["person:ann"]},
         {"key": "club", "name": "Club", "account": "left", "members": ["person:bob"]},
         {"key": "far", "name": "Far", "account": "right", "members": ["person:ann"]},
         {"key": "near", "name": "Near", "account": "right", "members": ["person:eve"]}],
       "resourceTypes": [{"key": "box", "name": "Box"}, {"key": "desk", "name": "Desk"}],
       "permissions": [
         {"key": "see", "name": "See", "on": ["box"], "class": "view", "risk": "low"},
         {"key": "fill", "name": "Fill", "on": ["box"], "class": "change", "risk": "low", "implies": ["see"]},
         {"key": "burn", "name": "Burn", "on": ["box"], "class": "administer", "risk": "critical"},
         {"key": "sit", "name": "Sit", "on": ["desk"], "class": "view", "risk": "low"},
         {"key": "sign", "name": "Sign", "on": ["box"], "class": "change", "risk": "low", "requires": ["sit"]},
         {"key": "mark", "name": "Mark", "on": ["box"], "class": "change", "risk": "low"},
         {"key": "wipe", "name": "Wipe", "on": ["box"], "class": "change", "risk": "low"}],
       "permissionSets": [{"key": "work", "name": "Work", "allow": ["fill"]}],
       "roles": [{"key": "worker", "name": "Worker", "sets": ["work"]},
         {"key": "guarded", "name": "Guarded", "sets": ["work"], "requiresMfa": true},
         {"key": "gone", "name": "Gone", "sets": ["work"], "status": "retired"},
         {"key": "chief", "name": "Chief", "inherits": ["worker"]}],
       "resources": [
         {"key": "desk", "name": "Desk", "type": "desk", "account": "left"},
         {"key": "b1", "name": "Box 1", "type": "box", "account": "left", "parent": "desk"},
         {"key": "b2", "name": "Box 2", "type": "box", "account": "left"},
         {"key": "b3", "name": "Box 3", "type": "box", "account": "left"},
         {"key": "b4", "name": "Box 4", "type": "box", "account": "left"},
         {"key": "b5", "name": "Box 5", "type": "box", "account": "left"},
         {"key": "b6", "name": "Box 6", "type": "box", "account": "left"},
         {"key": "b7", "name": "Box 7", "type": "box", "account": "left"},
         {"key": "b8", "name": "Box 8", "type": "box", "account": "left", "unit": "lab"},
         {"key": "vault", "name": "Vault", "type": "box", "account": "left", "sealed": true},
         {"key": "gem", "name": "Gem", "type": "box", "account": "left", "parent": "vault"},
         {"key": "r1", "name": "Right box", "type": "box", "account": "right", "owner": "ann"},
         {"key": "z1", "name": "Sleeping box", "type": "box", "account": "asleep"}],
       "assignments": [
         {"key": "late", "subject": "person:ann", "gives": "role:worker", "scope": [{"only": "b1"}],
          "from": "2027-01-01T00:00:00Z"},
         {"key": "jit", "subject": "person:ann", "gives": "role:worker", "scope": [{"only": "b2"}],
          "mode": "just-in-time"},
         {"key": "mfa", "subject": "person:ann", "gives": "role:guarded", "scope": [{"only": "b3"}]},
         {"key": "tree", "subject": "person:ann", "gives": "permission:mark", "scope": [{"tree": "account:left"}]},
         {"key": "club", "subject": "group:club", "gives": "role:worker", "scope": [{"only": "b4"}]},
         {"key": "old", "subject": "group:old", "gives": "role:worker", "scope": [{"only": "b5"}]},
         {"key": "gone", "subject": "person:ann", "gives": "role:gone", "scope": [{"only": "b6"}]},
         {"key": "away", "subject": "person:ann", "gives": "permission:see", "scope": [{"only": "r1"}]},
         {"key": "self", "subject": "group:inner", "gives": "permission:wipe", "scope": [{"owner": "self"}]},
         {"key": "sleep", "subject": "person:dot", "gives": "permission:see", "scope": [{"only": "z1"}]},
         {"key": "unit", "subject": "person:ann", "gives": "permission:wipe", "scope": [{"unit": "own"}]},
         {"key": "crew", "subject": "group:crew", "gives": "role:chief", "scope": [{"only": "b7"}, {"only": "b8"}]},
         {"key": "sign", "subject": "person:ann", "gives": "permission:sign", "scope": [{"only": "b1"}, {"only": "b2"}]},
         {"key": "no", "subject": "person:ann", "gives": "permission:see", "effect": "deny", "scope": [{"only": "b7"}]},
         {"key": "cid", "subject": "person:cid", "gives": "permission:see", "scope": [{"only": "b1"}]},
         {"key": "bob", "subject": "person:bob", "gives": "role:worker", "scope": [{"tree": "account:left"}]},
         {"key": "bob-burns", "subject": "person:bob", "gives": "permission:burn", "scope": [{"only": "b1"}]},
         {"key": "bob-jit", "subject": "person:bob", "gives": "permission:wipe", "scope": [{"only": "b1"}],
          "mode": "just-in-time"}],
       "bridges": [
         {"key": "offer", "account": "left", "group": "near", "gives": "role:worker", "scope": [{"only": "b1"}]},
         {"key": "foreign", "account": "left", "group": "far", "gives": "permission:burn",
          "scope": [{"only": "b4"}], "status": "accepted"}],
       "delegations": [
         {"key": "d1", "principal": "bob", "delegate": "ann", "limit": ["permission:see", "permission:burn"],
          "scope": [{"only": "b1"}]},
         {"key": "d2", "principal": "dot", "delegate": "ann", "limit": "all", "scope": [{"everything": true}]}]}
      """;

  private static final Engine ENGINE = Engine.of(DocumentReader.read(MODEL).orThrow());

  private static Explanation explain(
      String who, String permission, String where, @Nullable String actingFor) {
    return Routes.of(ENGINE)
        .explain(
            new Question(
                new PrincipalKey(who),
                new PermissionKey(permission),
                new ResourceKey(where),
                Instant.parse("2026-06-01T00:00:00Z"),
                false,
                actingFor == null ? null : new PrincipalKey(actingFor)));
  }

  private static List<String> reasons(Explanation explanation) {
    RouteText text = new RouteText(ENGINE.catalogue());
    return explanation.near().stream()
        .flatMap(route -> route.obstacles().stream())
        .map(text::obstacle)
        .distinct()
        .toList();
  }

  @ParameterizedTest(name = "{0} may not {1} {2}: {3}")
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          ann | fill | b1    | outside its window, from 2027-01-01T00:00:00Z
          ann | fill | b2    | not activated
          ann | fill | b3    | needs a second factor, for the role Guarded
          ann | mark | gem   | sealed off at Vault
          ann | fill | b4    | not a member of Club
          ann | fill | b5    | the group Old is retired
          ann | fill | b6    | the role Gone is retired
          ann | see  | r1    | does not belong to Right
          ann | wipe | r1    | its relative terms stay within Left
          dot | see  | z1    | Asleep is suspended
          ann | wipe | b8    | the unit is reached for viewing only
          ann | sign | b1    | gate missing: Sit on Desk
          ann | sign | b2    | gate missing: Sit, for which there is no place above
          ann | see  | b7    | denied by the assignment “See on Box 7 alone” to Ann
          cid | see  | b1    | Cid is not active
          eve | fill | b1    | the bridge is offered, not accepted
          ann | burn | b4    | does not belong to Right
          """)
  void aReason(String who, String permission, String where, String reason) {
    Explanation explanation = explain(who, permission, where, null);
    assertThat(explanation.live()).isEmpty();
    assertThat(reasons(explanation)).contains(reason);
  }

  @ParameterizedTest(name = "ann for {0} may not {1} {2}: {3}")
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          bob | fill | b1 | outside the delegation “Ann for Bob”: not within its limit
          bob | see  | b2 | outside the delegation “Ann for Bob”: not within its scope
          bob | burn | b1 | outside the delegation “Ann for Bob”: the permission may not be delegated
          bob | wipe | b1 | just-in-time assignments are not passed on to a delegate
          bob | see  | b7 | denied by the assignment “See on Box 7 alone” to Ann
          dot | see  | z1 | does not belong to Top
          """)
  void aReasonOfADelegate(String whom, String permission, String where, String reason) {
    Explanation explanation = explain("ann", permission, where, whom);
    assertThat(explanation.live()).isEmpty();
    assertThat(reasons(explanation)).contains(reason);
  }

  @Test
  void whoHasNoDelegationIsToldSo() {
    assertThat(reasons(explain("eve", "see", "b1", "bob"))).contains("no delegation by Bob");
  }

  @Nested
  class ALiveRoute {

    private Route only(String who, String permission, String where, @Nullable String actingFor) {
      Explanation explanation = explain(who, permission, where, actingFor);
      assertThat(explanation.live()).hasSize(1);
      return explanation.live().getFirst();
    }

    private Stream<String> steps(Route route) {
      return new RouteText(ENGINE.catalogue())
          .steps(route).stream().map(step -> step.name() + " (" + step.remark() + ")");
    }

    @Test
    void tellsTheShortestWayAndHowManyOthers() {
      Route route = only("ann", "fill", "b8", null);
      List<String> steps = steps(route).toList();
      assertThat(steps.getFirst()).isEqualTo("Ann (person)");
      assertThat(steps.get(1)).isIn("Inner (group)", "Side (group)");
      assertThat(steps.get(2)).isEqualTo("Crew (group)");
      assertThat(route.otherPaths()).isEqualTo(1);
    }

    @Test
    void tellsRoleSetImplicationAndPlace() {
      Route route =
          explain("bob", "see", "b1", null).live().stream()
              .findFirst()
              .map(Objects::requireNonNull)
              .orElseThrow();
      assertThat(steps(route))
          .containsExactly(
              "Bob (person)",
              "assigned ()",
              "Worker (role)",
              "Work (set)",
              "Fill (permission)",
              "See (permission)",
              "Left (everything in Left)");
    }

    @Test
    void ofADelegateNamesTheDelegation() {
      assertThat(only("ann", "see", "b1", "bob").delegation()).isEqualTo(new DelegationKey("d1"));
    }
  }
}
