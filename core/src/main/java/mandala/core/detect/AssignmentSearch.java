package mandala.core.detect;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import mandala.core.excess.InBatches;
import mandala.core.model.Assignment;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.RoleKey;
import mandala.core.question.Impact;
import mandala.core.question.ScopeReach;
import mandala.core.question.Verdict;
import mandala.core.shrink.Contents;
import mandala.core.tidy.NeedlessAssignments;
import org.jspecify.annotations.Nullable;

/** Assignments that give nothing, that another one makes needless, or that reach very far. */
final class AssignmentSearch {

  private static final Clause EVERYTHING = Clause.of(new Term.Everything());

  private final Basis basis;
  private final Consumer<Detection> found;

  private AssignmentSearch(Basis basis, Consumer<Detection> found) {
    this.basis = basis;
    this.found = found;
  }

  static void search(Basis basis, Consumer<Detection> found, Impact.Watch watch) {
    AssignmentSearch search = new AssignmentSearch(basis, found);
    Map<Assignment, Assignment> needless = NeedlessAssignments.of(basis.catalogue, basis.at);
    needless.forEach((it, by) ->
        found.accept(
            Detection.ofModel(
                new Trouble.RedundantAssignment(it.key(), by.key()), basis.given(it).risk, 1)));
    InBatches.of(
        List.copyOf(basis.catalogue.assignments().values()),
        Basis.BATCH,
        watch,
        some -> some.forEach(search::look));
  }

  private void look(Assignment it) {
    Trouble.Nothing nothing = nothing(it);
    if (nothing != null) {
      found.accept(givesNothing(it, nothing));
    } else if (it.effect() == Assignment.Effect.ALLOW && basis.isInForce(it)) {
      breadth(it);
    }
  }

  // ---- gives nothing ----------------------------------------------------------------------------

  private Detection givesNothing(Assignment it, Trouble.Nothing why) {
    Trouble trouble = new Trouble.GivesNothing(it.key(), why);
    Permission.Risk risk = Permission.Risk.LOW;
    return switch (why) {
      case NO_HOLDERS, DENIED_EVERYWHERE, GATE_NOWHERE, NO_SECOND_FACTOR, OUT_OF_REACH ->
          basis.ofHolders(it, trouble, risk, 1);
      case OVER, ROLE_RETIRED, GROUP_RETIRED, GIVES_NO_PERMISSION, COVERS_NOTHING ->
          Detection.ofModel(trouble, risk, 1);
    };
  }

  /** {@return why an assignment gives nothing}, null where it does, or may */
  private Trouble.@Nullable Nothing nothing(Assignment it) {
    if (it.window().until() != null && !it.window().until().isAfter(basis.at)) {
      return Trouble.Nothing.OVER;
    }
    if (!basis.isInForce(it)) {
      return null; // its time comes
    }
    if (it.gives() instanceof Gives.OfRole(RoleKey key)) {
      Role role = basis.catalogue.roles().get(key);
      if (role != null && role.retired()) {
        return Trouble.Nothing.ROLE_RETIRED;
      }
    }
    if (it.subject() instanceof Subject.OfGroup(GroupKey key)) {
      Group group = basis.catalogue.groups().get(key);
      if (group != null && group.retired()) {
        return Trouble.Nothing.GROUP_RETIRED;
      }
    }
    Given given = basis.given(it);
    Contents.Content content = given.content;
    if (content.size() == 0 && content.deny().isEmpty()) {
      return Trouble.Nothing.GIVES_NO_PERMISSION;
    }
    if (!content.deny().isEmpty()) {
      return null; // it takes: whether that has an effect is another question
    }
    if (given.reach.of(Basis.scopes(it), null, 0).places() == 0) {
      return Trouble.Nothing.COVERS_NOTHING;
    }
    if (it.subject() instanceof Subject.Public) {
      return null;
    }
    List<Principal> holders = basis.holders(it);
    if (holders.isEmpty()) {
      return it.subject() instanceof Subject.OfPrincipal ? null : Trouble.Nothing.NO_HOLDERS;
    }
    return it.mode() == Assignment.Mode.STANDING ? asked(it, holders) : null;
  }

  private Trouble.@Nullable Nothing asked(Assignment it, List<Principal> holders) {
    Set<Verdict> others = basis.verdicts.of(it);
    if (others.contains(Verdict.ALLOWED)) {
      return null;
    }
    if (others.equals(EnumSet.of(Verdict.DENIED))) {
      return Trouble.Nothing.DENIED_EVERYWHERE;
    }
    if (others.contains(Verdict.BLOCKED) && !others.contains(Verdict.NONE)) {
      return Trouble.Nothing.GATE_NOWHERE;
    }
    return basis.given(it).content.free().isEmpty()
            && holders.stream().noneMatch(Principal::enrolled)
        ? Trouble.Nothing.NO_SECOND_FACTOR
        : Trouble.Nothing.OUT_OF_REACH;
  }

  // ---- breadth ----------------------------------------------------------------------------------

  private void breadth(Assignment it) {
    List<Trouble.Breadth> breadths = new ArrayList<>();
    if (it.scope().contains(EVERYTHING) || it.viewScope().contains(EVERYTHING)) {
      breadths.add(Trouble.Breadth.EVERYTHING);
    }
    if (it.crossesSeals()) {
      breadths.add(Trouble.Breadth.THROUGH_SEALS);
    }
    if (it.subject() instanceof Subject.Public) {
      breadths.add(Trouble.Breadth.PUBLIC);
    }
    if (!breadths.isEmpty()) {
      Given given = basis.given(it);
      ScopeReach reach = given.reach.of(Basis.scopes(it), null, 0);
      if (reach.places() == 0) {
        return;
      }
      Trouble trouble = new Trouble.BroadScope(it.key(), breadths, reach.places());
      Permission.Risk risk = given.risk;
      found.accept(
          it.subject() instanceof Subject.Public
              ? Detection.ofModel(trouble, risk, reach.exposure())
              : basis.ofHolders(it, trouble, risk, reach.exposure()));
    }
  }
}
