package mandala.document;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import mandala.core.analysis.Peers;
import mandala.core.detect.Detector;
import mandala.core.detect.Remedies;
import mandala.core.detect.Trouble;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.TypeKey;
import mandala.core.model.key.UnitKey;

/** What detectors found in words, without a stop. */
public final class TroubleText {

  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH);

  private final Catalogue catalogue;
  private final ChangeText text;

  /** Uses the names of a model that {@code naming} allows. */
  public TroubleText(Catalogue catalogue, Naming naming) {
    this.catalogue = catalogue;
    text = new ChangeText(catalogue, catalogue, naming);
  }

  /** {@return the kind of a thing, by its key} */
  public static Kind kind(Key key) {
    return switch (key) {
      case AccountKey _ -> Kind.ACCOUNTS;
      case UnitKey _ -> Kind.UNITS;
      case PatternKey _ -> Kind.PATTERNS;
      case PrincipalKey _ -> Kind.PRINCIPALS;
      case GroupKey _ -> Kind.GROUPS;
      case TypeKey _ -> Kind.RESOURCE_TYPES;
      case PermissionKey _ -> Kind.PERMISSIONS;
      case PermissionSetKey _ -> Kind.PERMISSION_SETS;
      case RoleKey _ -> Kind.ROLES;
      case CollectionKey _ -> Kind.COLLECTIONS;
      case AssignmentKey _ -> Kind.ASSIGNMENTS;
      case BridgeKey _ -> Kind.BRIDGES;
      case DelegationKey _ -> Kind.DELEGATIONS;
      case ExclusionKey _ -> Kind.EXCLUSIONS;
      case ExpectationKey _ -> Kind.EXPECTATIONS;
      case ResourceKey _ -> Kind.RESOURCES;
    };
  }

  /** {@return what a thing is called}; of an assignment, what it gives where and to whom */
  public String name(Key key) {
    return switch (key) {
      case ResourceKey place -> text.place(place);
      case AssignmentKey assignment -> {
        Assignment it = catalogue.assignments().get(assignment);
        String name = text.name(Kind.ASSIGNMENTS, assignment.value());
        yield it == null ? name : name + " for " + text.subject(it.subject());
      }
      default -> text.name(kind(key), key.value());
    };
  }

  /** {@return what a detector looks for} */
  public static String title(Detector it) {
    return switch (it) {
      case USE_NOT_ALLOWED -> "Use without permission";
      case EXCLUSION_WITHIN_REACH -> "Exclusion could be broken";
      case ESCALATION -> "Escalation path";
      case BROAD_SCOPE -> "Very broad assignment";
      case FEW_BECOME_MANY -> "Large group inside a small one";
      case SERVICE_WITH_PERSONS_ROLE -> "Service with a person's role";
      case UNUSED_RIGHTS -> "Unused rights";
      case UNUSED_ASSIGNMENT -> "Unused assignment";
      case RARE_AMONG_COLLEAGUES -> "Rare among colleagues";
      case SCOPE_WIDER_THAN_USE -> "Scope wider than use";
      case ROLE_WIDER_THAN_USE -> "Role wider than use";
      case STANDING_CRITICAL -> "Critical access used on few days";
      case LEFT_OVER -> "Left over from before a move";
      case STILL_ANSWERS -> "Left or suspended, still holds";
      case DORMANT -> "Uses nothing";
      case GUEST_PAST_PURPOSE -> "Guest who uses nothing";
      case GUEST_WITHOUT_END -> "Guest without an end date";
      case FEW_OWNERS -> "Fewer than two owners";
      case NO_LIVING_OWNER -> "No active owner";
      case NO_MANAGER -> "No active manager";
      case DENY_LOCKS_GATE -> "Deny locks a gate";
      case DENY_WITHOUT_EFFECT -> "Deny without effect";
      case GIVES_NOTHING -> "Grants nothing";
      case NOT_OBSERVED -> "Not observed";
      case REDUNDANT_ASSIGNMENT -> "Redundant assignment";
      case UNUSED_ROLE -> "Unused role";
      case UNUSED_GROUP -> "Unused group";
      case UNUSED_SET -> "Unused permission set";
      case ALIKE_ROLES -> "Roles alike";
    };
  }

  /** {@return what a remedy does, as a button says it} */
  public static String label(Remedies.Act it) {
    return switch (it) {
      case REMOVE_ASSIGNMENT -> "Remove assignment";
      case REMOVE_ASSIGNMENTS -> "Remove assignments";
      case NARROW_SCOPE -> "Narrow scope";
      case STOP_CROSSING_SEALS -> "Stop crossing seals";
      case GIVE_LESS -> "Grant the smaller one";
      case MAKE_JUST_IN_TIME -> "Make just-in-time";
      case REMOVE_FROM_GROUP -> "Remove from group";
      case NEST_THE_OTHER_WAY -> "Nest the other way";
      case END_GUEST_MEMBERSHIP -> "End guest membership";
      case END_DELEGATION -> "End delegation";
      case SUSPEND -> "Suspend";
      case RETIRE_ROLE -> "Retire role";
      case REMOVE_ROLE -> "Remove role";
      case MERGE_ROLES -> "Merge roles";
      case RETIRE_GROUP -> "Retire group";
      case REMOVE_GROUP -> "Remove group";
      case REMOVE_SET -> "Remove permission set";
    };
  }

  /** {@return what was found, in a sentence without a stop} */
  public String of(Trouble trouble) {
    return switch (trouble) {
      case Trouble.UseNotAllowed it ->
          name(it.principal())
              + " used "
              + name(it.permission())
              + " on "
              + name(it.resource())
              + " on "
              + DAY.format(it.last())
              + " without holding it"
              + more(it.rights() - 1, "other right", "other rights");
      case Trouble.ExclusionWithinReach it ->
          name(it.principal())
              + (it.actingFor() == null
                  ? " could break " + name(it.exclusion()) + " by activating access, as"
                  : " could break "
                      + name(it.exclusion())
                      + " by acting for "
                      + name(it.actingFor())
                      + ", as")
              + " on "
              + name(it.where());
      case Trouble.Escalation it ->
          name(it.principal())
              + " could grant themselves "
              + name(it.permission())
              + " on "
              + name(it.resource())
              + " by one change"
              + (it.approved() ? " that somebody must approve" : ", and nobody must approve it")
              + more(
                  it.permissions() - 1, "other critical permission", "other critical permissions");
      case Trouble.BroadScope it -> breadth(it);
      case Trouble.FewBecomeMany it ->
          name(it.group())
              + " contains "
              + name(it.member())
              + ": "
              + count(it.many(), "person", "people")
              + " through it, "
              + it.few()
              + " besides";
      case Trouble.ServiceWithPersonsRole it ->
          name(it.service()) + " holds " + name(it.role()) + ", which people hold, too";
      case Trouble.UnusedRights it ->
          name(it.principal())
              + " doesn't use "
              + count(it.rights(), "right", "rights")
              + " of high or critical risk, such as "
              + name(it.permission());
      case Trouble.UnusedAssignment it ->
          name(it.assignment())
              + ": nobody uses it, of "
              + count(it.holders(), "person", "people")
              + " who hold it";
      case Trouble.RareAmongColleagues it ->
          name(it.principal())
              + " holds "
              + name(it.permission())
              + "; "
              + it.holders()
              + " of "
              + count(it.colleagues(), "colleague", "colleagues")
              + " "
              + basis(it.basis())
              + (it.holders() == 1 ? " holds it" : " hold it")
              + more(it.permissions() - 1, "other permission", "other permissions");
      case Trouble.ScopeWiderThanUse it ->
          name(it.assignment())
              + ": all its use is in "
              + name(it.narrowest())
              + ", "
              + it.inside()
              + " of "
              + count(it.covered(), "resource", "resources");
      case Trouble.RoleWiderThanUse it ->
          name(it.assignment())
              + ": "
              + it.needed()
              + " of "
              + count(it.given(), "permission", "permissions")
              + " needed; "
              + text.gives(it.smaller())
              + " suffices";
      case Trouble.StandingCritical it ->
          name(it.principal())
              + " holds "
              + name(it.permission())
              + " all the time and used it on "
              + count(it.days(), "day", "days")
              + ", last on "
              + DAY.format(it.last());
      case Trouble.LeftOver it -> leftOver(it);
      case Trouble.StillAnswers it -> stillAnswers(it);
      case Trouble.Dormant it ->
          name(it.principal()) + " uses none of " + count(it.rights(), "right", "rights");
      case Trouble.GuestPastPurpose it ->
          name(it.principal())
              + " is a guest of "
              + name(it.account())
              + " and uses none of "
              + count(it.rights(), "right", "rights")
              + " there";
      case Trouble.GuestWithoutEnd it ->
          name(it.principal()) + " is a guest of " + name(it.account()) + " without an end date";
      case Trouble.FewOwners it ->
          name(it.account())
              + (it.owners() == 0 ? " has no owner" : " has one owner")
              + " who is active";
      case Trouble.NoLivingOwner it ->
          name(it.thing())
              + (it.owner() == null
                  ? " has no owner"
                  : " is owned by " + name(it.owner()) + ", who left or is suspended");
      case Trouble.NoManager it ->
          name(it.principal())
              + (it.manager() == null
                  ? " has no manager"
                  : " reports to " + name(it.manager()) + ", who left or is suspended");
      case Trouble.DenyLocksGate it ->
          name(it.assignment())
              + " denies the gate "
              + name(it.gate())
              + " and so blocks "
              + name(it.blocked())
              + " for "
              + count(it.people(), "person", "people");
      case Trouble.DenyWithoutEffect it -> name(it.assignment()) + " denies nothing to anybody";
      case Trouble.GivesNothing it -> name(it.assignment()) + " grants nothing: " + why(it.why());
      case Trouble.NotObserved it ->
          "No source reports the use of "
              + name(it.permission())
              + ", which "
              + (it.assignments() == 1
                  ? "one assignment grants"
                  : it.assignments() + " assignments grant");
      case Trouble.RedundantAssignment it ->
          name(it.assignment()) + " grants nothing that " + name(it.by()) + " doesn't";
      case Trouble.UnusedRole it -> name(it.role()) + " isn't assigned or inherited anywhere";
      case Trouble.UnusedGroup it -> name(it.group()) + " isn't used in any assignment or group";
      case Trouble.UnusedSet it -> name(it.set()) + " isn't in any role, set or assignment";
      case Trouble.AlikeRoles it ->
          switch (it.likeness()) {
            case EQUAL -> name(it.role()) + " and " + name(it.other()) + " grant the same";
            case CONTAINED ->
                "Everyone who holds "
                    + name(it.role())
                    + " holds "
                    + name(it.other())
                    + ", which grants all of it";
            case TOGETHER ->
                name(it.role()) + " and " + name(it.other()) + " are held by the same people";
          };
    };
  }

  private String breadth(Trouble.BroadScope it) {
    List<String> what = new ArrayList<>();
    for (Trouble.Breadth each : it.breadths()) {
      what.add(
          switch (each) {
            case EVERYTHING -> "covers everything";
            case THROUGH_SEALS -> "crosses seals";
            case PUBLIC -> "is for the public";
          });
    }
    return name(it.assignment())
        + " "
        + String.join(" and ", what)
        + ": "
        + count(it.places(), "resource", "resources");
  }

  private String leftOver(Trouble.LeftOver it) {
    String kept =
        switch (it.kept()) {
          case AccountKey account -> "a guest membership of " + name(account);
          case GroupKey group -> "the membership in " + name(group);
          case AssignmentKey assignment -> text.name(Kind.ASSIGNMENTS, assignment.value());
          case Key other -> name(other);
        };
    String was =
        switch (it.moved()) {
          case ACCOUNT -> "home account was " + name(new AccountKey(it.was()));
          case UNIT -> "unit was " + name(new UnitKey(it.was()));
          case TITLE -> "title was " + it.was();
        };
    return name(it.principal())
        + " kept "
        + kept
        + " from when their "
        + was
        + ", until "
        + day(it.since());
  }

  private String stillAnswers(Trouble.StillAnswers it) {
    List<String> what = new ArrayList<>();
    add(what, it.assignments(), "assignment", "assignments");
    add(what, it.groups(), "group membership", "group memberships");
    add(what, it.owned(), "thing they own", "things they own");
    add(what, it.reports(), "report", "reports");
    return name(it.principal())
        + (it.left() ? " left" : " is suspended")
        + " and still has "
        + String.join(", ", what);
  }

  private static void add(List<String> to, int many, String one, String more) {
    if (many > 0) {
      to.add(count(many, one, more));
    }
  }

  private static String basis(Peers.Basis basis) {
    return switch (basis) {
      case PATTERN -> "of the same pattern";
      case TITLE -> "of the same title";
      case UNIT -> "in the same unit";
      case NONE -> "of any kind";
    };
  }

  private static String why(Trouble.Nothing why) {
    return switch (why) {
      case OVER -> "it has ended";
      case ROLE_RETIRED -> "its role is retired";
      case GROUP_RETIRED -> "its group is retired";
      case GIVES_NO_PERMISSION -> "what it grants has no permissions";
      case COVERS_NOTHING -> "its scope covers nothing that its permissions apply to";
      case NO_HOLDERS -> "nobody active holds it";
      case DENIED_EVERYWHERE -> "all of it is denied";
      case GATE_NOWHERE -> "a gate is missing everywhere";
      case NO_SECOND_FACTOR -> "it needs a second factor, and no holder has one";
      case OUT_OF_REACH -> "its holders can't reach anything in its scope";
    };
  }

  private static String more(int many, String one, String more) {
    return many <= 0 ? "" : ", and " + count(many, one, more);
  }

  private static String day(Instant at) {
    return DAY.format(LocalDate.ofInstant(at, ZoneOffset.UTC));
  }

  private static String count(long many, String one, String more) {
    return String.format(Locale.ROOT, "%,d ", many) + (many == 1 ? one : more);
  }
}
