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
import mandala.core.excess.InBatches;
import mandala.core.model.Assignment;
import mandala.core.model.Clause;
import mandala.core.model.Permission;
import mandala.core.model.Subject;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.present.Access;
import mandala.core.question.Impact;
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

  static void search(Basis basis, Consumer<Detection> found, Impact.Watch watch) {
    DenySearch search = new DenySearch(basis, found);
    List<Assignment> denies =
        basis.catalogue.assignments().values().stream()
            .filter(it -> it.effect() == Assignment.Effect.DENY && basis.isInForce(it))
            .filter(it -> it.mode() == Assignment.Mode.STANDING)
            .toList();
    if (denies.size() > MOST_DENIES) {
      search.cut();
    }
    InBatches.of(
        denies.subList(0, Math.min(MOST_DENIES, denies.size())),
        1,
        watch,
        one -> search.look(one.getFirst()));
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
    Set<PermissionKey> locked = locked(it);
    Set<PrincipalKey> blocked = new HashSet<>();
    Set<PermissionKey> behind = new HashSet<>();
    if (!locked.isEmpty()) {
      Engine without = basis.engine.after(List.of(new Change.Removed(it)));
      for (PrincipalKey who : holders) {
        Access now = basis.engine.accessAfresh(basis.session(who));
        Access then = without.accessAfresh(basis.session(who));
        for (PermissionKey permission : locked) {
          if (!now.intervals(permission).equals(then.intervals(permission))) {
            blocked.add(who);
            behind.add(permission);
          }
        }
      }
    }
    if (blocked.isEmpty()
        && !takes(it, holders, basis.engine)
        && !takes(it, holders, basis.engine.switchedOn())) {
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
          basis.given(it).content.deny().stream()
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

  /**
   * Whether somebody has less by it: somebody could use what it denies where it denies it. Whoever
   * loses something without their second factor loses it with it, too.
   */
  private boolean takes(Assignment it, List<PrincipalKey> holders, Engine engine) {
    Engine without = engine.after(List.of(new Change.Removed(it)));
    if (it.scope().stream().anyMatch(Clause::relative)) {
      return holders.stream()
          .map(basis::session)
          .anyMatch(session ->
              without.accessAfresh(session).rights() > engine.accessAfresh(session).rights());
    }
    return holders.stream()
        .map(basis::session)
        .anyMatch(without.allowing(basis.given(it).content.deny(), it.scope()));
  }

  /** The permissions that a gate it denies leads to, and that it does not deny itself. */
  private Set<PermissionKey> locked(Assignment it) {
    Set<PermissionKey> denied = basis.given(it).content.deny();
    Set<PermissionKey> locked = new HashSet<>();
    for (Permission permission : basis.catalogue.permissions().values()) {
      if (!denied.contains(permission.key())
          && Gates.of(permission.key(), basis.catalogue).stream().anyMatch(denied::contains)) {
        locked.add(permission.key());
      }
    }
    return locked;
  }
}
