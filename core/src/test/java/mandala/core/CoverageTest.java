package mandala.core;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mandala.core.engine.Engine;
import mandala.core.explain.Explanation;
import mandala.core.explain.GrantStep;
import mandala.core.explain.Obstacle;
import mandala.core.explain.Route;
import mandala.core.explain.Routes;
import mandala.core.explain.Source;
import mandala.core.explain.SubjectStep;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.Role;
import mandala.core.model.Term;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.RoleKey;
import mandala.core.question.Decision;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import org.junit.jupiter.api.Test;

/**
 * Which rules decide the random questions: a rule decides where the only live route needs it, or
 * where it alone stands against the route that would do. Every rule of sections 2 to 7 must decide
 * some.
 */
class CoverageTest {

  private static final List<String> RULES =
      List.of(
          "2 subject: person itself",
          "2 subject: listed in a group",
          "2 subject: in a group by rule",
          "2 subject: through a nested group",
          "2 subject: pattern",
          "2 subject: home account",
          "2 subject: account as a guest",
          "2 subject: SIGNED_IN",
          "2 subject: ANYONE",
          "2 subject: ANONYMOUS",
          "2 against: PrincipalInactive",
          "2 against: GroupRetired",
          "2 against: NotMember",
          "3 gives: role",
          "3 gives: junior role",
          "3 gives: set",
          "3 gives: included set",
          "3 gives: permission",
          "3 gives: implied permission",
          "3 gives: with a second factor",
          "3 against: RoleRetired",
          "3 against: NeedsSecondFactor",
          "4 term: Everything",
          "4 term: InAccount",
          "4 term: OwnAccount",
          "4 term: Tree",
          "4 term: Only",
          "4 term: InCollection",
          "4 term: OfType",
          "4 term: InUnit",
          "4 term: OwnUnit",
          "4 term: OwnedBy SELF",
          "4 term: OwnedBy TEAM",
          "4 term: OwnedBy NONE",
          "4 term: Labelled",
          "4 several terms",
          "4 view scope",
          "4 crosses seals",
          "4 against: SealedBy",
          "4 against: StaysAtHome",
          "4 against: ReachedForViewingOnly",
          "5 just-in-time, switched on",
          "5 against: NotActivated",
          "5 against: OutsideWindow",
          "5 against: DoesNotBelong",
          "5 against: AccountSuspended",
          "5 bridge",
          "5 against: BridgeNotAccepted",
          "5 against: DeniedBy",
          "6 gated and usable",
          "6 against: GateMissing",
          "7 delegation",
          "7 against: NotForDelegates",
          "7 against: OutsideDelegation",
          "7 against: NoDelegation");

  private final Map<String, Integer> decided = new TreeMap<>();

  private void note(String rule) {
    decided.merge(rule, 1, Integer::sum);
  }

  @Test
  void everyRuleDecidesSomeQuestion() {
    for (long seed = 1; seed <= Long.getLong("mandala.coverage", 900); seed++) {
      AccessModel model = RandomModels.model(seed);
      Engine engine = Engine.of(model);
      Routes routes = Routes.of(engine);
      for (Question question : RandomModels.questions(model, seed, 40)) {
        Decision decision = engine.decide(question);
        note("verdict " + decision.verdict().word());
        if (decision.verdict() != Verdict.ERROR && decision.verdict() != Verdict.NOT_APPLICABLE) {
          tell(routes.explain(question), engine.catalogue(), question);
        }
      }
    }
    StringBuilder table = new StringBuilder("questions decided by each rule\n");
    decided.forEach((rule, count) -> table.append(String.format("%8d  %s%n", count, rule)));
    System.out.println(table);
    assertThat(decided.keySet()).containsAll(RULES);
    for (Verdict verdict : Verdict.values()) {
      assertThat(decided).containsKey("verdict " + verdict.word());
    }
  }

  private void tell(Explanation explanation, Catalogue catalogue, Question question) {
    if (explanation.live().size() == 1) {
      live(explanation.live().getFirst(), catalogue);
      if (!gatesOf(question, catalogue).isEmpty()) {
        note("6 gated and usable");
      }
    }
    if (explanation.live().isEmpty()) {
      for (Route route : explanation.near()) {
        if (route.obstacles().size() == 1) {
          against(route.obstacles().getFirst());
        }
      }
    }
  }

