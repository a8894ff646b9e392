package mandala.core.change;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.model.About;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Exclusion;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Role;
import mandala.core.model.Rule;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.UnitKey;
import mandala.core.rule.GroupRules;

/** Something that can be taken away, whatever else was taken away before. */
public sealed interface Removal {

  /**
   * {@return the changes that take it away, in their order}; none where it is gone already, or
   * cannot go alone
   */
  List<Change> in(Catalogue now);

  /** A listed member leaves a group. */
  record Leave(GroupKey group, Group.Member member) implements Removal {
    @Override
    public List<Change> in(Catalogue now) {
      Group it = now.groups().get(group);
      return it == null || !it.members().contains(member)
          ? List.of()
          : List.of(new Change.Altered(it, Rewritten.without(it, member)));
    }
  }

  /**
   * A principal no longer passes the rule of a group: the attribute goes by which it does, or all
   * that the rule tests where no single one is enough. Who passes by other facts stays.
   */
  record LoseAttribute(GroupKey group, PrincipalKey principal) implements Removal {
    @Override
    public List<Change> in(Catalogue now) {
      Group it = now.groups().get(group);
      Principal who = now.principals().get(principal);
      Rule rule = it == null ? null : it.rule();
      if (rule == null || who == null || !GroupRules.passes(rule, who, now)) {
        return List.of();
      }
      Set<String> tested = new LinkedHashSet<>();
      for (Rule.Test test : rule.tests()) {
        if (!Rule.FIELDS.contains(test.attribute())
            && who.attributes().containsKey(test.attribute())) {
          tested.add(test.attribute());
        }
      }
      List<Set<String>> choices = new ArrayList<>();
      tested.forEach(each -> choices.add(Set.of(each)));
      choices.add(tested);
      for (Set<String> choice : choices) {
        Map<String, String> left = new HashMap<>(who.attributes());
        left.keySet().removeAll(choice);
        Principal without = Rewritten.facts(who, who.unit(), who.manager(), left);
        if (!GroupRules.passes(rule, without, now)) {
          return List.of(new Change.Altered(who, without));
        }
      }
      return List.of();
    }
  }

  /** A group loses its rule: who is in it by the rule only leaves. */
  record DropRule(GroupKey group) implements Removal {
    @Override
    public List<Change> in(Catalogue now) {
      Group it = now.groups().get(group);
      return it == null || it.rule() == null
          ? List.of()
          : List.of(new Change.Altered(it, Rewritten.withoutRule(it)));
    }
  }

  /** A principal loses its pattern. */
  record DropPattern(PrincipalKey principal) implements Removal {
    @Override
    public List<Change> in(Catalogue now) {
      Principal it = now.principals().get(principal);
      return it == null || it.pattern() == null
          ? List.of()
          : List.of(new Change.Altered(it, Rewritten.pattern(it, null)));
    }
  }

  /** A principal's guest memberships of an account end. */
  record EndGuest(PrincipalKey principal, AccountKey account) implements Removal {
    @Override
    public List<Change> in(Catalogue now) {
      List<Change> changes = new ArrayList<>();
      int number = now.principals().number(principal);
      for (Guest it : number < 0 ? List.<Guest>of() : now.links().guests(number)) {
        Change gone = new Change.Removed(it);
        if (it.account().equals(account) && !changes.contains(gone)) {
          changes.add(gone);
        }
      }
      return changes;
    }
  }

  /** An assignment goes, with what was activated of it. */
  record Unassign(AssignmentKey key) implements Removal {
    @Override
    public List<Change> in(Catalogue now) {
      Assignment it = now.assignments().get(key);
      List<Change> changes = new ArrayList<>();
      if (it != null) {
        if (it.mode() == Assignment.Mode.JUST_IN_TIME) {
          for (Activation each : now.activations(key)) {
            changes.add(new Change.Removed(each));
          }
        }
        changes.add(new Change.Removed(it));
      }
      return changes;
    }
  }

  /** A bridge ends. */
  record EndBridge(BridgeKey key) implements Removal {
    @Override
    public List<Change> in(Catalogue now) {
      Bridge it = now.bridges().get(key);
      return it == null || it.status() == Bridge.Status.ENDED
          ? List.of()
          : List.of(new Change.Altered(it, Rewritten.status(it, Bridge.Status.ENDED)));
    }
  }

  /** A delegation goes. */
  record Undelegate(DelegationKey key) implements Removal {
    @Override
    public List<Change> in(Catalogue now) {
      Delegation it = now.delegations().get(key);
      return it == null ? List.of() : List.of(new Change.Removed(it));
    }
  }

