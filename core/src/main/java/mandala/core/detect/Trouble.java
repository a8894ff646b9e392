package mandala.core.detect;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import mandala.core.analysis.Peers;
import mandala.core.model.Gives;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import org.jspecify.annotations.Nullable;

/** What a detector found, with its evidence. */
public sealed interface Trouble {

  /** {@return what found it} */
  default Detector detector() {
    return switch (this) {
      case UseNotAllowed _ -> Detector.USE_NOT_ALLOWED;
      case ExclusionWithinReach _ -> Detector.EXCLUSION_WITHIN_REACH;
      case Escalation _ -> Detector.ESCALATION;
      case BroadScope _ -> Detector.BROAD_SCOPE;
      case FewBecomeMany _ -> Detector.FEW_BECOME_MANY;
      case ServiceWithPersonsRole _ -> Detector.SERVICE_WITH_PERSONS_ROLE;
      case UnusedRights _ -> Detector.UNUSED_RIGHTS;
      case UnusedAssignment _ -> Detector.UNUSED_ASSIGNMENT;
      case RareAmongColleagues _ -> Detector.RARE_AMONG_COLLEAGUES;
      case ScopeWiderThanUse _ -> Detector.SCOPE_WIDER_THAN_USE;
      case RoleWiderThanUse _ -> Detector.ROLE_WIDER_THAN_USE;
      case StandingCritical _ -> Detector.STANDING_CRITICAL;
      case LeftOver _ -> Detector.LEFT_OVER;
      case StillAnswers _ -> Detector.STILL_ANSWERS;
      case Dormant _ -> Detector.DORMANT;
      case GuestPastPurpose _ -> Detector.GUEST_PAST_PURPOSE;
      case GuestWithoutEnd _ -> Detector.GUEST_WITHOUT_END;
      case FewOwners _ -> Detector.FEW_OWNERS;
      case NoLivingOwner _ -> Detector.NO_LIVING_OWNER;
      case NoManager _ -> Detector.NO_MANAGER;
      case DenyLocksGate _ -> Detector.DENY_LOCKS_GATE;
      case DenyWithoutEffect _ -> Detector.DENY_WITHOUT_EFFECT;
      case GivesNothing _ -> Detector.GIVES_NOTHING;
      case NotObserved _ -> Detector.NOT_OBSERVED;
      case RedundantAssignment _ -> Detector.REDUNDANT_ASSIGNMENT;
      case UnusedRole _ -> Detector.UNUSED_ROLE;
      case UnusedGroup _ -> Detector.UNUSED_GROUP;
      case UnusedSet _ -> Detector.UNUSED_SET;
      case AlikeRoles _ -> Detector.ALIKE_ROLES;
    };
  }

  /** {@return everything that it names}, first what it is about */
  List<Key> names();

  /** {@return what it is about} */
  default Key about() {
    return names().getFirst();
  }

  /** {@return what tells it from others about the same thing}, empty where there is one at most */
  default String which() {
    return "";
  }

  private static List<Key> keys(@Nullable Key... keys) {
    return Stream.of(keys).filter(Objects::nonNull).<Key>map(Objects::requireNonNull).toList();
  }

  /**
   * Use of what was not allowed on its day, nor is now.
   *
   * @param permission the one of highest risk, with the place and day of its last use
   * @param rights how many rights were used so
   */
  record UseNotAllowed(
      PrincipalKey principal,
      PermissionKey permission,
      ResourceKey resource,
      LocalDate last,
      int rights)
      implements Trouble {
    @Override
    public List<Key> names() {
      return keys(principal, permission, resource);
    }
  }

  /**
   * Somebody could break an exclusion, by acting for another or by activating what they may.
   *
   * @param actingFor null where they need only activate
   * @param where as {@link mandala.core.question.ExclusionViolation#where}
   */
  record ExclusionWithinReach(
      ExclusionKey exclusion,
      PrincipalKey principal,
      @Nullable PrincipalKey actingFor,
      ResourceKey where)
      implements Trouble {
    @Override
    public List<Key> names() {
      return keys(principal, exclusion, where, actingFor);
    }

    @Override
    public String which() {
      return exclusion + (actingFor == null ? "" : " " + actingFor);
    }
  }

  /**
   * Somebody could give critical permissions to themselves by one change, other than activating
   * what they may.
   *
   * @param permission one of them, one that asks for nobody's approval before others
   * @param resource where
   * @param permissions how many there are, each counted once in each root account
   * @param approved whether each of them asks for somebody's approval
   */
  record Escalation(
      PrincipalKey principal,
      PermissionKey permission,
      ResourceKey resource,
      int permissions,
      boolean approved)
      implements Trouble {
    @Override
    public List<Key> names() {
      return keys(principal, permission, resource);
    }
  }

