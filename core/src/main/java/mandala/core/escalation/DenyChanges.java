package mandala.core.escalation;

import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.explain.GrantStep;
import mandala.core.explain.PointScope;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Subject;
import mandala.core.model.Window;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.rule.PermissionClosure;

/** How a deny ends: with its assignment or bridge, its set, or a group or pattern left. */
final class DenyChanges {

  private final CandidateChanges candidates;
  private final SubjectChanges subjects;

  DenyChanges(CandidateChanges candidates) {
    this.candidates = candidates;
    this.subjects = new SubjectChanges(candidates);
  }

  /** Adds what ends each deny of a goal. */
  void against(Goal goal, PointScope point, Map<Change, Integer> found) {
    for (Assignment it : candidates.catalogue.assignments().values()) {
      boolean single = it.effect() == Assignment.Effect.DENY;
      if (it.window().holdsAt(candidates.at)
          && candidates.has(it.subject())
          && !candidates.gifts.denying(it.gives(), single, goal.permission()).isEmpty()
          && point.denies(it)) {
        Window ended = new Window(null, candidates.at);
        add(found, CandidateChanges.altered(it, was -> Rewritten.window(was, ended)));
        leave(it.subject(), found);
        drop(it.gives(), goal, found);
      }
    }
    for (Bridge it : candidates.catalogue.bridges().values()) {
      Subject subject = new Subject.OfGroup(it.group());
      if (it.window().holdsAt(candidates.at)
          && it.status() == Bridge.Status.ACCEPTED
          && candidates.has(subject)
          && !candidates.gifts.denying(it.gives(), false, goal.permission()).isEmpty()
          && point.covers(it.scope())) {
        add(found, CandidateChanges.altered(it, was -> Rewritten.status(was, Bridge.Status.ENDED)));
        leave(subject, found);
        drop(it.gives(), goal, found);
      }
    }
  }

  private static void add(Map<Change, Integer> found, List<Change> changes) {
    changes.forEach(change -> CandidateChanges.add(found, change, 1));
  }

  private void leave(Subject subject, Map<Change, Integer> found) {
    if (subject instanceof Subject.OfPattern) {
      add(found, CandidateChanges.altered(candidates.who, it -> Rewritten.pattern(it, null)));
    }
    if (subject instanceof Subject.OfGroup(GroupKey key)) {
      Group.Member member =
          new Group.Member.OfPrincipal(candidates.who.kind(), candidates.who.key());
      for (Group group : subjects.waysTo(key)) {
        add(found, CandidateChanges.altered(group, Rewritten::retired));
        if (subjects.lists(group)) {
          add(found, CandidateChanges.altered(group, it -> Rewritten.without(it, member)));
        }
      }
    }
  }

  private void drop(Gives gives, Goal goal, Map<Change, Integer> found) {
    Set<PermissionKey> denied = PermissionClosure.implied(goal.permission(), candidates.catalogue);
    for (GrantStep gift : candidates.gifts.within(gives)) {
      if (gift instanceof GrantStep.OfSet(PermissionSetKey key)) {
        add(
            found,
            CandidateChanges.altered(
                candidates.catalogue.sets().get(key), it -> Rewritten.denyingNone(it, denied)));
      }
    }
  }
}
