package mandala.core.escalation;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import java.util.function.Predicate;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.excess.InBatches;
import mandala.core.explain.GrantPaths;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Term;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Impact;
import mandala.core.question.Question;
import mandala.core.question.Session;
import mandala.core.question.WhoQuestion;
import mandala.core.shrink.Contents;

/**
 * Finds everybody who could get an access that they do not hold (see {@link EscalationSearch}).
 * What it works out once for all accesses, it keeps: ask one about many.
 */
public final class Escalators {

  /** Somebody who could get an access, with the shortest paths. */
  public record Escalator(PrincipalKey who, EscalationSearch.Answer answer) {}

  private static final int BATCH = 64;

  private static final List<Clause> EVERYWHERE = List.of(Clause.of(new Term.Everything()));

  private static final Comparator<PrincipalKey> BY_KEY = Comparator.comparing(PrincipalKey::value);

  private final Engine engine;
  private final Engine activated;
  private final Instant at;
  private final GrantPaths gifts;

  /** Those who hold a right over the model anywhere, or may act for somebody. */
  private final Set<PrincipalKey> able = new HashSet<>();

  /** Looks at a model at an instant. */
  public Escalators(Engine engine, Instant at) {
    this.engine = engine;
    this.at = at;
    activated = engine.switchedOn();
    gifts = new GrantPaths(engine.catalogue());
    holdLevers();
    engine.catalogue().delegations().values().forEach(it -> able.add(it.delegate()));
  }

  /** Asks those who are given a right over the model, whether they have it. */
  private void holdLevers() {
    Catalogue catalogue = activated.catalogue();
    Set<PermissionKey> levers = new HashSet<>();
    for (Permission it : catalogue.permissions().values()) {
      if (it.key().value().startsWith(Supplied.PREFIX)
          && it.accessClass() == Permission.AccessClass.ADMINISTER) {
        levers.add(it.key());
      }
    }
    Contents contents = new Contents(catalogue);
    Set<Subject> given = new HashSet<>();
    for (Assignment it : catalogue.assignments().values()) {
      if (it.effect() == Assignment.Effect.ALLOW
          && levers.stream().anyMatch(contents.of(it)::allows)) {
        given.add(it.subject());
      }
    }
    for (Bridge it : catalogue.bridges().values()) {
      if (levers.stream().anyMatch(contents.of(it.gives(), false)::allows)) {
        given.add(new Subject.OfGroup(it.group()));
      }
    }
    Function<Subject, List<Principal>> having = activated.having(at);
    Set<PrincipalKey> some = new TreeSet<>(BY_KEY);
    given.forEach(subject -> having.apply(subject).forEach(who -> some.add(who.key())));
    Set<PrincipalKey> all = ConcurrentHashMap.newKeySet();
    InBatches.of(
        List.copyOf(some),
        BATCH,
        Impact.Watch.TO_THE_END,
        batch -> {
          Predicate<Session> has = activated.allowing(levers, EVERYWHERE);
          batch.stream()
              .filter(who -> has.test(new Session(who, at, true, null)))
              .forEach(all::add);
        });
    able.addAll(all);
  }

  /**
   * {@return who can do anything about getting an access}, by key: those who hold a right over the
   * model anywhere, could activate it, or may act for somebody
   *
   * @throws IllegalArgumentException if the permission or the resource is unknown
   */
  public List<PrincipalKey> able(PermissionKey permission, ResourceKey resource) {
    Set<PrincipalKey> all = new TreeSet<>(BY_KEY);
    all.addAll(able);
    activated
        .whoCan(WhoQuestion.of(permission, resource, at, true))
        .allowed()
        .forEach(it -> all.add(it.principal()));
    all.removeIf(it -> !engine.catalogue().principals().containsKey(it));
    return List.copyOf(all);
  }

  /** {@return all who could get an access}, in the same order */
  public List<Escalator> toward(
      PermissionKey permission,
      ResourceKey resource,
      EscalationSearch.Limits limits,
      Impact.Watch watch) {
    return toward(permission, resource, able(permission, resource), limits, watch);
  }

  /**
   * {@return those of some who could get an access}, those with the fewest changes first, then by
   * key
   *
   * @param able see {@link #able}; all others can do nothing alone
   * @param limits for each of them
   * @param watch told how many were looked at of how many, and asked whether to go on
   * @throws IllegalArgumentException if the permission or the resource is unknown
   */
  public List<Escalator> toward(
      PermissionKey permission,
      ResourceKey resource,
      List<PrincipalKey> able,
      EscalationSearch.Limits limits,
      Impact.Watch watch) {
    List<Escalator> escalators = Collections.synchronizedList(new ArrayList<>());
    InBatches.of(
        able,
        1,
        watch,
        one -> {
          PrincipalKey who = one.getFirst();
          Question question = new Question(who, permission, resource, at, true, null);
          EscalationSearch.Answer answer = EscalationSearch.of(engine, question, limits, gifts);
          if (!answer.paths().isEmpty()) {
            escalators.add(new Escalator(who, answer));
          }
        });
    List<Escalator> sorted = new ArrayList<>(escalators);
    sorted.sort(
        Comparator.comparingInt((Escalator it) -> changes(it).size())
            .thenComparingLong(it -> it.answer().paths().getFirst().approvals())
            .thenComparing(Escalator::who, BY_KEY));
    return sorted;
  }

  private static List<Change> changes(Escalator it) {
    return it.answer().paths().getFirst().changes();
  }
}
