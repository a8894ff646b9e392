package mandala.core.review;

import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.authority.Authority;
import mandala.core.change.Removal;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.rule.PermissionClosure;
import mandala.core.shrink.Contents;
import org.jspecify.annotations.Nullable;

/**
 * The highest risk of what items may give on a place, or anywhere. For one thread.
 *
 * @see ReviewItems#risk
 */
final class ItemRisks {
  private final ItemIndex index;
  private final Catalogue catalogue;
  private final Contents contents;
  private final Map<Gives, Permission.Risk> risks = new HashMap<>();
  private final @Nullable ResourceKey place;
  private final Set<ResourceKey> above = new HashSet<>();
  private final Map<GroupKey, Permission.@Nullable Risk> groups = new HashMap<>();

  ItemRisks(ItemIndex index, Contents contents, @Nullable ResourceKey place) {
    this.index = index;
    this.contents = contents;
    catalogue = index.catalogue;
    this.place = place;
    for (ResourceKey each = place; each != null && catalogue.has(each); ) {
      above.add(each);
      each = catalogue.parentOf(each);
    }
  }

  Permission.@Nullable Risk of(ReviewItem it) {
    return switch (it.removal()) {
      case Removal.Leave(GroupKey group, var _) -> of(group);
      case Removal.LoseAttribute(GroupKey group, var _) -> of(group);
      case Removal.DropRule(GroupKey group) -> of(group);
      case Removal.DropPattern(PrincipalKey key) -> {
        Principal who = catalogue.principals().get(key);
        yield who == null || who.pattern() == null
            ? null
            : of(new Subject.OfPattern(who.pattern()));
      }
      case Removal.Unassign(AssignmentKey key) -> {
        Assignment assignment = catalogue.assignments().get(key);
        yield assignment == null ? null : of(assignment);
      }
      case Removal.EndBridge(BridgeKey key) -> {
        Bridge bridge = catalogue.bridges().get(key);
        yield bridge == null ? null : of(bridge);
      }
      case Removal.EndGuest(PrincipalKey key, AccountKey account) ->
          higher(ofAll(key), of(new Subject.OfAccount(account)));
      case Removal.DropReach(PrincipalKey key, var _) -> ofAll(key);
      case Removal.Undelegate(DelegationKey key) -> {
        Delegation delegation = catalogue.delegations().get(key);
        yield delegation == null ? null : ofAll(delegation.principal());
      }
      case Removal.TakeFromRole(var _, PermissionKey permission) ->
          riskOf(PermissionClosure.implied(permission, catalogue));
      case Removal.Disown _, Removal.EndExemption _, Removal.OutOfRole _, Removal.OutOfSet _ ->
          null;
    };
  }

  /** Of all that a principal has, by itself or as a member. */
  private Permission.@Nullable Risk ofAll(PrincipalKey key) {
    Principal who = catalogue.principals().get(key);
    Permission.Risk highest = null;
    for (ReviewItem it : who == null ? List.<ReviewItem>of() : index.of(who, _ -> true)) {
      if (!(it.removal() instanceof Removal.DropReach)
          && !(it.removal() instanceof Removal.EndGuest)) {
        highest = higher(highest, of(it));
      }
    }
    return highest;
  }

  private Permission.@Nullable Risk of(Subject subject) {
    Permission.Risk highest = null;
    for (Assignment it : index.of(subject)) {
      highest = higher(highest, of(it));
    }
    return highest;
  }

  /** Of a group with those that contain it. */
  private Permission.@Nullable Risk of(GroupKey key) {
    if (groups.containsKey(key)) {
      return groups.get(key);
    }
    groups.put(key, null); // groups that contain each other end here
    Permission.Risk highest = of(new Subject.OfGroup(key));
    for (Bridge it : index.bridges(key)) {
      highest = higher(highest, of(it));
    }
    int number = catalogue.groups().number(key);
    for (int g : number < 0 ? new int[0] : catalogue.links().nesting(number)) {
      highest = higher(highest, of(catalogue.groups().the(g).key()));
    }
    groups.put(key, highest);
    return highest;
  }

  private Permission.@Nullable Risk of(Assignment it) {
    return isThere(Authority.anchorsOf(it, catalogue)) ? riskOf(it.gives()) : null;
  }

  private Permission.@Nullable Risk of(Bridge it) {
    return isThere(Set.of(ResourceKey.of(it.account()))) ? riskOf(it.gives()) : null;
  }

  private boolean isThere(Set<ResourceKey> anchors) {
    return place == null || anchors.stream().anyMatch(it -> above.contains(it) || isBelow(it));
  }

  private boolean isBelow(ResourceKey anchor) {
    for (ResourceKey each = anchor; each != null && catalogue.has(each); ) {
      if (each.equals(place)) {
        return true;
      }
      each = catalogue.parentOf(each);
    }
    return false;
  }

  private static Permission.@Nullable Risk higher(
      Permission.@Nullable Risk one, Permission.@Nullable Risk other) {
    return one == null || (other != null && other.compareTo(one) > 0) ? other : one;
  }

  private Permission.@Nullable Risk riskOf(Gives gives) {
    Permission.Risk known = risks.get(gives);
    if (known == null) {
      Contents.Content content = contents.of(gives, false);
      Set<PermissionKey> all = new HashSet<>(content.free());
      all.addAll(content.factor());
      known = riskOf(all);
      if (known != null) {
        risks.put(gives, known);
      }
    }
    return known;
  }

  private Permission.@Nullable Risk riskOf(Set<PermissionKey> some) {
    Permission.Risk highest = null;
    for (PermissionKey key : some) {
      Permission it = catalogue.permissions().get(key);
      highest = higher(highest, it == null ? null : it.risk());
    }
    return highest;
  }
}
