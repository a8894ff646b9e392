package mandala.server.compliance;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mandala.core.compliance.Finding;
import mandala.core.compliance.FindingOrigins;
import mandala.core.compliance.FindingOrigins.Beginning;
import mandala.core.compliance.Findings;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.PrincipalKey;
import mandala.document.FindingText;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.model.History;
import mandala.server.model.LiveModel;
import mandala.server.platform.Background;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Checks every rule of the model after each revision, and every few minutes between, for windows
 * open and close without one. What begins to be broken, and what is mended, becomes a line of the
 * trail; since when each rule is broken is kept, as the history tells it. Several instances on one
 * database take turns: who comes second finds that the revision was looked at.
 *
 * <p>The first look of all only remembers, so that the trail does not begin with what always was.
 */
@Component
class ComplianceMonitor extends Background {

  private static final Duration BETWEEN = Duration.ofMinutes(5);
  private static final long PAUSE_MILLIS = 500;

  private final LiveModel model;
  private final History history;
  private final Trail trail;
  private final JdbcTemplate database;
  private final TransactionTemplate transactions;
  private final Clock clock;
  private final boolean onlyVerifying;
  private final ApplicationEventPublisher events;

  /** What was looked at last, and when; written by the thread of the task alone. */
  private volatile long seen = -1;

  private Instant last = Instant.MIN;

  ComplianceMonitor(
      LiveModel model,
      History history,
      Trail trail,
      JdbcTemplate database,
      TransactionTemplate transactions,
      Clock clock,
      ApplicationEventPublisher events,
      @Value("${mandala.verify-trail:false}") boolean onlyVerifying) {
    super("rule-watch", PAUSE_MILLIS);
    this.events = events;
    this.onlyVerifying = onlyVerifying;
    this.model = model;
    this.history = history;
    this.trail = trail;
    this.database = database;
    this.transactions = transactions;
    this.clock = clock;
  }

  /** A rule that is broken, as it is kept. */
  private record Broken(String name, String said, List<String> accounts) {}

  /**
   * A rule began to be broken.
   *
   * @param about id of the finding, as {@code Finding.id} gives it
   */
  record ViolationBegan(String about) {}

  /** A command that only reads the trail does not write into it. */
  @Override
  public boolean isAutoStartup() {
    return !onlyVerifying;
  }

  @Override
  protected void run() {
    LiveModel.State state = model.state();
    Instant now = clock.instant();
    if (state.revision() != seen || last.plus(BETWEEN).isBefore(now)) {
      context(state, now);
      seen = state.revision();
      last = now;
    }
  }

  /** {@return the revision that this instance looked at last}, -1 before the first */
  long lookedAt() {
    return seen;
  }

  /** Compares what is broken with what was, and writes what differs. */
  private void context(LiveModel.State state, Instant now) {
    Map<String, Broken> found = broken(state, now);
    Map<String, Beginning> began = began(state, found.keySet(), now);
    transactions.executeWithoutResult(_ -> {
      boolean first =
          database.update(
                  "insert into rule_watch (revision, looked_at) values (?, ?) on conflict do nothing",
                  state.revision(),
                  now.atOffset(ZoneOffset.UTC))
              == 1;
      Long known =
          database.queryForObject("select revision from rule_watch for update", Long.class);
      if (known != null && known > state.revision()) {
        return; // another instance is further
      }
      Map<String, Broken> before = kept();
      List<AuditEvent> lines = new ArrayList<>();
      found.forEach((about, it) -> {
        if (!before.containsKey(about)) {
          keep(about, it, began.getOrDefault(about, new Beginning(now, state.revision(), true)));
          lines.add(line(it, "New violation: ", state.revision()));
        }
      });
      before.forEach((about, it) -> {
        if (!found.containsKey(about)) {
          database.update("delete from rule_broken where about = ?", about);
          lines.add(line(it, "Resolved: ", state.revision()));
        }
      });
      database.update(
          "update rule_watch set revision = ?, looked_at = ?",
          state.revision(),
          now.atOffset(ZoneOffset.UTC));
      if (!first) {
        trail.write(lines);
        began.keySet().forEach(about -> events.publishEvent(new ViolationBegan(about)));
      }
    });
  }

  /** Since when those are there that were not there at the last look. */
  private Map<String, Beginning> began(LiveModel.State state, Set<String> found, Instant now) {
    Set<String> news = new LinkedHashSet<>(found);
    news.removeAll(kept().keySet());
    if (news.isEmpty() || state.revision() == 0) {
      return Map.of();
    }
    Iterator<FindingOrigins.Stretch> past = history.newestFirst(state);
    return past.hasNext() ? FindingOrigins.of(news, past, now) : Map.of();
  }

