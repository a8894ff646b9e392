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
import mandala.core.model.Key;
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

/**
 * What some changes touch, by kind. Each thing is then compared as it was before and is after them
 * all, so that their order does not matter.
 */
final class Touched {

  final Set<Key.Principal> principals = new LinkedHashSet<>();

  /** Whose guest memberships, activations or delegations are others now. */
  final Set<Key.Principal> guests = new LinkedHashSet<>();

  final Set<Key.Principal> actedFor = new LinkedHashSet<>();
  final Set<Key.Group> groups = new LinkedHashSet<>();
  final Set<Key.Resource> resources = new LinkedHashSet<>();
  final Set<Key.Role> roles = new LinkedHashSet<>();
  final Set<Key.PermissionSet> sets = new LinkedHashSet<>();
  final Set<Key.Collection> collections = new LinkedHashSet<>();
  final Set<Key.Assignment> assignments = new LinkedHashSet<>();
  final Set<Key.Bridge> bridges = new LinkedHashSet<>();

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
    for (Key.Group key : groups) {
      Group was = before.groups().get(key);
      Group now = after.groups().get(key);
      if (was != null && now != null && !was.account().equals(now.account())) {
        return true;
      }
    }
    for (Key.Resource key : resources) {
      Resource was = before.resources().get(key);
      Resource now = after.resources().get(key);
      if (was != null && now != null && !was.account().equals(now.account())) {
        return true;
      }
    }
    return foundations;
  }
}
