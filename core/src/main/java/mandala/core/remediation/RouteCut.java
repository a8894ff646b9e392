package mandala.core.remediation;

import java.util.ArrayList;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;

/** Something that can be taken away from a route, whatever else was taken away before. */
sealed interface RouteCut {

  /** {@return the changes that make it}, none where it is made already */
  List<Change> in(Catalogue now);

  /** A member leaves a group. */
  record Leave(GroupKey group, Group.Member member) implements RouteCut {
    @Override
    public List<Change> in(Catalogue now) {
      Group it = now.groups().get(group);
      return it == null || !it.members().contains(member)
          ? List.of()
          : List.of(new Change.Altered(it, Rewritten.without(it, member)));
    }
  }

  /** A principal loses its pattern. */
  record NoPattern(PrincipalKey principal) implements RouteCut {
    @Override
    public List<Change> in(Catalogue now) {
      Principal it = now.principals().get(principal);
      return it == null || it.pattern() == null
          ? List.of()
          : List.of(new Change.Altered(it, Rewritten.pattern(it, null)));
    }
  }

  /** A guest membership ends. */
  record NoGuest(Guest guest) implements RouteCut {
    @Override
    public List<Change> in(Catalogue now) {
      return List.of(new Change.Removed(guest));
    }
  }

  /** An assignment goes, with what was switched on of it. */
  record Unassign(AssignmentKey key) implements RouteCut {
    @Override
    public List<Change> in(Catalogue now) {
      Assignment it = now.assignments().get(key);
      List<Change> changes = new ArrayList<>();
      if (it != null) {
        for (Activation each : now.model().activations()) {
          if (each.assignment().equals(key)) {
            changes.add(new Change.Removed(each));
          }
        }
        changes.add(new Change.Removed(it));
      }
      return changes;
    }
  }

  /** A bridge ends. */
  record EndBridge(BridgeKey key) implements RouteCut {
    @Override
    public List<Change> in(Catalogue now) {
      Bridge it = now.bridges().get(key);
      return it == null || it.status() == Bridge.Status.ENDED
          ? List.of()
          : List.of(new Change.Altered(it, Rewritten.status(it, Bridge.Status.ENDED)));
    }
  }

  /** A delegation goes. */
  record Undelegate(DelegationKey key) implements RouteCut {
    @Override
    public List<Change> in(Catalogue now) {
      Delegation it = now.delegations().get(key);
      return it == null ? List.of() : List.of(new Change.Removed(it));
    }
  }

  /** A set goes out of a role. */
  record OutOfRole(RoleKey role, PermissionSetKey set) implements RouteCut {
    @Override
    public List<Change> in(Catalogue now) {
      Role it = now.roles().get(role);
      return it == null || !it.sets().contains(set)
          ? List.of()
          : List.of(new Change.Altered(it, Rewritten.without(it, set)));
    }
  }

  /** A permission goes out of a set. */
  record OutOfSet(PermissionSetKey set, PermissionKey permission) implements RouteCut {
    @Override
    public List<Change> in(Catalogue now) {
      PermissionSet it = now.sets().get(set);
      return it == null || !it.allow().contains(permission)
          ? List.of()
          : List.of(new Change.Altered(it, Rewritten.without(it, permission)));
    }
  }

  /** A deny of exactly what is asked about comes. */
  record Deny(Assignment deny) implements RouteCut {
    @Override
    public List<Change> in(Catalogue now) {
      return List.of(new Change.Added(deny));
    }
  }
}
