package mandala.core.detect;

import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.present.Access;
import mandala.core.question.Difference;
import mandala.core.question.Session;
import mandala.core.rule.Gates;

/** Denies that lock a gate, and denies that take nothing. */
final class DenySearch {

  /** Maximum number of denies that are tried; of more, nothing is said. */
  private static final int MOST_DENIES = 300;

  /** Maximum number of holders who are asked for one deny. */
  private static final int MOST_HOLDERS = 200;

  private final Basis basis;
  private final Consumer<Detection> found;

  private DenySearch(Basis basis, Consumer<Detection> found) {
    this.basis = basis;
    this.found = found;
  }

  static void search(Basis basis, Consumer<Detection> found) {
    DenySearch search = new DenySearch(basis, found);
    List<Assignment> denies =
        basis.catalogue.assignments().values().stream()
            .filter(it -> it.effect() == Assignment.Effect.DENY && basis.isInForce(it))
            .filter(it -> it.mode() == Assignment.Mode.STANDING)
            .toList();
    if (denies.size() > MOST_DENIES) {
      search.cut();
    }
    denies.stream().limit(MOST_DENIES).forEach(search::look);
  }

  private void cut() {
    basis.cut.add(Detector.DENY_LOCKS_GATE);
    basis.cut.add(Detector.DENY_WITHOUT_EFFECT);
  }

  private void look(Assignment it) {
    List<PrincipalKey> holders = new ArrayList<>();
    if (it.subject() instanceof Subject.Public) {
      holders.add(PrincipalKey.ANONYMOUS);
    }
    basis.holders(it).forEach(who -> holders.add(who.key()));
    if (holders.size() > MOST_HOLDERS) {
      cut();
      return;
    }
    Engine without = basis.engine.after(List.of(new Change.Removed(it)));
    boolean effect = false;
    Set<PermissionKey> locked = locked(it);
    Set<PrincipalKey> blocked = new HashSet<>();
    Set<PermissionKey> behind = new HashSet<>();
    for (PrincipalKey who : holders) {
      if (effect && locked.isEmpty()) {
        break;
      }
      for (boolean factor : new boolean[] {true, false}) {
        Session session = new Session(who, basis.at, factor, null);
        Access now = basis.engine.access(session);
        Access then = without.access(session);
        Difference difference = now.difference(then);
        if (difference.gained() + difference.lost() > 0) {
          effect = true;
          for (PermissionKey permission : locked) {
            if (differs(now, then, permission)) {
              blocked.add(who);
              behind.add(permission);
            }
          }
        }
      }
    }
    if (!effect && takesNothingLater(it)) {
      found.accept(
          basis.ofHolders(it, new Trouble.DenyWithoutEffect(it.key()), Permission.Risk.LOW, 1));
    }
    if (!blocked.isEmpty()) {
      PermissionKey worst =
          Collections.max(
              behind,
              Comparator.comparing((PermissionKey key) -> basis.risk(key))
                  .thenComparing(PermissionKey::value));
      PermissionKey gate =
          basis.contents.of(it).deny().stream()
              .filter(Gates.of(worst, basis.catalogue)::contains)
              .min(Comparator.comparing(PermissionKey::value))
              .orElse(worst);
      found.accept(
          basis.ofHolders(
              it,
              new Trouble.DenyLocksGate(it.key(), gate, worst, blocked.size()),
              basis.risk(worst),
              blocked.size()));
    }
  }

  /** Whether nobody could activate something that it would take from them. */
  private boolean takesNothingLater(Assignment it) {
    Engine on = basis.engine.switchedOn();
    Engine without = on.after(List.of(new Change.Removed(it)));
    for (Principal who : basis.holders(it)) {
      Difference difference =
          on.access(basis.session(who.key())).difference(without.access(basis.session(who.key())));
      if (difference.gained() + difference.lost() > 0) {
        return false;
      }
    }
    return true;
  }

  /** The permissions that a gate it denies leads to, and that it does not deny itself. */
  private Set<PermissionKey> locked(Assignment it) {
    Set<PermissionKey> denied = basis.contents.of(it).deny();
    Set<PermissionKey> locked = new HashSet<>();
    for (Permission permission : basis.catalogue.permissions().values()) {
      if (!denied.contains(permission.key())
          && Gates.of(permission.key(), basis.catalogue).stream().anyMatch(denied::contains)) {
        locked.add(permission.key());
      }
    }
    return locked;
  }

  private boolean differs(Access now, Access then, PermissionKey permission) {
    for (Account account : basis.catalogue.accounts().values()) {
      if (then.sampleOfDifference(now, permission, account.key()).isPresent()) {
        return true;
      }
    }
    return false;
  }
}
