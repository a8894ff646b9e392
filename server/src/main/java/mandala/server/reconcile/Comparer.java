package mandala.server.reconcile;

import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import mandala.core.model.Catalogue;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.reconcile.Discrepancy;
import mandala.core.reconcile.HeldLine;
import mandala.core.reconcile.Identities;
import mandala.core.reconcile.Reconciliation;
import mandala.core.reconcile.Terms;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Compares what a system holds with a model, and keeps all that came of it. */
@Component
class Comparer {

  /** Maximum number of things of the system that are kept beside a discrepancy. */
  private static final int MOST_HELD = 5;

  private final SystemStore systems;
  private final DiscrepancyStore discrepancies;
  private final TransactionTemplate transactions;
  private final Clock clock;

  Comparer(
      SystemStore systems,
      DiscrepancyStore discrepancies,
      TransactionTemplate transactions,
      Clock clock) {
    this.systems = systems;
    this.discrepancies = discrepancies;
    this.transactions = transactions;
    this.clock = clock;
  }

  /** What is done in the transaction in which a comparison is kept. */
  interface Kept {
    void run(int number, int lines);
  }

  /**
   * Compares a table by terms, and keeps it.
   *
   * @param sent whether the table came in now
   * @param by key of who asked
   * @throws mandala.server.platform.Problem if the table or the terms have faults
   */
  void compare(
      ConnectedSystem system,
      int version,
      byte[] table,
      boolean sent,
      String by,
      LiveModel.State state,
      Kept kept) {
    Catalogue catalogue = state.engine().catalogue();
    Terms terms = TermsDesk.usable(systems.content(system.key(), version), catalogue);
    List<HeldLine> lines = TermsDesk.read(table, system);
    Instant at = clock.instant().truncatedTo(ChronoUnit.SECONDS);
    Reconciliation.Answer answer = Reconciliation.of(state.engine(), at, terms, lines);
    Identities identities = new Identities(catalogue, terms);
    Evidence held = Evidence.of(answer, lines, terms, identities);
    transactions.executeWithoutResult(_ -> {
      systems.lock(system.key());
      if (systems.find(system.key()).isEmpty()) {
        throw Problem.notFound(
            "“" + system.name() + "” was removed meanwhile. Choose another system.");
      }
      int number = systems.nextComparison(system.key());
      if (sent) {
        systems.keepHeld(system.key(), table);
      }
      systems.add(
          system.key(),
          new SystemStore.Comparison(
              number,
              at,
              by,
              sent,
              version,
              state.revision(),
              answer.lines(),
              answer.agreeing(),
              answer.untranslated()));
      systems.writeIdentities(
          system.key(), identities(system.key(), number, lines, identities, held));
      discrepancies.write(system.key(), changed(system.key(), number, answer, held));
      kept.run(number, answer.lines());
    });
  }

  /** What is new, what is other than before, and what is gone. */
  private List<KeptDiscrepancy> changed(
      String system, int number, Reconciliation.Answer answer, Evidence held) {
    Map<String, KeptDiscrepancy> standing = new HashMap<>();
    for (KeptDiscrepancy it : discrepancies.all(system)) {
      if (it.gone() == null) {
        standing.put(it.it().id(), it);
      }
    }
    List<KeptDiscrepancy> changed = new ArrayList<>();
    for (Discrepancy it : answer.discrepancies()) {
      if (it instanceof Discrepancy.UnknownPerson) {
        continue; // identities are kept by themselves
      }
      KeptDiscrepancy was = standing.remove(it.id());
      KeptDiscrepancy now =
          new KeptDiscrepancy(it, was == null ? number : was.first(), null, held.of(it));
      if (!now.equals(was)) {
        changed.add(now);
      }
    }
    standing
        .values()
        .forEach(it -> changed.add(new KeptDiscrepancy(it.it(), it.first(), number, it.held())));
    return changed;
  }

  /** A permission of somebody. */
  private record Right(PrincipalKey who, PermissionKey permission) {}

  /** What the system holds, in its terms, of each right that differs and of each identity. */
  private record Evidence(Map<Right, Set<String>> rights, Map<String, Set<String>> identities) {

    static Evidence of(
        Reconciliation.Answer answer, List<HeldLine> lines, Terms terms, Identities identities) {
      Evidence evidence = new Evidence(new HashMap<>(), new HashMap<>());
      for (Discrepancy it : answer.discrepancies()) {
        if (it.who() != null && it.permission() != null) {
          evidence.rights.put(new Right(it.who(), it.permission()), new TreeSet<>());
        }
      }
      for (HeldLine it : lines) {
        String what =
            it.place().isEmpty() ? it.entitlement() : it.entitlement() + ", " + it.place();
        evidence.identities.computeIfAbsent(it.identity(), _ -> new TreeSet<>()).add(what);
        PrincipalKey who = identities.of(it.identity());
        if (who != null) {
          for (PermissionKey permission :
              terms.entitlements().getOrDefault(it.entitlement(), List.of())) {
            evidence.rights.computeIfPresent(
                new Right(who, permission),
                (_, all) -> {
                  all.add(what);
                  return all;
                });
          }
        }
      }
      return evidence;
    }

    List<String> of(Discrepancy it) {
      if (it.who() != null && it.permission() != null) {
        return some(rights.get(new Right(it.who(), it.permission())));
      }
      return it.identity() == null ? List.of() : of(it.identity());
    }

    List<String> of(String identity) {
      return some(identities.get(identity));
    }

    private static List<String> some(@Nullable Set<String> all) {
      return all == null ? List.of() : all.stream().limit(MOST_HELD).toList();
    }
  }

  /** Which identities are new, mean another, have other lines, or are gone. */
  private List<SystemStore.Identity> identities(
      String system, int number, List<HeldLine> lines, Identities identities, Evidence held) {
    Map<String, SystemStore.Identity> standing = new TreeMap<>();
    for (SystemStore.Identity it : systems.identities(system)) {
      if (it.gone() == null) {
        standing.put(it.identity(), it);
      }
    }
    Map<String, Integer> many = new TreeMap<>();
    lines.forEach(it -> many.merge(it.identity(), 1, Integer::sum));
    List<SystemStore.Identity> changed = new ArrayList<>();
    many.forEach((identity, count) -> {
      PrincipalKey key = identities.of(identity);
      String who = key == null ? null : key.value();
      SystemStore.Identity was = standing.get(identity);
      boolean same = was != null && Objects.equals(was.who(), who);
      int first = same && was != null ? was.first() : number;
      SystemStore.Identity now =
          new SystemStore.Identity(identity, who, count, first, null, held.of(identity));
      if (!now.equals(was)) {
        changed.add(now);
      }
      if (same) {
        standing.remove(identity);
      }
    });
    standing
        .values()
        .forEach(it ->
            changed.add(
                new SystemStore.Identity(
                    it.identity(), it.who(), it.lines(), it.first(), number, it.held())));
    return changed;
  }
}
