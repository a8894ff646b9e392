package mandala.server.review;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.change.ModelDifference;
import mandala.core.change.Removal;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Permission;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.RoleKey;
import mandala.core.review.Deciders;
import mandala.core.review.Occasions;
import mandala.core.review.ReviewItem;
import mandala.core.review.ReviewItems;
import mandala.core.review.ReviewScope;
import mandala.server.model.History;
import mandala.server.model.LiveModel;
import mandala.server.schedule.RecurringWork;
import mandala.server.schedule.Timetable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Makes small rounds where something happened that a rule waits for, one for all that happened
 * since its last look. While its owner's access does not cover it, a rule waits; what happened
 * meanwhile is looked at later.
 */
@Component
public class EventWatch implements RecurringWork {

  private static final Logger LOG = LoggerFactory.getLogger(EventWatch.class);

  private final EventRules rules;
  private final ReviewStore store;
  private final RoundDesk desk;
  private final RoundOwners owners;
  private final RoundBuild build;
  private final KnownItems known;
  private final LiveModel model;
  private final History history;
  private final TransactionTemplate transactions;
  private final Clock clock;

  EventWatch(
      EventRules rules,
      ReviewStore store,
      RoundDesk desk,
      RoundOwners owners,
      RoundBuild build,
      KnownItems known,
      LiveModel model,
      History history,
      TransactionTemplate transactions,
      Clock clock) {
    this.rules = rules;
    this.store = store;
    this.desk = desk;
    this.owners = owners;
    this.build = build;
    this.known = known;
    this.model = model;
    this.history = history;
    this.transactions = transactions;
    this.clock = clock;
  }

  @Override
  public String name() {
    return "review events";
  }

  @Override
  public String description() {
    return "Makes small review rounds where something happened that a rule waits for.";
  }

  @Override
  public Timetable timetable() {
    return Timetable.everyFromNow(Duration.ofMinutes(1));
  }

  @Override
  public void run(Instant due) {
    Instant now = clock.instant().truncatedTo(ChronoUnit.SECONDS);
    for (EventRules.Kept it : rules.all()) {
      LiveModel.State state = model.state();
      if (it.seen() != state.revision() || it.rule().event().equals("ending")) {
        try {
          look(it, state, now);
        } catch (RuntimeException e) {
          LOG.error("The review rule {} failed; it looks again in a minute", it.number(), e);
        }
      }
    }
  }

  private void look(EventRules.Kept it, LiveModel.State state, Instant now) {
    RoundOrder order = it.rule().order("revision " + state.revision(), now);
    String hindrance = owners.hindrance(order, it.owner(), state, now);
    if (hindrance != null) {
      if (it.heldUp() == null) {
        rules.heldUp(it.number(), hindrance);
        owners.tell(it.owner(), "The review rule “" + it.rule().title() + "”", "/reviews");
      }
      return;
    }
    List<ReviewItem> found = found(it, state, now);
    List<RoundItem> items =
        found.isEmpty() ? List.of() : build.items(order, found, state, now, (_, _) -> true);
    transactions.executeWithoutResult(_ -> {
      EventRules.Kept fresh = rules.locked(it.number()).orElse(null);
      if (fresh == null || fresh.seen() != it.seen() || !fresh.rule().equals(it.rule())) {
        return; // it was changed meanwhile, and looks again
      }
      rules.seen(it.number(), state.revision());
      if (!items.isEmpty()) {
        long number = store.add(order, it.owner(), Round.State.MAKING, now, it.rule().why());
        rules.made(it.number(), number);
        store.write(number, items);
        store.opened(number, state.revision());
        desk.tellAll(store.round(number).orElseThrow(), items);
      }
    });
  }

  /** What a rule asks about now, and does not ask about already. */
  private List<ReviewItem> found(EventRules.Kept it, LiveModel.State state, Instant now) {
    EventRule rule = it.rule();
    boolean ending = rule.event().equals("ending");
    Engine engine = state.engine();
    List<ReviewItem> happened =
        ending
            ? Occasions.ending(engine.catalogue(), now, Duration.ofDays(rule.within()))
            : since(it, state, now);
    Map<String, String> asked = happened.isEmpty() ? Map.of() : rules.asked(it.number(), !ending);
    List<ReviewItem> unasked =
        happened.stream()
            .filter(each -> !known.facts(each, state, now).equals(asked.get(each.id())))
            .toList();
    if (unasked.isEmpty()) {
      return unasked;
    }
    ReviewScope scope = rule.order("", now).scope();
    ReviewItems items = ReviewItems.of(engine, now); // risks are not for many threads
    Deciders deciders = new Deciders(engine, items, now);
    return unasked.stream()
        .filter(each -> isIn(each, scope, items, deciders, engine.catalogue()))
        .toList();
  }

  private List<ReviewItem> since(EventRules.Kept it, LiveModel.State state, Instant now) {
    Engine before = history.engineAt(it.seen(), state);
    if (before == null) {
      return List.of(); // of what was then nothing is kept
    }
    Catalogue was = before.catalogue();
    Collection<Change> changes =
        history
            .changes(it.seen(), state.revision())
            .orElseGet(
                () -> ModelDifference.between(was.model(), state.engine().catalogue().model()));
    Occasions occasions = new Occasions(was, known.of(state, now), changes);
    return switch (it.rule().event()) {
      case "moved" -> occasions.moved();
      case "widened" -> occasions.widened();
      default -> occasions.given();
    };
  }

  private static boolean isIn(
      ReviewItem it, ReviewScope scope, ReviewItems items, Deciders deciders, Catalogue catalogue) {
    Permission.Risk risk = items.risk(it);
    return risk != null
        && risk.compareTo(scope.least()) >= 0
        && (scope.accounts().isEmpty()
            || accounts(it, deciders, catalogue).stream()
                .anyMatch(account ->
                    scope.accounts().stream()
                        .anyMatch(each ->
                            catalogue.accounts().containsKey(each)
                                && catalogue.isAtOrBelow(account, each))));
  }

  /** The account that an item is of; of a role that all accounts share, where it is used. */
  private static Set<AccountKey> accounts(ReviewItem it, Deciders deciders, Catalogue catalogue) {
    AccountKey account = deciders.accountOf(it);
    if (account != null) {
      return Set.of(account);
    }
    return it.removal() instanceof Removal.TakeFromRole(RoleKey role, var _)
        ? Occasions.accountsOf(role, catalogue)
        : Set.of();
  }
}
