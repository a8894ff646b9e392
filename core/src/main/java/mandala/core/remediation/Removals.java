package mandala.core.remediation;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Deque;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.Removal;
import mandala.core.change.Rewritten;
import mandala.core.engine.Engine;
import mandala.core.explain.GrantStep;
import mandala.core.explain.Route;
import mandala.core.explain.Routes;
import mandala.core.explain.Source;
import mandala.core.explain.SubjectStep;
import mandala.core.model.About;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import mandala.core.rule.Guests;
import org.jspecify.annotations.Nullable;

/**
 * What must go for an access to end, the cheapest first.
 *
 * <ol>
 *   <li>{@link #cuts} lists what can be cut on a route: a membership on the way, the assignment or
 *       bridge, a set out of a role, a permission out of a set, a delegation.
 *   <li>{@link #search} cuts the first route that is left, each way there is, and looks at the
 *       routes that are left then, the fewest cuts first. What has no route left is a way.
 *   <li>{@link #isNeeded}: a way of which a part is enough is left out.
 *   <li>{@link #deny}: one deny always ends it, and takes nothing else.
 * </ol>
 *
 * <p>Each way is tried on the engine: it ends the access, and nothing less of it does. Bounded by
 * {@link #TRIED} models. Source: the usual tree of hitting sets, with routes found anew at each
 * node, so that by-ways that come to light only then are cut too.
 */
public final class Removals {

  /** So many models are looked at. */
  private static final int TRIED = 150;

  private static final int FOUND = 12;
  private static final int DEEP = 5;

  private final Engine engine;
  private final Catalogue catalogue;
  private final Question question;

  private Removals(Engine engine, Question question) {
    this.engine = engine;
    this.catalogue = engine.catalogue();
    this.question = question;
  }

  /**
   * {@return ways to end an access}, none where it is not allowed
   *
   * @throws IllegalArgumentException if something in the question is unknown
   */
  public static List<Remediation> of(Engine engine, Question question) {
    if (engine.decide(question).verdict() != Verdict.ALLOWED) {
      return List.of();
    }
    return new Removals(engine, question).ways();
  }

  private List<Remediation> ways() {
    List<Remediation> ways = new ArrayList<>();
    for (Set<RouteCut> cuts : search()) {
      Draft draft = draft(cuts);
      Engine after = after(draft);
      if (after != null) {
        ways.add(Remediation.of(draft, engine, after, question));
      }
    }
    ways.sort(Remediation.REMOVING_FIRST);
    return ways;
  }

  private List<Set<RouteCut>> search() {
    List<Set<RouteCut>> found = new ArrayList<>();
    RouteCut deny = deny();
    if (deny != null) {
      found.add(Set.of(deny));
    }
    Deque<Set<RouteCut>> open = new ArrayDeque<>(List.of(Set.of()));
    Set<Set<RouteCut>> seen = new HashSet<>();
    for (int tried = 0; !open.isEmpty() && tried < TRIED && found.size() < FOUND; tried++) {
      Set<RouteCut> cuts = open.removeFirst();
      if (found.stream().anyMatch(cuts::containsAll)) {
        continue;
      }
      Engine after = cuts.isEmpty() ? engine : after(draft(cuts));
      if (after == null) {
        continue;
      }
      if (!isAllowed(after)) {
        if (isNeeded(cuts)) {
          found.add(cuts);
        }
        continue;
      }
      Route route = Routes.of(after).explain(question).live().getFirst();
      for (RouteCut cut :
          cuts.size() < DEEP ? cuts(route, after.catalogue()) : List.<RouteCut>of()) {
        Set<RouteCut> next = new LinkedHashSet<>(cuts);
        if (!cut.in(after.catalogue()).isEmpty() && next.add(cut) && seen.add(next)) {
          open.addLast(next);
        }
      }
    }
    return found;
  }

  private boolean isAllowed(Engine after) {
    return after.decide(question).verdict() == Verdict.ALLOWED;
  }

  /** Whether no part of the cuts would be enough. */
  private boolean isNeeded(Set<RouteCut> cuts) {
    for (RouteCut cut : cuts) {
      Set<RouteCut> rest = new LinkedHashSet<>(cuts);
      rest.remove(cut);
      Engine after = rest.isEmpty() ? engine : after(draft(rest));
      if (after != null && !isAllowed(after)) {
        return false;
      }
    }
    return true;
  }