  /** How far an assignment reaches. */
  enum Breadth {
    EVERYTHING,
    THROUGH_SEALS,
    PUBLIC
  }

  /**
   * A scope of everything, one that crosses seals, or a subject that is everybody.
   *
   * @param places on how many resources it gives something
   */
  record BroadScope(AssignmentKey assignment, List<Breadth> breadths, int places)
      implements Trouble {
    /** Copies its list. */
    public BroadScope {
      breadths = List.copyOf(breadths);
    }

    @Override
    public List<Key> names() {
      return keys(assignment);
    }
  }

  /**
   * A group that lists another one many times larger than the rest of it.
   *
   * @param few how many it has besides
   * @param many how many it has by the listed one
   */
  record FewBecomeMany(GroupKey group, GroupKey member, int few, int many) implements Trouble {
    @Override
    public List<Key> names() {
      return keys(group, member);
    }

    @Override
    public String which() {
      return member.value();
    }
  }

  /** A service holds a role that people hold, too. */
  record ServiceWithPersonsRole(PrincipalKey service, RoleKey role) implements Trouble {
    @Override
    public List<Key> names() {
      return keys(service, role);
    }

    @Override
    public String which() {
      return role.value();
    }
  }

  /**
   * Somebody uses none of some rights of high or critical risk in the window.
   *
   * @param permission the one of highest risk, and of these the one with the most places
   * @param rights how many of high or critical risk
   */
  record UnusedRights(PrincipalKey principal, PermissionKey permission, long rights)
      implements Trouble {
    @Override
    public List<Key> names() {
      return keys(principal, permission);
    }
  }

  /** Nobody needs anything that an assignment gives. */
  record UnusedAssignment(AssignmentKey assignment, int holders) implements Trouble {
    @Override
    public List<Key> names() {
      return keys(assignment);
    }
  }

  /**
   * Somebody holds permissions of high or critical risk that few colleagues hold.
   *
   * @param permission the one of highest risk that fewest hold
   * @param permissions how many there are
   * @param holders how many colleagues hold that one
   * @param colleagues of how many
   */
  record RareAmongColleagues(
      PrincipalKey principal,
      PermissionKey permission,
      int permissions,
      int holders,
      int colleagues,
      Peers.Basis basis)
      implements Trouble {
    @Override
    public List<Key> names() {
      return keys(principal, permission);
    }
  }

  /**
   * All that is needed of an assignment lies below one place.
   *
   * @param narrowest that place
   * @param inside how many of the resources in its scope lie there
   * @param covered how many there are
   */
  record ScopeWiderThanUse(AssignmentKey assignment, ResourceKey narrowest, int inside, int covered)
      implements Trouble {
    @Override
    public List<Key> names() {
      return keys(assignment, narrowest);
    }
  }

  /**
   * A smaller role or set that exists gives all that is needed of an assignment.
   *
   * @param needed how many permissions are needed
   * @param given how many are given
   */
  record RoleWiderThanUse(AssignmentKey assignment, Gives smaller, int needed, int given)
      implements Trouble {
    @Override
    public List<Key> names() {
      return keys(assignment, smaller.key());
    }
  }

  /**
   * A critical permission that somebody holds all the time and uses on few days.
   *
   * @param days on how many days, at most
   */
  record StandingCritical(
      AssignmentKey assignment,
      PrincipalKey principal,
      PermissionKey permission,
      int days,
      LocalDate last)
      implements Trouble {
    @Override
    public List<Key> names() {
      return keys(assignment, principal, permission);
    }
  }

  /** What changed for somebody. */
  enum Moved {
    ACCOUNT,
    UNIT,
    TITLE
  }

  /**
   * An assignment, a group or a guest membership from before somebody moved.
   *
   * @param kept the assignment or group; the account where they are a guest
   * @param was key of the account or unit, or the title
   * @param since when they moved
   */
  record LeftOver(PrincipalKey principal, Key kept, Moved moved, String was, Instant since)
      implements Trouble {
    @Override
    public List<Key> names() {
      return switch (moved) {
        case ACCOUNT -> keys(principal, kept, new AccountKey(was));
        case UNIT -> keys(principal, kept, new mandala.core.model.key.UnitKey(was));
        case TITLE -> keys(principal, kept);
      };
    }

    @Override
    public String which() {
      return kept.getClass().getSimpleName() + " " + kept;
    }
  }

  /**
   * Somebody who left or is suspended still holds, owns or approves.
   *
   * @param left else suspended
   * @param assignments that name them
   * @param groups that list them
   * @param owned things that they own or are the sponsor of
   * @param reports people whose manager they are
   */
  record StillAnswers(
      PrincipalKey principal, boolean left, int assignments, int groups, int owned, int reports)
      implements Trouble {
    @Override
    public List<Key> names() {
      return keys(principal);
    }
  }

