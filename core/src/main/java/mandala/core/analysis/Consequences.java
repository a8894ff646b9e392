package mandala.core.analysis;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.compliance.Finding;
import mandala.core.compliance.Findings;
import mandala.core.engine.Engine;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.PermissionSet;
import mandala.core.model.Role;
import mandala.core.model.Thing;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import mandala.core.question.Impact;
import mandala.core.question.Session;

/**
 * What a draft does to everybody and to the rules of the model.
 *
 * @param impact who gains and loses how many rights, with their second factor
 * @param unchanged how many were looked at and keep exactly what they have, though perhaps by
 *     another route
 * @param begin findings that there are after it and not before
 * @param end findings that there were before it and are not after
 * @param lockedOut active principals that had rights before and have none after
 * @param denies changes that take a deny away, and so widen access (section 8)
 */
public record Consequences(
    Impact impact,
    int unchanged,
    List<Finding> begin,
    List<Finding> end,
    List<PrincipalKey> lockedOut,
    List<Change> denies) {

  /** Copies its lists. */
  public Consequences {
    begin = List.copyOf(begin);
    end = List.copyOf(end);
    lockedOut = List.copyOf(lockedOut);
    denies = List.copyOf(denies);
  }

  /**
   * {@return what a draft does}
   *
   * @param after the engine that {@link Engine#after} gave for the draft
   * @param findingsBefore of the model before at the same instant
   * @param watch told how far the impact is, and asked whether to go on
   */
  public static Consequences of(
      Engine before,
      Engine after,
      Draft draft,
      List<Finding> findingsBefore,
      Instant at,
      Impact.Watch watch) {
    Impact impact = before.impactWithRoutes(after, draft.inOrder(), at, true, watch);
    List<Finding> findingsAfter = impact.complete() ? Findings.of(after, at) : findingsBefore;
    List<PrincipalKey> lockedOut = new ArrayList<>();
    for (Impact.Person person : impact.people()) {
      if (person.lost() > 0 && person.gained() == 0 && isEmpty(after, person.principal(), at)) {
        lockedOut.add(person.principal());
      }
    }
    return new Consequences(
        impact,
        impact.asked() - impact.differing(),
        without(findingsAfter, findingsBefore),
        without(findingsBefore, findingsAfter),
        lockedOut,
        draft.changes().stream()
            .filter(change -> losesDeny(change, before.catalogue(), after.catalogue()))
            .toList());
  }

  /**
   * {@return the same for some people only}: what it does to the rules stays as it is
   *
   * @param part the impact on these people alone
   */
  public Consequences on(List<PrincipalKey> people, Impact part) {
    return new Consequences(
        part,
        part.asked() - part.differing(),
        begin,
        end,
        lockedOut.stream().filter(people::contains).toList(),
        denies);
  }

  private static boolean isEmpty(Engine after, PrincipalKey principal, Instant at) {
    boolean there =
        principal.equals(PrincipalKey.ANONYMOUS)
            || after.catalogue().principals().containsKey(principal);
    return !there || after.rights(new Session(principal, at, true, null)) == 0;
  }

  private static List<Finding> without(List<Finding> these, List<Finding> those) {
    Set<List<Object>> known = new HashSet<>();
    those.forEach(it -> known.add(it.about()));
    return these.stream().filter(it -> !known.contains(it.about())).toList();
  }

  /** Retiring, ending or leaving something that denies (section 8). */
  private static boolean losesDeny(Change change, Catalogue before, Catalogue after) {
    return switch (change) {
      case Change.Added _ -> false;
      case Change.Removed(Thing thing) -> denies(thing, before);
      case Change.Altered(Thing was, Thing is) -> denies(was, before) && narrows(was, is, after);
    };
  }

  private static boolean narrows(Thing was, Thing is, Catalogue after) {
    return switch (was) {
      case Group it -> {
        Group now = (Group) is;
        yield now.retired() != it.retired()
            || !now.members().containsAll(it.members())
            || !java.util.Objects.equals(now.rule(), it.rule());
      }
      case PermissionSet it -> !((PermissionSet) is).deny().containsAll(it.deny());
      case Role _ -> !denies(is, after) || !is.equals(was);
      default -> true;
    };
  }

  private static boolean denies(Thing thing, Catalogue in) {
    return switch (thing) {
      case Assignment it ->
          it.effect() == Assignment.Effect.DENY || denies(it.gives(), in, new HashSet<>());
      case PermissionSet it -> !it.deny().isEmpty();
      case Role it -> denies(new Gives.OfRole(it.key()), in, new HashSet<>());
      case Group it ->
          in.assignments().values().stream()
              .anyMatch(assignment ->
                  assignment.subject() instanceof mandala.core.model.Subject.OfGroup(GroupKey key)
                      && key.equals(it.key())
                      && denies(assignment, in));
      default -> false;
    };
  }

  private static boolean denies(Gives gives, Catalogue in, Set<Gives> seen) {
    if (!seen.add(gives)) {
      return false;
    }
    return switch (gives) {
      case Gives.OfPermission _ -> false;
      case Gives.OfSet(PermissionSetKey key) -> {
        PermissionSet set = in.sets().get(key);
        yield set != null
            && (!set.deny().isEmpty()
                || set.includes().stream()
                    .anyMatch(inner -> denies(new Gives.OfSet(inner), in, seen)));
      }
      case Gives.OfRole(RoleKey key) -> {
        Role role = in.roles().get(key);
        yield role != null
            && !role.retired()
            && (role.sets().stream().anyMatch(set -> denies(new Gives.OfSet(set), in, seen))
                || role.inherits().stream()
                    .anyMatch(junior -> denies(new Gives.OfRole(junior), in, seen)));
      }
    };
  }
}
