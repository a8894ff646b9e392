package mandala.server.erasure;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.Rule;
import mandala.core.model.key.PrincipalKey;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.ErasedParts;
import mandala.server.audit.Trail;
import mandala.server.model.History;
import mandala.server.model.LiveModel;
import mandala.server.model.ModelProof;
import mandala.server.schedule.RecurringWork;
import mandala.server.schedule.Timetable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Carries out erasures, each in one transaction: gathers whatever names somebody from all records
 * they ever had, blots it out of the trail, of past revisions with their copies and of every other
 * table, and tells the trail.
 */
@Component
class Erasures implements RecurringWork {

  private static final Logger LOG = LoggerFactory.getLogger(Erasures.class);

  /** So that every instance knows by then that they are no longer in the model. */
  static final Duration WAIT = Duration.ofMinutes(1);

  private final ErasureStore store;
  private final Sweep sweep;
  private final History history;
  private final Trail trail;
  private final ErasedParts erased;
  private final ModelProof proof;
  private final LiveModel model;
  private final TransactionTemplate transactions;
  private final Clock clock;

  Erasures(
      ErasureStore store,
      Sweep sweep,
      History history,
      Trail trail,
      ErasedParts erased,
      ModelProof proof,
      LiveModel model,
      TransactionTemplate transactions,
      Clock clock) {
    this.store = store;
    this.sweep = sweep;
    this.history = history;
    this.trail = trail;
    this.erased = erased;
    this.proof = proof;
    this.model = model;
    this.transactions = transactions;
    this.clock = clock;
  }

  @Override
  public String name() {
    return "erase-people";
  }

  @Override
  public String description() {
    return "Blots out the personal facts of those who are to be erased.";
  }

  @Override
  public Timetable timetable() {
    return Timetable.every(Duration.ofMinutes(1));
  }

  @Override
  public void run(Instant due) {
    List<String> ordered = store.orderedBefore(clock.instant().minus(WAIT));
    if (!ordered.isEmpty()) {
      requireProof();
    }
    RuntimeException failure = null;
    for (String it : ordered) {
      try {
        transactions.executeWithoutResult(_ -> store.take(it).ifPresent(this::carryOut));
      } catch (RuntimeException e) { // the others are not to wait for it
        LOG.warn("Erasure {} failed", it, e);
        failure = e;
      }
    }
    if (failure != null) {
      throw failure;
    }
  }

  /** What was altered before would be blotted with the rest, and pass for what it was then. */
  private void requireProof() {
    trail
        .verify()
        .fault()
        .or(proof::fault)
        .ifPresent(fault -> {
          throw new IllegalStateException(
              "Nobody is erased while the trail does not prove itself: " + fault);
        });
  }

  private void carryOut(ErasureStore.Ordered it) {
    Catalogue now = model.engine().catalogue();
    if (now.principals().containsKey(new PrincipalKey(it.principal()))) {
      LOG.warn("Erasure {} waits: somebody with that key is in the model", it.erased());
      return;
    }
    NamedPerson who = gather(it, now);
    List<ErasedParts.Part> parts = new ArrayList<>(trail.blot(who));
    parts.addAll(history.blot(who));
    long rows = sweep.blot(who);
    long reports = sweep.reports(it.principal());
    String reason = who.text(it.reason(), true);
    store.done(it.erased(), reason);
    Principal by = now.principals().get(new PrincipalKey(it.orderedBy()));
    trail.write(
        List.of(
            AuditEvent.of(
                    AuditEvent.Act.ERASED,
                    it.orderedBy(),
                    by == null ? null : by.about().nameOr(by.key()),
                    List.of(it.account()),
                    said(parts, reports) + ". " + reason,
                    null)
                .erased(it.erased(), erased.keep(it.erased(), parts))));
    LOG.info("Erased {}: {} parts of the past, {} other rows", it.erased(), parts.size(), rows);
  }

  private NamedPerson gather(ErasureStore.Ordered it, Catalogue now) {
    Predicate<NamedPerson.Identified> inForce = in(now);
    NamedPerson.Gathering all = new NamedPerson.Gathering(it.principal(), it.erased());
    history.everyPast(it.principal(), (kind, thing) -> all.add(kind, thing, inForce));
    Set<String> borne =
        now.principals().values().stream()
            .map(other -> other.about().nameOr(other.key()))
            .collect(Collectors.toSet());
    Set<String> tested =
        now.groups().values().stream()
            .flatMap(group -> Optional.ofNullable(group.rule()).stream())
            .flatMap(rule -> rule.tests().stream())
            .map(Rule.Test::attribute)
            .collect(Collectors.toSet());
    return all.person(borne, inForce, tested);
  }

  private static Predicate<NamedPerson.Identified> in(Catalogue model) {
    return it -> !model.find(it.kind(), it.key()).isEmpty();
  }

  private static String said(List<ErasedParts.Part> parts, long reports) {
    return "Erased the personal facts of somebody who left. Lines of the trail: "
        + count(parts, ErasedParts.Sort.LINE)
        + ", revisions: "
        + count(parts, ErasedParts.Sort.REVISION)
        + ", copies of the model: "
        + count(parts, ErasedParts.Sort.COPY)
        + "; signed reports that name them: "
        + reports;
  }

  private static long count(List<ErasedParts.Part> parts, ErasedParts.Sort sort) {
    return parts.stream().filter(it -> it.sort() == sort).count();
  }
}