  /**
   * An active person who used nothing in the window, of all that is observed.
   *
   * @param rights that are observed and unused
   */
  record Dormant(PrincipalKey principal, long rights) implements Trouble {
    @Override
    public List<Key> names() {
      return keys(principal);
    }
  }

  /** A guest who needs nothing of what they hold in an account. */
  record GuestPastPurpose(PrincipalKey principal, AccountKey account, long rights)
      implements Trouble {
    @Override
    public List<Key> names() {
      return keys(principal, account);
    }

    @Override
    public String which() {
      return account.value();
    }
  }

  /** A guest membership without an end. */
  record GuestWithoutEnd(PrincipalKey principal, AccountKey account) implements Trouble {
    @Override
    public List<Key> names() {
      return keys(principal, account);
    }

    @Override
    public String which() {
      return account.value();
    }
  }

  /** An account with fewer than two active owners. */
  record FewOwners(AccountKey account, int owners) implements Trouble {
    @Override
    public List<Key> names() {
      return keys(account);
    }
  }

  /**
   * A group or service without an owner or sponsor, or one whose owners have left.
   *
   * @param owner the one who left, null where none is named
   */
  record NoLivingOwner(Key thing, @Nullable PrincipalKey owner) implements Trouble {
    @Override
    public List<Key> names() {
      return keys(thing, owner);
    }

    @Override
    public String which() {
      return thing.getClass().getSimpleName();
    }
  }

  /**
   * An active person without a manager who could decide.
   *
   * @param manager the one who left, null where none is named
   */
  record NoManager(PrincipalKey principal, @Nullable PrincipalKey manager) implements Trouble {
    @Override
    public List<Key> names() {
      return keys(principal, manager);
    }
  }

  /**
   * A deny takes a gate, and with it what lies behind.
   *
   * @param blocked the permission of highest risk that is granted and blocked so
   * @param people for how many
   */
  record DenyLocksGate(
      AssignmentKey assignment, PermissionKey gate, PermissionKey blocked, int people)
      implements Trouble {
    @Override
    public List<Key> names() {
      return keys(assignment, gate, blocked);
    }
  }

  /** A deny that takes nothing from anybody. */
  record DenyWithoutEffect(AssignmentKey assignment) implements Trouble {
    @Override
    public List<Key> names() {
      return keys(assignment);
    }
  }

  /** Why an assignment gives nothing. */
  enum Nothing {
    OVER,
    ROLE_RETIRED,
    GROUP_RETIRED,
    GIVES_NO_PERMISSION,
    COVERS_NOTHING,
    NO_HOLDERS,
    DENIED_EVERYWHERE,
    GATE_NOWHERE,
    /** All of it asks for one, and no holder is enrolled. */
    NO_SECOND_FACTOR,
    /** Sealed off, in accounts where no holder belongs, or nothing of their own. */
    OUT_OF_REACH
  }

  /** An assignment that gives nothing now. */
  record GivesNothing(AssignmentKey assignment, Nothing why) implements Trouble {
    @Override
    public List<Key> names() {
      return keys(assignment);
    }
  }

  /**
   * A permission that is given and that no source of use reports anywhere.
   *
   * @param assignments how many give it
   */
  record NotObserved(PermissionKey permission, int assignments) implements Trouble {
    @Override
    public List<Key> names() {
      return keys(permission);
    }
  }

  /** An assignment without which everything stays the same. */
  record RedundantAssignment(AssignmentKey assignment, AssignmentKey by) implements Trouble {
    @Override
    public List<Key> names() {
      return keys(assignment, by);
    }
  }

  /** A role that nothing gives and no role inherits. */
  record UnusedRole(RoleKey role) implements Trouble {
    @Override
    public List<Key> names() {
      return keys(role);
    }
  }

  /** A group that nothing names. */
  record UnusedGroup(GroupKey group) implements Trouble {
    @Override
    public List<Key> names() {
      return keys(group);
    }
  }

  /** A permission set that nothing names. */
  record UnusedSet(PermissionSetKey set) implements Trouble {
    @Override
    public List<Key> names() {
      return keys(set);
    }
  }

  /** How two roles are alike. */
  enum Likeness {
    /** They give the same. */
    EQUAL,
    /** All that the first gives, the second gives, too. */
    CONTAINED,
    /** Whoever holds one holds the other, and neither contains the other. */
    TOGETHER
  }

  /** Two roles that could be one. */
  record AlikeRoles(RoleKey role, RoleKey other, Likeness likeness) implements Trouble {
    @Override
    public List<Key> names() {
      return keys(role, other);
    }

    @Override
    public String which() {
      return other.value();
    }
  }
}
