package mandala.core.compiled;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.model.Account;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Pattern;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceCollection;
import mandala.core.model.ResourceType;
import mandala.core.model.Role;
import mandala.core.model.Thing;
import mandala.core.model.Unit;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;

/**
 * What some changes touch, by kind. Each thing is then compared as it was before and is after them
 * all, so that their order does not matter.
 */
final class Touched {

  final Set<PrincipalKey> principals = new LinkedHashSet<>();

  /** Whose guest memberships, activations or delegations are others now. */
  final Set<PrincipalKey> guests = new LinkedHashSet<>();

  final Set<PrincipalKey> actedFor = new LinkedHashSet<>();
  final Set<GroupKey> groups = new LinkedHashSet<>();
  final Set<ResourceKey> resources = new LinkedHashSet<>();
  final Set<RoleKey> roles = new LinkedHashSet<>();
  final Set<PermissionSetKey> sets = new LinkedHashSet<>();
  final Set<CollectionKey> collections = new LinkedHashSet<>();
  final Set<AssignmentKey> assignments = new LinkedHashSet<>();
  final Set<BridgeKey> bridges = new LinkedHashSet<>();

  /** Something on which everything stands: accounts, units, types, permissions. */
  boolean foundations;

  static Touched by(List<Change> changes) {
    Touched touched = new Touched();
    for (Change change : changes) {
      switch (change) {
        case Change.Added(Thing thing) -> touched.touch(thing);
        case Change.Removed(Thing thing) -> touched.touch(thing);
        case Change.Altered(Thing before, Thing after) -> {
          touched.touch(before);
          touched.touch(after);
        }
      }
    }
    return touched;
  }

  private void touch(Thing thing) {
    switch (thing) {
      case Account _, Unit _, ResourceType _, Permission _ -> foundations = true;
      case Pattern _ -> foundations = true;
      case Principal it -> principals.add(it.key());
      case Guest it -> guests.add(it.principal());
      case Group it -> groups.add(it.key());
      case PermissionSet it -> sets.add(it.key());
      case Role it -> roles.add(it.key());
      case Resource it -> resources.add(it.key());
      case ResourceCollection it -> collections.add(it.key());
      case Assignment it -> assignments.add(it.key());
      case Bridge it -> bridges.add(it.key());
      case Delegation it -> actedFor.add(it.principal());
      case Activation _, Exclusion _, Expectation _ -> {
        // the catalogue holds them; nothing is compiled of them
      }
    }
  }

  /** {@return whether so much hangs on it that all is compiled anew} */
  boolean needsAll(Catalogue before, Catalogue after) {
    for (GroupKey key : groups) {
      Group was = before.groups().get(key);
      Group now = after.groups().get(key);
      if (was != null && now != null && !was.account().equals(now.account())) {
        return true;
      }
    }
    for (ResourceKey key : resources) {
      Resource was = before.resources().get(key);
      Resource now = after.resources().get(key);
      if (was != null && now != null && !was.account().equals(now.account())) {
        return true;
      }
    }
    return foundations;
  }
}