  private static Map<String, Broken> broken(LiveModel.State state, Instant now) {
    Catalogue catalogue = state.engine().catalogue();
    FindingText text = new FindingText(catalogue, catalogue);
    Map<String, Broken> found = new LinkedHashMap<>();
    for (Finding it : Findings.of(state.engine(), now)) {
      FindingText.Told told = text.of(it);
      found.put(
          it.id(), new Broken(told.name(), said(it, told), List.copyOf(accounts(it, catalogue))));
    }
    return found;
  }

  /**
   * What the trail says: of whom it speaks, the trail of their home tells; who breaks an
   * expectation or holds a role is anywhere, and so neither named nor counted.
   */
  private static String said(Finding finding, FindingText.Told told) {
    return switch (finding) {
      case Finding.ExclusionBroken _, Finding.PrerequisiteMissing _ -> told.said();
      case Finding.ExpectationFails _ -> "it does not hold";
      case Finding.HolderLimit(var _, var _, boolean few) ->
          few ? "too few hold it" : "too many hold it";
    };
  }

  /**
   * Whose trail tells of it: the owner of the rule and the home of whom it names, else all roots.
   */
  private static Set<String> accounts(Finding finding, Catalogue in) {
    Set<String> accounts = new LinkedHashSet<>();
    AccountKey owner =
        switch (finding) {
          case Finding.ExclusionBroken(ExclusionKey key, var _) ->
              in.model().exclusions().stream()
                  .filter(it -> it.key().equals(key))
                  .map(it -> it.account())
                  .filter(Objects::nonNull)
                  .findFirst()
                  .orElse(null);
          case Finding.ExpectationFails(ExpectationKey key, var _) ->
              in.model().expectations().stream()
                  .filter(it -> it.key().equals(key))
                  .map(it -> it.account())
                  .filter(Objects::nonNull)
                  .findFirst()
                  .orElse(null);
          case Finding.PrerequisiteMissing _, Finding.HolderLimit _ -> null;
        };
    Principal whom =
        switch (finding) {
          case Finding.ExclusionBroken(var _, var conflict) ->
              in.principals().get(conflict.principal());
          case Finding.PrerequisiteMissing(PrincipalKey who, var _, var _) ->
              in.principals().get(who);
          case Finding.ExpectationFails _, Finding.HolderLimit _ -> null;
        };
    if (owner != null) {
      accounts.add(owner.value());
    }
    if (whom != null) {
      accounts.add(whom.account().value());
    }
    if (accounts.isEmpty()) {
      in.accounts().values().stream()
          .filter(it -> it.parent() == null)
          .map(Account::key)
          .forEach(it -> accounts.add(it.value()));
    }
    return accounts;
  }

  private Map<String, Broken> kept() {
    Map<String, Broken> kept = new LinkedHashMap<>();
    database.query(
        "select about, name, said, accounts from rule_broken order by about",
        row -> {
          kept.put(
              row.getString(1),
              new Broken(row.getString(2), row.getString(3), List.of(row.getString(4).split(" "))));
        });
    return kept;
  }

  private void keep(String about, Broken it, Beginning began) {
    database.update(
        """
        insert into rule_broken (about, name, said, accounts, revision, since)
        values (?, ?, ?, ?, ?, ?)
        """,
        about,
        it.name(),
        it.said(),
        String.join(" ", it.accounts()),
        began.byRevision() ? began.revision() : null,
        began.at().atOffset(ZoneOffset.UTC));
  }

  private static AuditEvent line(Broken it, String what, long revision) {
    return new AuditEvent(
        AuditEvent.Act.CHECKED,
        null,
        "Mandala",
        null,
        revision,
        null,
        null,
        it.name(),
        it.accounts(),
        List.of(),
        what + it.name() + ": " + it.said(),
        null,
        null,
        null);
  }

  /** {@return since when each is broken}, by what it is about */
  Map<String, BrokenRules.Since> since() {
    Map<String, BrokenRules.Since> since = new LinkedHashMap<>();
    database.query(
        "select about, since, revision from rule_broken",
        row -> {
          since.put(
              row.getString(1),
              new BrokenRules.Since(row.getTimestamp(2).toInstant(), row.getObject(3, Long.class)));
        });
    return since;
  }
}
