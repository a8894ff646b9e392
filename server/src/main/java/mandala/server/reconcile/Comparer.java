package mandala.server.reconcile;

import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
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
      SystemStore.TermsVersion version,
      byte[] table,
      boolean sent,
      String by,
      LiveModel.State state,
      Kept kept) {
    Catalogue catalogue = state.engine().catalogue();
    Terms terms = SystemDesk.usable(version, catalogue);
    List<HeldLine> lines = SystemDesk.read(table, system);
    Instant at = clock.instant().truncatedTo(ChronoUnit.SECONDS);
    Reconciliation.Answer answer = Reconciliation.of(state.engine(), at, terms, lines);
    Identities identities = new Identities(catalogue, terms);
    Map<String, List<String>> held = held(lines, terms, identities);
    transactions.executeWithoutResult(_ -> {
      systems.lock(system.key());
      int number =
          systems.comparisons(system.key()).stream()
                  .mapToInt(SystemStore.Comparison::number)
                  .max()
                  .orElse(0)
              + 1;
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
              version.version(),
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
      String system, int number, Reconciliation.Answer answer, Map<String, List<String>> held) {
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
          new KeptDiscrepancy(
              it, was == null ? number : was.first(), null, held.getOrDefault(of(it), List.of()));
      if (!now.equals(was)) {
        changed.add(now);
      }
    }
    standing
        .values()
        .forEach(it -> changed.add(new KeptDiscrepancy(it.it(), it.first(), number, it.held())));
    return changed;
  }

  private static String of(Discrepancy it) {
    PermissionKey permission = KeptDiscrepancy.permission(it);
    String identity = KeptDiscrepancy.identity(it);
    return permission == null ? "identity " + identity : KeptDiscrepancy.who(it) + " " + permission;
  }

  /** What the system holds of each permission of each person, and of each identity. */
  private static Map<String, List<String>> held(
      List<HeldLine> lines, Terms terms, Identities identities) {
    Map<String, TreeSet<String>> held = new HashMap<>();
    for (HeldLine it : lines) {
      String what = it.place().isEmpty() ? it.entitlement() : it.entitlement() + ", " + it.place();
      PrincipalKey who = identities.of(it.identity());
      held.computeIfAbsent("identity " + it.identity(), _ -> new TreeSet<>()).add(what);
      for (PermissionKey permission :
          terms.entitlements().getOrDefault(it.entitlement(), List.of())) {
        held.computeIfAbsent(who + " " + permission, _ -> new TreeSet<>()).add(what);
      }
    }
    Map<String, List<String>> some = new HashMap<>();
    held.forEach((key, all) -> some.put(key, all.stream().limit(MOST_HELD).toList()));
    return some;
  }

  /** Which identities are new, mean another, have other lines, or are gone. */
  private List<SystemStore.Identity> identities(
      String system,
      int number,
      List<HeldLine> lines,
      Identities identities,
      Map<String, List<String>> held) {
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
          new SystemStore.Identity(
              identity,
              who,
              count,
              first,
              null,
              held.getOrDefault("identity " + identity, List.of()));
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
