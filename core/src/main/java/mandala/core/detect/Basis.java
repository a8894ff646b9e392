package mandala.core.detect;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
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
import mandala.core.shrink.Contents;

/** What detectors have in common: worked out once, kept for one inquiry. Thread-safe. */
final class Basis {

  final Inquiry inquiry;
  final Engine engine;
  final Catalogue catalogue;
  final Instant at;
  final ExcessStudy study;
  private final Contents contents;

  /** Number of assignments between two looks at the watch. */
  static final int BATCH = 512;

  /** What is needed of assignments: read by {@link UnusedSearch}. */
  final AssignmentNeeds needs = new AssignmentNeeds(this);

  /** What becomes of what assignments give: read by {@link UnusedSearch}. */
  final AssignmentVerdicts verdicts;

  /** Detectors that did not look at everything. */
  final Set<Detector> cut = ConcurrentHashMap.newKeySet();

  /** Who has a subject. */
  private record Having(List<Principal> all, List<Principal> active, Set<AccountKey> homes) {}

  private record Name(Gives gives, boolean deny) {}

  private final Map<Subject, Having> having = new ConcurrentHashMap<>();
  private final Function<Subject, List<Principal>> members;
  private final Map<Name, Given> given = new ConcurrentHashMap<>();
  private final Map<Contents.Content, List<Gives>> lesser = new ConcurrentHashMap<>();

  Basis(Inquiry inquiry) {
    this.inquiry = inquiry;
    engine = inquiry.engine();
    catalogue = engine.catalogue();
    at = inquiry.window().at();
    study = engine.excess(inquiry.then(), inquiry.use(), inquiry.window());
    contents = new Contents(catalogue);
    members = engine.having(at);
    verdicts = new AssignmentVerdicts(this);
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
    return has(subject).all();
  }

  /** {@return those active of them} */
  List<Principal> holders(Assignment it) {
    return has(it.subject()).active();
  }

  private Having has(Subject subject) {
    return having.computeIfAbsent(
        subject,
        it -> {
          List<Principal> all = members(it);
          return new Having(all, all.stream().filter(this::isActive).toList(), homes(all));
        });
  }

  private List<Principal> members(Subject subject) {
    synchronized (members) {
      return members.apply(subject);
    }
  }

  Session session(PrincipalKey who) {
    return new Session(who, at, true, null);
  }

  /** {@return what an assignment gives} */
  Given given(Assignment it) {
    return given(it.gives(), it.effect() == Assignment.Effect.DENY);
  }

  /** {@return what a role, a set or a permission gives} */
  Given given(Gives it) {
    return given(it, false);
  }

  private Given given(Gives gives, boolean deny) {
    return given.computeIfAbsent(
        new Name(gives, deny),
        name -> {
          synchronized (contents) {
            return new Given(contents.of(name.gives(), name.deny()), this);
          }
        });
  }

  /** {@return what exists and gives a proper part of some content}, what gives least first */
  List<Gives> lesser(Contents.Content whole) {
    return lesser.computeIfAbsent(whole, contents::lesser);
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
        : Detection.ofHomes(has(it.subject()).homes(), trouble, risk, weight);
  }

  static Set<AccountKey> homes(Collection<Principal> people) {
    return people.stream()
        .map(Principal::account)
        .filter(Objects::nonNull)
        .collect(Collectors.toSet());
  }
}
