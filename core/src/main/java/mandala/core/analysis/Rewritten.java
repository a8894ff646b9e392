package mandala.core.analysis;

import java.util.ArrayList;
import java.util.List;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Group;
import mandala.core.model.Key;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Window;
import org.jspecify.annotations.Nullable;

/** Things of the model with one field rewritten, as ways in and out of an access need them. */
final class Rewritten {

  private Rewritten() {}

  static Group without(Group it, Group.Member member) {
    return members(it, it.members().stream().filter(each -> !each.equals(member)).toList());
  }

  static Group with(Group it, Group.Member member) {
    List<Group.Member> members = new ArrayList<>(it.members());
    members.add(member);
    return members(it, members);
  }

  private static Group members(Group it, List<Group.Member> members) {
    return new Group(
        it.key(), it.about(), it.account(), it.retired(), members, it.rule(), it.owners());
  }

  static Group active(Group it) {
    return new Group(
        it.key(), it.about(), it.account(), false, it.members(), it.rule(), it.owners());
  }

  static Principal pattern(Principal it, Key.@Nullable Pattern pattern) {
    return principal(it, it.status(), it.window(), pattern);
  }

  static Principal active(Principal it) {
    return principal(it, Principal.Status.ACTIVE, Window.ALWAYS, it.pattern());
  }

  private static Principal principal(
      Principal it, Principal.Status status, Window window, Key.@Nullable Pattern pattern) {
    return new Principal(
        it.key(),
        it.about(),
        it.kind(),
        it.account(),
        it.unit(),
        it.manager(),
        status,
        window,
        it.mfa(),
        it.attributes(),
        pattern,
        it.reach(),
        it.email(),
        it.lastSeen());
  }

  static Assignment window(Assignment it, Window window) {
    return assignment(it, window, it.crossesSeals());
  }

  static Assignment crossing(Assignment it) {
    return assignment(it, it.window(), true);
  }

  private static Assignment assignment(Assignment it, Window window, boolean crossesSeals) {
    return new Assignment(
        it.key(),
        it.about(),
        it.subject(),
        it.gives(),
        it.effect(),
        it.scope(),
        it.viewScope(),
        window,
        it.mode(),
        crossesSeals);
  }

  static Bridge window(Bridge it, Window window) {
    return bridge(it, window, it.status());
  }

  static Bridge status(Bridge it, Bridge.Status status) {
    return bridge(it, it.window(), status);
  }

  private static Bridge bridge(Bridge it, Window window, Bridge.Status status) {
    return new Bridge(
        it.key(), it.about(), it.account(), it.group(), it.gives(), it.scope(), window, status);
  }

  static Role active(Role it) {
    return role(it, false, it.sets());
  }

  static Role without(Role it, Key.PermissionSet set) {
    return role(it, it.retired(), it.sets().stream().filter(each -> !each.equals(set)).toList());
  }

  private static Role role(Role it, boolean retired, List<Key.PermissionSet> sets) {
    return new Role(
        it.key(),
        it.about(),
        it.account(),
        it.code(),
        it.basedOn(),
        retired,
        sets,
        it.inherits(),
        it.requiresMfa(),
        it.prerequisites(),
        it.minHolders(),
        it.maxHolders());
  }

  static PermissionSet without(PermissionSet it, Key.Permission permission) {
    return new PermissionSet(
        it.key(),
        it.about(),
        it.account(),
        it.allow().stream().filter(each -> !each.equals(permission)).toList(),
        it.deny(),
        it.includes());
  }

  static Account active(Account it) {
    return new Account(it.key(), it.about(), it.parent(), false, it.sealed());
  }

  /** {@return a key made of words that no assignment has} */
  static Key.Assignment freeKey(
      java.util.function.Predicate<Key.Assignment> taken, Key.Principal who, Permission what) {
    String stem = who.value() + "." + what.key().value();
    Key.Assignment key = new Key.Assignment(stem);
    for (int n = 2; taken.test(key); n++) {
      key = new Key.Assignment(stem + "." + n);
    }
    return key;
  }
}
