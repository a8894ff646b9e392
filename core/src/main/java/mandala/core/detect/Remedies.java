package mandala.core.detect;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import mandala.core.change.Change;
import mandala.core.change.Removal;
import mandala.core.change.Rewritten;
import mandala.core.engine.Engine;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.tidy.TwinRoles;
import org.jspecify.annotations.Nullable;

/** What settles a finding, ready to be put into a draft. */
public final class Remedies {

  private final Catalogue catalogue;
  private final Engine engine;
  private final Instant at;
  private final List<Remedy> remedies = new ArrayList<>();

  private Remedies(Engine engine, Instant at) {
    this.engine = engine;
    this.catalogue = engine.catalogue();
    this.at = at;
  }

  /** What a remedy does. */
  public enum Act {
    REMOVE_ASSIGNMENT,
    REMOVE_ASSIGNMENTS,
    NARROW_SCOPE,
    STOP_CROSSING_SEALS,
    GIVE_LESS,
    MAKE_JUST_IN_TIME,
    REMOVE_FROM_GROUP,
    NEST_THE_OTHER_WAY,
    END_GUEST_MEMBERSHIP,
    END_DELEGATION,
    SUSPEND,
    RETIRE_ROLE,
    REMOVE_ROLE,
    MERGE_ROLES,
    RETIRE_GROUP,
    REMOVE_GROUP,
    REMOVE_SET
  }

  /**
   * One way to settle a finding.
   *
   * @param changes of the model that was asked about, at least one
   */
  public record Remedy(Act act, List<Change> changes) {
    /** Copies its changes. */
    public Remedy {
      changes = List.copyOf(changes);
    }
  }

  /**
   * {@return the ways to settle a finding that can be made at once, the best first}; none where
   * somebody must choose first, or where what it is about is gone
   */
  public static List<Remedy> of(Trouble trouble, Engine engine, Instant at) {
    Remedies all = new Remedies(engine, at);
    all.add(trouble);
    return List.copyOf(all.remedies);
  }

  private void add(Trouble trouble) {
    switch (trouble) {
      case Trouble.ExclusionWithinReach(var _, PrincipalKey who, PrincipalKey whose, var _) ->
          withinReach(who, whose);
      case Trouble.BroadScope it -> broad(it);
      case Trouble.FewBecomeMany(GroupKey group, GroupKey member, var _, var _) ->
          nested(group, member);
      case Trouble.ServiceWithPersonsRole(PrincipalKey service, RoleKey role) ->
          takeRole(service, role);
      case Trouble.UnusedAssignment(AssignmentKey key, var _) -> remove(key);
      case Trouble.ScopeWiderThanUse(AssignmentKey key, ResourceKey narrowest, var _, var _) ->
          narrow(key, narrowest);
      case Trouble.RoleWiderThanUse(AssignmentKey key, Gives smaller, var _, var _) -> {
        Assignment it = catalogue.assignments().get(key);
        if (it != null && isThere(smaller)) {
          alter(Act.GIVE_LESS, it, Rewritten.gives(it, smaller));
        }
      }
      case Trouble.StandingCritical(AssignmentKey key, var _, var _, var _, var _) -> {
        Assignment it = catalogue.assignments().get(key);
        if (it != null) {
          alter(Act.MAKE_JUST_IN_TIME, it, it.in(Assignment.Mode.JUST_IN_TIME));
        }
      }
      case Trouble.LeftOver(PrincipalKey who, Key kept, var _, var _, var _) -> leave(who, kept);
      case Trouble.StillAnswers(PrincipalKey who, var _, var _, var _, var _, var _) ->
          takeAll(who);
      case Trouble.Dormant(PrincipalKey who, var _) -> {
        Principal it = catalogue.principals().get(who);
        if (it != null && it.status() == Principal.Status.ACTIVE) {
          alter(Act.SUSPEND, it, Rewritten.status(it, Principal.Status.SUSPENDED));
        }
      }
      case Trouble.GuestPastPurpose(PrincipalKey who, AccountKey account, var _) ->
          endGuest(who, account);
      case Trouble.GuestWithoutEnd(PrincipalKey who, AccountKey account) -> endGuest(who, account);
      case Trouble.DenyLocksGate(AssignmentKey key, var _, var _, var _) -> remove(key);
      case Trouble.DenyWithoutEffect(AssignmentKey key) -> remove(key);
      case Trouble.GivesNothing(AssignmentKey key, var _) -> remove(key);
      case Trouble.RedundantAssignment(AssignmentKey key, var _) -> remove(key);
      case Trouble.UnusedRole(RoleKey key) -> {
        Role it = catalogue.roles().get(key);
        if (it != null) {
          alter(Act.RETIRE_ROLE, it, Rewritten.retired(it));
          removeThing(Act.REMOVE_ROLE, it);
        }
      }
      case Trouble.UnusedGroup(GroupKey key) -> {
        Group it = catalogue.groups().get(key);
        if (it != null) {
          alter(Act.RETIRE_GROUP, it, Rewritten.retired(it));
          removeThing(Act.REMOVE_GROUP, it);
        }
      }
      case Trouble.UnusedSet(var key) -> removeThing(Act.REMOVE_SET, catalogue.sets().get(key));
      case Trouble.AlikeRoles(RoleKey kept, RoleKey gone, Trouble.Likeness likeness) ->
          merge(kept, gone, likeness);
      case Trouble.UseNotAllowed _,
          Trouble.Escalation _,
          Trouble.UnusedRights _,
          Trouble.RareAmongColleagues _,
          Trouble.FewOwners _,
          Trouble.NoLivingOwner _,
          Trouble.NoManager _,
          Trouble.NotObserved _ -> {
        // somebody must look or choose first
      }
    }
  }