  /** A set goes out of a role. */
  record OutOfRole(RoleKey role, PermissionSetKey set) implements Removal {
    @Override
    public List<Change> in(Catalogue now) {
      Role it = now.roles().get(role);
      return it == null || !it.sets().contains(set)
          ? List.of()
          : List.of(new Change.Altered(it, Rewritten.without(it, set)));
    }
  }

  /** A permission goes out of a set. */
  record OutOfSet(PermissionSetKey set, PermissionKey permission) implements Removal {
    @Override
    public List<Change> in(Catalogue now) {
      PermissionSet it = now.sets().get(set);
      return it == null || !it.allow().contains(permission)
          ? List.of()
          : List.of(new Change.Altered(it, Rewritten.without(it, permission)));
    }
  }

  /**
   * A permission goes out of a role, and out of nothing else: each set of the role that lists it is
   * replaced by a copy without it. What the role inherits or other permissions imply stays.
   */
  record TakeFromRole(RoleKey role, PermissionKey permission) implements Removal {
    @Override
    public List<Change> in(Catalogue now) {
      Role it = now.roles().get(role);
      if (it == null || it.key().value().startsWith(Supplied.PREFIX)) {
        return List.of();
      }
      List<Change> changes = new ArrayList<>();
      List<PermissionSetKey> sets = new ArrayList<>();
      Set<String> taken = new HashSet<>();
      for (PermissionSetKey key : it.sets()) {
        ListedPermissions listed = ListedPermissions.of(key, now);
        if (listed.allowed().contains(permission)) {
          PermissionSet copy = copy(key, it, listed, now, taken);
          changes.add(new Change.Added(copy));
          sets.add(copy.key());
        } else {
          sets.add(key);
        }
      }
      if (!changes.isEmpty()) {
        changes.add(new Change.Altered(it, Rewritten.content(it, sets, it.inherits())));
      }
      return changes;
    }

    private PermissionSet copy(
        PermissionSetKey of, Role it, ListedPermissions listed, Catalogue now, Set<String> taken) {
      PermissionSet was = now.sets().get(of);
      String stem = it.key().value() + "." + of.value().replace(Supplied.PREFIX, "");
      PermissionSetKey key = new PermissionSetKey(stem);
      for (int n = 2; now.sets().containsKey(key) || !taken.add(key.value()); n++) {
        key = new PermissionSetKey(stem + "." + n);
      }
      return new PermissionSet(
          key,
          was == null ? About.NONE : About.named(was.about().nameOr(of)),
          it.account(),
          listed.allowed().stream().filter(each -> !each.equals(permission)).toList(),
          List.copyOf(listed.denied()),
          List.of());
    }
  }

  /** A principal no longer reaches a unit beyond its own. */
  record DropReach(PrincipalKey principal, UnitKey unit) implements Removal {
    @Override
    public List<Change> in(Catalogue now) {
      Principal it = now.principals().get(principal);
      return it == null || it.reach().stream().noneMatch(each -> each.unit().equals(unit))
          ? List.of()
          : List.of(new Change.Altered(it, Rewritten.withoutReach(it, unit)));
    }
  }

  /** Somebody no longer owns a group, a role or a resource. */
  record Disown(Key thing, PrincipalKey owner) implements Removal {
    @Override
    public List<Change> in(Catalogue now) {
      return switch (thing) {
        case GroupKey key -> {
          Group it = now.groups().get(key);
          yield it == null || !it.owners().contains(owner)
              ? List.of()
              : List.of(new Change.Altered(it, Rewritten.withoutOwner(it, owner)));
        }
        case RoleKey key -> {
          Role it = now.roles().get(key);
          yield it == null || !it.owners().contains(owner)
              ? List.of()
              : List.of(new Change.Altered(it, Rewritten.withoutOwner(it, owner)));
        }
        case ResourceKey key -> {
          Resource it = now.resources().get(key);
          yield it == null || !owner.equals(it.owner())
              ? List.of()
              : List.of(new Change.Altered(it, Rewritten.owner(it, null)));
        }
        default -> throw new IllegalArgumentException("'" + thing + "' has no owner to remove");
      };
    }
  }

  /** An exemption from an exclusion ends. */
  record EndExemption(ExclusionKey exclusion, PrincipalKey principal) implements Removal {
    @Override
    public List<Change> in(Catalogue now) {
      Exclusion it = now.exclusions().get(exclusion);
      return it == null
              || it.exempt().stream().noneMatch(each -> each.principal().equals(principal))
          ? List.of()
          : List.of(new Change.Altered(it, Rewritten.withoutExemption(it, principal)));
    }
  }
}
