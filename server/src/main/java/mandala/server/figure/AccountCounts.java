package mandala.server.figure;

import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.compliance.Finding;
import mandala.core.compliance.Findings;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Guest;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.rule.Guests;
import mandala.server.authorization.RequestContexts;
import mandala.server.compliance.SeenFindings;
import mandala.server.model.LiveModel;
import mandala.server.session.SeenTimes;
import org.springframework.stereotype.Component;

/** Counts what accounts have at an instant. */
@Component
class AccountCounts {

  /** Who was last seen longer ago is dormant. */
  static final Duration DORMANT = Duration.ofDays(90);

  private final RequestContexts contexts;
  private final SeenTimes seenTimes;

  AccountCounts(RequestContexts contexts, SeenTimes seenTimes) {
    this.contexts = contexts;
    this.seenTimes = seenTimes;
  }

  /**
   * What an account has.
   *
   * @param people active people at home in it
   * @param guests active principals that are its guests
   * @param services active services at home in it
   * @param dormant those of its active people who were last seen more than 90 days before; of whom
   *     nothing is known, nothing is said
   * @param findings those that somebody sees who may read and ask in this account alone
   */
  record Counts(int people, int guests, int services, int dormant, int findings) {}

  /** {@return what each account of a model has} */
  Map<AccountKey, Counts> of(LiveModel.State state, Instant at) {
    seenTimes.refresh();
    Engine engine = state.engine();
    Catalogue catalogue = engine.catalogue();
    Map<AccountKey, int[]> counts = new HashMap<>();
    catalogue.accounts().keySet().forEach(it -> counts.put(it, new int[3]));
    for (Principal it : catalogue.principals().values()) {
      int[] home = counts.get(it.account());
      if (home == null || !engine.isActive(it.key(), at)) {
        continue;
      }
      if (it.kind() == Principal.Kind.SERVICE) {
        home[1]++;
      } else {
        home[0]++;
        Instant seen = seenTimes.of(it);
        home[2] += seen != null && seen.plus(DORMANT).isBefore(at) ? 1 : 0;
      }
    }
    Map<AccountKey, Integer> guests = guests(engine, at);
    List<Finding> findings = Findings.of(engine, at);
    Map<AccountKey, Counts> all = new HashMap<>();
    counts.forEach((account, of) ->
        all.put(
            account,
            new Counts(
                of[0],
                guests.getOrDefault(account, 0),
                of[1],
                of[2],
                findings.isEmpty() ? 0 : told(findings, state, account, at))));
    return all;
  }

  private int told(List<Finding> findings, LiveModel.State state, AccountKey account, Instant at) {
    return SeenFindings.of(findings, contexts.ofAccount(state, account, at)).told().size();
  }

  private static Map<AccountKey, Integer> guests(Engine engine, Instant at) {
    Catalogue catalogue = engine.catalogue();
    Map<AccountKey, Set<PrincipalKey>> guests = new HashMap<>();
    for (Guest it : catalogue.model().guests()) {
      if (it.window().holdsAt(at) && engine.isActive(it.principal(), at)) {
        for (AccountKey account : catalogue.accounts().keySet()) {
          if (Guests.covers(it, account, catalogue)) {
            guests.computeIfAbsent(account, _ -> new HashSet<>()).add(it.principal());
          }
        }
      }
    }
    Map<AccountKey, Integer> counts = new HashMap<>();
    guests.forEach((account, who) -> counts.put(account, who.size()));
    return counts;
  }
}