  private @Nullable Engine after(Draft draft) {
    try {
      return engine.after(draft.inOrder());
    } catch (IllegalArgumentException _) {
      return null; // it leaves a faulty model
    }
  }

  /** Cuts are made one after the other, each in what the one before left. */
  private Draft draft(Collection<RouteCut> cuts) {
    Draft draft = Draft.EMPTY;
    Catalogue now = catalogue;
    for (RouteCut cut : cuts) {
      List<Change> changes = cut.in(now);
      for (Change change : changes) {
        draft = draft.with(change);
      }
      now = Draft.of(changes).appliedUnchecked(now);
    }
    return draft;
  }

  /** A deny of exactly this. */
  private @Nullable RouteCut deny() {
    Permission permission = catalogue.permissions().get(question.permission());
    if (permission == null) {
      return null;
    }
    Principal principal = catalogue.principals().get(question.principal());
    Subject subject =
        principal == null
            ? Subject.Public.ANONYMOUS
            : new Subject.OfPrincipal(principal.kind(), principal.key());
    return new RouteCut.Deny(
        new Assignment(
            Rewritten.freeKey(
                catalogue.assignments()::containsKey, question.principal(), permission),
            About.NONE,
            subject,
            new Gives.OfPermission(permission.key()),
            Assignment.Effect.DENY,
            List.of(Clause.of(new Term.Only(question.resource()))),
            List.of(),
            Window.ALWAYS,
            Assignment.Mode.STANDING,
            false));
  }

  /** What can be cut on a route, in its order. */
  private List<RouteCut> cuts(Route route, Catalogue now) {
    List<RouteCut> cuts = new ArrayList<>();
    memberships(route, now, cuts);
    cuts.add(
        new RouteCut.Takes(
            switch (route.source()) {
              case Source.ByAssignment(AssignmentKey key) -> new Removal.Unassign(key);
              case Source.ByBridge(BridgeKey key) -> new Removal.EndBridge(key);
            }));
    gifts(route.gifts(), cuts);
    if (route.delegation() != null) {
      cuts.add(new RouteCut.Takes(new Removal.Undelegate(route.delegation())));
    }
    return cuts;
  }

  private void memberships(Route route, Catalogue now, List<RouteCut> cuts) {
    PrincipalKey whose = question.actingFor() == null ? question.principal() : question.actingFor();
    Principal principal = now.principals().get(whose);
    if (principal == null) {
      return;
    }
    Group.Member member = new Group.Member.OfPrincipal(principal.kind(), principal.key());
    for (SubjectStep step : route.subjectPath()) {
      switch (step) {
        case SubjectStep.InGroup(GroupKey key, boolean byRule) -> {
          if (!byRule) {
            cuts.add(new RouteCut.Takes(new Removal.Leave(key, member)));
          }
          member = new Group.Member.OfGroup(key);
        }
        case SubjectStep.WithPattern _ ->
            cuts.add(new RouteCut.Takes(new Removal.DropPattern(whose)));
        case SubjectStep.AtAccount(AccountKey account, boolean asGuest) when asGuest ->
            now.model().guests().stream()
                .filter(it -> it.principal().equals(whose) && Guests.covers(it, account, now))
                .forEach(
                    it -> cuts.add(new RouteCut.Takes(new Removal.EndGuest(whose, it.account()))));
        case SubjectStep.Oneself _, SubjectStep.AtAccount _, SubjectStep.Publicly _ -> {
          // nothing to leave
        }
      }
    }
  }

  /** Links between what is given: a set in a role, a permission in a set. */
  private static void gifts(List<GrantStep> gifts, List<RouteCut> cuts) {
    for (int i = 1; i < gifts.size(); i++) {
      if (gifts.get(i - 1) instanceof GrantStep.OfRole(RoleKey key, var _, var _)
          && gifts.get(i) instanceof GrantStep.OfSet(PermissionSetKey set)
          && isOurs(key)) {
        cuts.add(new RouteCut.Takes(new Removal.OutOfRole(key, set)));
      }
      if (gifts.get(i - 1) instanceof GrantStep.OfSet(PermissionSetKey key)
          && gifts.get(i) instanceof GrantStep.OfPermission(PermissionKey permission)
          && isOurs(key)) {
        cuts.add(new RouteCut.Takes(new Removal.OutOfSet(key, permission)));
      }
    }
  }

  private static boolean isOurs(Key key) {
    return !key.value().startsWith(Supplied.PREFIX);
  }
}
