package mandala.server.review;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
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
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.UnitKey;
import mandala.core.present.Access;
import mandala.core.review.ReviewItem;
import mandala.document.Naming;
import mandala.document.References;
import mandala.document.TroubleText;
import mandala.server.authorization.RequestContext;
import org.jspecify.annotations.Nullable;

/**
 * What may be named to whoever must decide about an item (section 11, "who may read what"), while
 * it is open: what they may read anyway, whom it is about, what the item is made of, and the places
 * and permissions that it gives.
 */
final class ItemNaming implements Naming {

  private final RequestContext context;
  private final Catalogue catalogue;
  private final Set<References.Reference> named = new HashSet<>();
  private final List<Access> given = new ArrayList<>();
  private final Set<PermissionKey> permissions = new HashSet<>();

  ItemNaming(RequestContext context) {
    this.context = context;
    catalogue = context.state().engine().catalogue();
  }

  /** Also names what an item is about, and what it is made of. */
  ItemNaming with(ReviewItem item) {
    if (!(item.about() instanceof AssignmentKey)) {
      add(item.about());
    }
    switch (item.removal()) {
      case Removal.Leave(GroupKey group, var member) -> {
        add(group);
        if (member instanceof Group.Member.OfGroup(GroupKey inner)) {
          add(inner);
        }
      }
      case Removal.LoseAttribute(GroupKey group, var _) -> add(group);
      case Removal.DropRule(GroupKey group) -> add(group);
      case Removal.DropPattern(var who) -> {
        Principal it = catalogue.principals().get(who);
        add(it == null ? null : it.pattern());
      }
      case Removal.EndGuest(var _, AccountKey account) -> add(account);
      case Removal.Unassign(AssignmentKey key) -> {
        add(key);
        addAll(catalogue.assignments().get(key));
      }
      case Removal.EndBridge(BridgeKey key) -> {
        add(key);
        addAll(catalogue.bridges().get(key));
      }
      case Removal.Undelegate(DelegationKey key) -> {
        add(key);
        addAll(catalogue.delegations().get(key));
      }
      case Removal.TakeFromRole(RoleKey role, PermissionKey permission) -> {
        add(role);
        add(permission);
      }
      case Removal.DropReach(var _, UnitKey unit) -> add(unit);
      case Removal.Disown(Key thing, var _) -> add(thing);
      case Removal.EndExemption(var exclusion, var _) -> add(exclusion);
      case Removal.OutOfRole _, Removal.OutOfSet _ -> {
        // no items
      }
    }
    return this;
  }

  /** Also names where an access is, and what. */
  ItemNaming with(Access access) {
    given.add(access);
    permissions.addAll(access.permissions());
    return this;
  }

  private void add(@Nullable Key key) {
    if (key != null) {
      named.add(new References.Reference(kind(key), bare(key)));
    }
  }

  private static Kind kind(Key key) {
    return key instanceof ResourceKey place ? Naming.kindOf(place) : TroubleText.kind(key);
  }

  private static String bare(Key key) {
    int colon = key instanceof ResourceKey ? key.value().indexOf(':') : -1;
    return key.value().substring(colon + 1);
  }

  private void addAll(@Nullable Thing thing) {
    if (thing != null) {
      named.addAll(References.of(thing));
      if (thing instanceof Assignment it && catalogue.homeOf(it.subject()) != null) {
        add(catalogue.homeOf(it.subject()));
      }
    }
  }

  @Override
  public boolean tells(Kind kind, String key) {
    return named.contains(new References.Reference(kind, key))
        || (kind == Kind.PERMISSIONS && permissions.contains(new PermissionKey(key)))
        || context.naming().tells(kind, key)
        || isReached(kind, key);
  }

  private boolean isReached(Kind kind, String key) {
    if (key.isBlank()) {
      return false;
    }
    ResourceKey place =
        switch (kind) {
          case RESOURCES -> new ResourceKey(key);
          case ACCOUNTS -> new ResourceKey("account:" + key);
          case UNITS -> new ResourceKey("unit:" + key);
          case GROUPS -> new ResourceKey("group:" + key);
          default -> null;
        };
    return place != null && given.stream().anyMatch(it -> it.reaches(place));
  }
}