  // ---- one by one -------------------------------------------------------------------------------

  private void alter(Act act, Thing before, Thing after) {
    if (!before.equals(after)) {
      remedies.add(new Remedy(act, List.of(new Change.Altered(before, after))));
    }
  }

  private void remove(AssignmentKey key) {
    Assignment it = catalogue.assignments().get(key);
    remove(Act.REMOVE_ASSIGNMENT, it == null ? List.of() : List.of(it));
  }

  /** What it takes for some assignments to go, with what was activated of them. */
  private List<Change> removals(List<Assignment> some) {
    List<Change> changes = new ArrayList<>();
    some.forEach(it -> changes.addAll(new Removal.Unassign(it.key()).in(catalogue)));
    return changes;
  }

  private void removeThing(Act act, @Nullable Thing it) {
    if (it != null) {
      remedies.add(new Remedy(act, List.of(new Change.Removed(it))));
    }
  }

  private void remove(Act act, List<Assignment> some) {
    if (!some.isEmpty()) {
      remedies.add(new Remedy(act, removals(some)));
    }
  }

  /** Only where that is all by which they hold it. */
  private void takeRole(PrincipalKey who, RoleKey role) {
    List<Assignment> by =
        assignmentsTo(who).stream()
            .filter(it -> it.gives().equals(new Gives.OfRole(role)))
            .toList();
    if (!by.isEmpty() && !engine.after(removals(by)).rolesHeld(who, at).contains(role)) {
      remove(Act.REMOVE_ASSIGNMENTS, by);
    }
  }

  private List<Assignment> assignmentsTo(PrincipalKey who) {
    return catalogue.assignments().values().stream()
        .filter(it ->
            it.effect() == Assignment.Effect.ALLOW
                && it.subject() instanceof Subject.OfPrincipal(var _, PrincipalKey key)
                && key.equals(who))
        .toList();
  }

  private void withinReach(PrincipalKey who, @Nullable PrincipalKey whose) {
    if (whose == null) {
      remove(
          Act.REMOVE_ASSIGNMENTS,
          assignmentsTo(who).stream()
              .filter(it -> it.mode() == Assignment.Mode.JUST_IN_TIME)
              .toList());
      return;
    }
    List<Change> changes = new ArrayList<>();
    for (Delegation it : catalogue.delegations().values()) {
      if (it.principal().equals(whose) && it.delegate().equals(who) && it.window().holdsAt(at)) {
        changes.add(new Change.Removed(it));
      }
    }
    if (!changes.isEmpty()) {
      remedies.add(new Remedy(Act.END_DELEGATION, changes));
    }
  }

  private void broad(Trouble.BroadScope trouble) {
    Assignment it = catalogue.assignments().get(trouble.assignment());
    if (it == null) {
      return;
    }
    if (it.crossesSeals()) {
      alter(Act.STOP_CROSSING_SEALS, it, Rewritten.notCrossing(it));
    }
    remove(Act.REMOVE_ASSIGNMENT, List.of(it));
  }

  private void nested(GroupKey key, GroupKey inner) {
    Group group = catalogue.groups().get(key);
    Group member = catalogue.groups().get(inner);
    if (group == null || member == null) {
      return;
    }
    Group without = Rewritten.without(group, new Group.Member.OfGroup(inner));
    alter(Act.REMOVE_FROM_GROUP, group, without);
    boolean alreadyThere = member.members().contains(new Group.Member.OfGroup(key));
    if (!alreadyThere && group.account().equals(member.account())) {
      remedies.add(
          new Remedy(
              Act.NEST_THE_OTHER_WAY,
              List.of(
                  new Change.Altered(group, without),
                  new Change.Altered(
                      member, Rewritten.with(member, new Group.Member.OfGroup(key))))));
    }
  }

  private boolean isThere(Gives it) {
    return switch (it) {
      case Gives.OfRole(var key) -> catalogue.roles().containsKey(key);
      case Gives.OfSet(var key) -> catalogue.sets().containsKey(key);
      case Gives.OfPermission(var key) -> catalogue.permissions().containsKey(key);
    };
  }

