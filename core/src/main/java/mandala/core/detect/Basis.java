package mandala.core.detect;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.engine.Engine;
import mandala.core.excess.ExcessStudy;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.core.rule.Exposure;
import mandala.core.shrink.Contents;

/** What detectors have in common: worked out once, kept for one inquiry. For one thread. */
final class Basis {

  final Inquiry inquiry;
  final Engine engine;
  final Catalogue catalogue;
  final Instant at;
  final ExcessStudy study;
  final Contents contents;

  /** Detectors that did not look at everything. */
  final Set<Detector> cut = EnumSet.noneOf(Detector.class);

  private final Map<Subject, List<Principal>> having = new HashMap<>();

  Basis(Inquiry inquiry) {
    this.inquiry = inquiry;
    engine = inquiry.engine();
    catalogue = engine.catalogue();
    at = inquiry.window().at();
    study = engine.excess(inquiry.then(), inquiry.use(), inquiry.window());
    contents = new Contents(catalogue);
  }

  /** {@return whether anything is observed}; without it nothing counts as unused */
  boolean observes() {
    return !inquiry.use().coverage().parts().isEmpty();
  }

  boolean isActive(Principal it) {
    return engine.isActive(it.key(), at);
  }

  /** {@return whether somebody is there who could answer for something, now or soon} */
  boolean isLiving(PrincipalKey key) {
    Principal it = catalogue.principals().get(key);
    return it != null
        && (it.status() == Principal.Status.ACTIVE || it.status() == Principal.Status.INVITED)
        && (it.window().until() == null || it.window().until().isAfter(at));
  }

  /** {@return who has a subject, active or not} */
  List<Principal> having(Subject subject) {
    return having.computeIfAbsent(subject, it -> engine.having(it, at));
  }

  /** {@return those active of them} */
  List<Principal> holders(Assignment it) {
    return having(it.subject()).stream().filter(this::isActive).toList();
  }

  Session session(PrincipalKey who) {
    return new Session(who, at, true, null);
  }

  /** {@return the permissions that an assignment allows, and those they imply} */
  Set<PermissionKey> allowed(Assignment it) {
    return allowed(contents.of(it));
  }

  /** {@return the permissions that a role, a set or a permission allows, and those they imply} */
  Set<PermissionKey> allowed(Gives it) {
    return allowed(contents.of(it, false));
  }

  private static Set<PermissionKey> allowed(Contents.Content content) {
    Set<PermissionKey> all = new HashSet<>(content.free());
    all.addAll(content.factor());
    all.removeAll(content.deny());
    return all;
  }

  Permission.Risk risk(Collection<PermissionKey> permissions) {
    return permissions.stream()
        .map(this::risk)
        .max(Permission.Risk::compareTo)
        .orElse(Permission.Risk.LOW);
  }

  Permission.Risk risk(PermissionKey key) {
    Permission it = catalogue.permissions().get(key);
    return it == null ? Permission.Risk.LOW : it.risk();
  }

  /** {@return all clauses of an assignment, for what may be done and for what may be viewed} */
  static List<Clause> scopes(Assignment it) {
    List<Clause> scopes = new ArrayList<>(it.scope());
    scopes.addAll(it.viewScope());
    return scopes;
  }

  /** {@return some permissions by risk, the lowest first, then by key} */
  List<PermissionKey> sorted(Collection<PermissionKey> permissions) {
    return permissions.stream()
        .sorted(
            Comparator.comparing((PermissionKey key) -> risk(key))
                .thenComparing(PermissionKey::value))
        .toList();
  }

  /** {@return what one right of each of some permissions weighs together} */
  long weight(Collection<PermissionKey> permissions) {
    return permissions.stream().mapToLong(it -> Exposure.of(risk(it))).sum();
  }

  boolean isInForce(Assignment it) {
    return it.window().holdsAt(at);
  }

  /** {@return whether it allows something, all the time, now} */
  boolean stands(Assignment it) {
    return it.effect() == Assignment.Effect.ALLOW
        && it.mode() == Assignment.Mode.STANDING
        && isInForce(it);
  }

  /** A finding about what an assignment does for those who hold it. */
  Detection ofHolders(Assignment it, Trouble trouble, Permission.Risk risk, long weight) {
    return it.subject() instanceof Subject.OfPrincipal(var _, PrincipalKey who)
        ? Detection.of(who, trouble, risk, weight)
        : Detection.ofHomes(homes(having(it.subject())), trouble, risk, weight);
  }

  static Set<AccountKey> homes(Collection<Principal> people) {
    return people.stream()
        .map(Principal::account)
        .filter(Objects::nonNull)
        .collect(Collectors.toSet());
  }
}