  private static List<PermissionKey> gatesOf(Question question, Catalogue catalogue) {
    List<PermissionKey> open = new ArrayList<>(List.of(question.permission()));
    List<PermissionKey> gates = new ArrayList<>();
    for (int i = 0; i < open.size(); i++) {
      var permission = catalogue.permissions().get(open.get(i));
      gates.addAll(permission.requires());
      permission.implies().stream().filter(it -> !open.contains(it)).forEach(open::add);
    }
    return gates;
  }

  private void against(Obstacle obstacle) {
    String section =
        switch (obstacle) {
          case Obstacle.PrincipalInactive _, Obstacle.GroupRetired _, Obstacle.NotMember _ -> "2";
          case Obstacle.RoleRetired _, Obstacle.NeedsSecondFactor _ -> "3";
          case Obstacle.SealedBy _, Obstacle.StaysAtHome _, Obstacle.ReachedForViewingOnly _ -> "4";
          case Obstacle.NotActivated _,
              Obstacle.OutsideWindow _,
              Obstacle.DoesNotBelong _,
              Obstacle.AccountSuspended _,
              Obstacle.BridgeNotAccepted _,
              Obstacle.DeniedBy _ ->
              "5";
          case Obstacle.GateMissing _ -> "6";
          case Obstacle.NotForDelegates _, Obstacle.OutsideDelegation _, Obstacle.NoDelegation _ ->
              "7";
        };
    note(section + " against: " + obstacle.getClass().getSimpleName());
  }

  private void live(Route route, Catalogue catalogue) {
    subject(route.subjectPath());
    gifts(route.gifts(), catalogue);
    for (Term term : route.coverage().clause().terms()) {
      note(
          "4 term: "
              + term.getClass().getSimpleName()
              + (term instanceof Term.OwnedBy(Term.Owner owner) ? " " + owner : ""));
    }
    if (route.coverage().clause().terms().size() > 1) {
      note("4 several terms");
    }
    if (route.coverage().viewScope()) {
      note("4 view scope");
    }
    if (route.delegation() != null) {
      note("7 delegation");
    }
    switch (route.source()) {
      case Source.ByBridge _ -> note("5 bridge");
      case Source.ByAssignment(AssignmentKey key) -> {
        var assignment = catalogue.assignments().get(key);
        if (assignment.crossesSeals()) {
          note("4 crosses seals");
        }
        if (assignment.mode() == mandala.core.model.Assignment.Mode.JUST_IN_TIME) {
          note("5 just-in-time, switched on");
        }
      }
    }
  }

  private void subject(List<SubjectStep> path) {
    SubjectStep last = path.getLast();
    switch (last) {
      case SubjectStep.Oneself _ -> note("2 subject: person itself");
      case SubjectStep.InGroup(var _, boolean byRule) ->
          note(byRule ? "2 subject: in a group by rule" : "2 subject: listed in a group");
      case SubjectStep.WithPattern _ -> note("2 subject: pattern");
      case SubjectStep.AtAccount(var _, boolean asGuest) ->
          note(asGuest ? "2 subject: account as a guest" : "2 subject: home account");
      case SubjectStep.Publicly(var who) -> note("2 subject: " + who);
    }
    if (path.stream().filter(SubjectStep.InGroup.class::isInstance).count() > 1) {
      note("2 subject: through a nested group");
    }
  }

  private void gifts(List<GrantStep> gifts, Catalogue catalogue) {
    switch (gifts.getFirst()) {
      case GrantStep.OfRole _ -> note("3 gives: role");
      case GrantStep.OfSet _ -> note("3 gives: set");
      case GrantStep.OfPermission _ -> note("3 gives: permission");
    }
    noteIf("3 gives: junior role", count(gifts, GrantStep.OfRole.class) > 1);
    noteIf("3 gives: included set", count(gifts, GrantStep.OfSet.class) > 1);
    noteIf("3 gives: implied permission", count(gifts, GrantStep.OfPermission.class) > 1);
    for (GrantStep gift : gifts) {
      if (gift instanceof GrantStep.OfRole(RoleKey key, var _, var _)) {
        Role role = catalogue.roles().get(key);
        noteIf("3 gives: with a second factor", role != null && role.requiresMfa());
      }
    }
  }

  private static long count(List<GrantStep> gifts, Class<? extends GrantStep> kind) {
    return gifts.stream().filter(kind::isInstance).count();
  }

  private void noteIf(String rule, boolean holds) {
    if (holds) {
      note(rule);
    }
  }
}