  // ---- scopes -----------------------------------------------------------------------------------

  private void narrow(AssignmentKey key, ResourceKey place) {
    Assignment it = catalogue.assignments().get(key);
    if (it == null || !catalogue.has(place)) {
      return;
    }
    Assignment narrower =
        Rewritten.scopes(it, narrowed(it.scope(), place), narrowed(it.viewScope(), place));
    if (!narrower.scope().isEmpty() || !narrower.viewScope().isEmpty()) {
      alter(Act.NARROW_SCOPE, it, narrower);
    }
  }

  /** Clauses cut to a place and all below it; those that lie elsewhere go. */
  private List<Clause> narrowed(List<Clause> clauses, ResourceKey place) {
    List<Clause> narrowed = new ArrayList<>();
    for (Clause clause : clauses) {
      if (engine.covered(List.of(cut(clause, place)), 0).count() > 0) {
        Clause less = isWithin(clause, place) ? clause : cut(clause, place);
        boolean cuts = !less.equals(clause) && covers(clause, less);
        narrowed.add(less.equals(clause) || cuts ? less : clause);
      }
    }
    return narrowed.stream().distinct().toList();
  }

  /** The clause within a tree; what else names places goes. */
  private static Clause cut(Clause clause, ResourceKey place) {
    List<Term> terms = new ArrayList<>(List.of(new Term.Tree(place)));
    for (Term term : clause.terms()) {
      if (term instanceof Term.OfType
          || term instanceof Term.Labelled
          || term instanceof Term.InUnit) {
        terms.add(term);
      }
    }
    return new Clause(terms);
  }

  /** Whether a clause names a place that lies below another one already. */
  private boolean isWithin(Clause clause, ResourceKey place) {
    return clause.terms().stream()
        .anyMatch(term -> {
          ResourceKey named =
              switch (term) {
                case Term.Tree(ResourceKey it) -> it;
                case Term.Only(ResourceKey it) -> it;
                default -> null;
              };
          while (named != null && !named.equals(place)) {
            named = catalogue.parentOf(named);
          }
          return named != null;
        });
  }

  /** Whether a clause covers all that another one does. */
  private boolean covers(Clause wide, Clause narrow) {
    return engine.covered(List.of(wide, narrow), 0).count()
        == engine.covered(List.of(wide), 0).count();
  }

  // ---- people -----------------------------------------------------------------------------------

  private void leave(PrincipalKey who, Key kept) {
    Principal principal = catalogue.principals().get(who);
    switch (kept) {
      case AssignmentKey key -> remove(key);
      case GroupKey key -> {
        List<Change> changes =
            principal == null
                ? List.of()
                : new Removal.Leave(key, new Group.Member.OfPrincipal(principal.kind(), who))
                    .in(catalogue);
        if (!changes.isEmpty()) {
          remedies.add(new Remedy(Act.REMOVE_FROM_GROUP, changes));
        }
      }
      case AccountKey account -> endGuest(who, account);
      default -> {
        // nothing else is kept
      }
    }
  }

  private void endGuest(PrincipalKey who, AccountKey account) {
    List<Change> changes = new ArrayList<>();
    for (Guest it : catalogue.guests()) {
      if (it.principal().equals(who) && it.account().equals(account) && it.window().holdsAt(at)) {
        changes.add(new Change.Removed(it));
      }
    }
    if (!changes.isEmpty()) {
      remedies.add(new Remedy(Act.END_GUEST_MEMBERSHIP, changes));
    }
  }

  private void takeAll(PrincipalKey who) {
    Principal principal = catalogue.principals().get(who);
    List<Change> changes = removals(assignmentsTo(who));
    for (Group it : catalogue.groups().values()) {
      if (principal != null && it.lists(principal)) {
        changes.add(
            new Change.Altered(
                it, Rewritten.without(it, new Group.Member.OfPrincipal(principal.kind(), who))));
      }
    }
    if (!changes.isEmpty()) {
      remedies.add(new Remedy(Act.REMOVE_ASSIGNMENTS, changes));
    }
  }

  // ---- roles ------------------------------------------------------------------------------------

  private void merge(RoleKey key, RoleKey other, Trouble.Likeness likeness) {
    Role kept = catalogue.roles().get(key);
    Role gone = catalogue.roles().get(other);
    boolean shared =
        kept != null
            && gone != null
            && (kept.account() == null || Objects.equals(kept.account(), gone.account()));
    if (likeness == Trouble.Likeness.EQUAL
        && shared
        && kept != null
        && gone != null
        && !gone.inherits().contains(key)
        && !kept.inherits().contains(other)) {
      remedies.add(new Remedy(Act.MERGE_ROLES, TwinRoles.renamed(catalogue, gone, kept)));
    }
  }
}
