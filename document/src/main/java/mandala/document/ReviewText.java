package mandala.document;

import java.util.Optional;
import mandala.core.change.Removal;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.UnitKey;
import mandala.core.review.Deciders;
import mandala.core.review.Recommendation;
import mandala.core.review.ReviewItem;
import org.jspecify.annotations.Nullable;

/** Says what items of a review are, and why something is recommended. */
public final class ReviewText {

  private final Catalogue catalogue;
  private final ChangeText text;
  private final ThingText things;

  /** Speaks with the names of a model that the reader may see. */
  public ReviewText(Catalogue catalogue, Naming naming) {
    this.catalogue = catalogue;
    text = new ChangeText(catalogue, catalogue, naming);
    things = new ThingText(catalogue, naming);
  }

  /** {@return what an item is}, without whose it is: {@code Member of Registrars} */
  public String of(ReviewItem item) {
    return switch (item.removal()) {
      case Removal.Leave(GroupKey group, Group.Member.OfPrincipal _) ->
          "Member of " + name(Kind.GROUPS, group);
      case Removal.Leave(GroupKey group, Group.Member.OfGroup(GroupKey inner)) ->
          "Members of " + name(Kind.GROUPS, inner) + " are members of " + name(Kind.GROUPS, group);
      case Removal.LoseAttribute(GroupKey group, var _) ->
          "Member of " + name(Kind.GROUPS, group) + " by its rule";
      case Removal.DropRule(GroupKey group) -> "Rule of " + name(Kind.GROUPS, group);
      case Removal.DropPattern(PrincipalKey who) -> {
        Principal it = catalogue.principals().get(who);
        yield it == null || it.pattern() == null
            ? "Pattern"
            : "Pattern " + name(Kind.PATTERNS, it.pattern());
      }
      case Removal.EndGuest(var _, AccountKey account) ->
          "Guest of " + name(Kind.ACCOUNTS, account);
      case Removal.Unassign(AssignmentKey key) -> {
        Assignment it = catalogue.assignments().get(key);
        yield it == null ? "Assignment" : assignment(it);
      }
      case Removal.EndBridge(BridgeKey key) ->
          thing(catalogue.bridges().get(key)).orElse("Cross-account access");
      case Removal.Undelegate(DelegationKey key) ->
          thing(catalogue.delegations().get(key)).orElse("Delegation");
      case Removal.TakeFromRole(RoleKey role, PermissionKey permission) ->
          name(Kind.PERMISSIONS, permission) + " in the role " + name(Kind.ROLES, role);
      case Removal.DropReach(var _, UnitKey unit) -> "Reach into " + name(Kind.UNITS, unit);
      case Removal.Disown(Key thing, var _) ->
          thing instanceof ResourceKey place
              ? "Owner of " + text.place(place)
              : "Owner of " + name(TroubleText.kind(thing), thing);
      case Removal.EndExemption(ExclusionKey exclusion, var _) ->
          "Exempt from " + name(Kind.EXCLUSIONS, exclusion);
      case Removal.OutOfRole _, Removal.OutOfSet _ ->
          throw new IllegalArgumentException("Reviews do not ask about " + item.removal());
    };
  }

  private String assignment(Assignment it) {
    String where = text.scope(it.scope().isEmpty() ? it.viewScope() : it.scope());
    String mode = it.mode() == Assignment.Mode.JUST_IN_TIME ? ", when activated" : "";
    return text.gives(it.gives()) + " on " + where + mode + ChangeText.window(it.window());
  }

  private Optional<String> thing(@Nullable Thing it) {
    return Optional.ofNullable(it).map(things::of);
  }

  private String name(Kind kind, Key key) {
    return text.name(kind, key.value());
  }

  /** {@return one word for the kind of an item} */
  public static String kind(ReviewItem item) {
    return item.id().substring(0, item.id().indexOf(' '));
  }

  /** {@return what makes somebody the decider}, as a word */
  public static String word(Deciders.By by) {
    return switch (by) {
      case Deciders.By.Manager _ -> "manager";
      case Deciders.By.Sponsor _ -> "sponsor";
      case Deciders.By.PlaceOwner _ -> "place-owner";
      case Deciders.By.ThingOwner _ -> "thing-owner";
      case Deciders.By.AccountOwner _ -> "account-owner";
      case Deciders.By.Named(PrincipalKey who) -> "person:" + who;
    };
  }

  /**
   * {@return what a word names}
   *
   * @throws IllegalArgumentException if it names no decider
   */
  public static Deciders.By by(String word) {
    return switch (word) {
      case "manager" -> new Deciders.By.Manager();
      case "sponsor" -> new Deciders.By.Sponsor();
      case "place-owner" -> new Deciders.By.PlaceOwner();
      case "thing-owner" -> new Deciders.By.ThingOwner();
      case "account-owner" -> new Deciders.By.AccountOwner();
      default -> {
        if (!word.startsWith("person:") || word.length() == 7) {
          throw new IllegalArgumentException("'" + word + "' names no decider");
        }
        yield new Deciders.By.Named(new PrincipalKey(word.substring(7)));
      }
    };
  }

  /** {@return a reason as a sentence without a full stop} */
  public static String of(Recommendation.Reason reason) {
    return switch (reason) {
      case INACTIVE -> "Whoever has it is no longer active";
      case LEFT_OVER -> "It was granted for an earlier unit, account or title";
      case CONFLICT -> "It takes part in a conflict";
      case GIVES_NOTHING -> "It grants nothing now";
      case DENIES -> "It denies something too: without it, they would have more";
      case NOT_BEGUN -> "It hasn't begun yet";
      case DOUBLED -> "Something else grants all of it too";
      case UNUSED -> "Nothing that only it grants was used";
      case PARTLY_USED -> "Less than half of what only it grants was used";
      case USED -> "What it grants is used";
      case NOT_OBSERVED -> "No system reports whether it is used";
      case FEW_COLLEAGUES -> "Few comparable colleagues have it";
      case MANY_COLLEAGUES -> "Most comparable colleagues have it";
    };
  }
}
