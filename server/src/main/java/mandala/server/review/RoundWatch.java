package mandala.server.review;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import mandala.core.engine.Engine;
import mandala.core.model.key.PrincipalKey;
import mandala.core.review.Deciders;
import mandala.core.review.ReviewItems;
import mandala.document.ReviewText;
import mandala.server.model.LiveModel;
import mandala.server.schedule.RecurringWork;
import mandala.server.schedule.Timetable;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Runs rounds by themselves: begins those that were planned, with the rights that their owner has
 * then; follows the model; gives items of absent reviewers to their deputies, and of those who left
 * to whoever comes next; has decisions carried out, and rounds ended.
 */
@Component
public class RoundWatch implements RecurringWork {

  /** Number of items that are read at a time. */
  private static final int PAGE = 5_000;

  private final ReviewStore store;
  private final RoundFigures figures;
  private final Deputies standIns;
  private final RoundDesk desk;
  private final RoundBuild build;
  private final KnownItems known;
  private final LiveModel model;
  private final RoundOwners owners;
  private final RoundEnds ends;
  private final TransactionTemplate transactions;
  private final Clock clock;

  /** By round: the revision with which its items were compared last. */
  private final Map<Long, Long> compared = new ConcurrentHashMap<>();

  RoundWatch(
      ReviewStore store,
      RoundFigures figures,
      Deputies standIns,
      RoundDesk desk,
      RoundBuild build,
      KnownItems known,
      LiveModel model,
      RoundOwners owners,
      RoundEnds ends,
      TransactionTemplate transactions,
      Clock clock) {
    this.store = store;
    this.figures = figures;
    this.standIns = standIns;
    this.desk = desk;
    this.build = build;
    this.known = known;
    this.model = model;
    this.owners = owners;
    this.transactions = transactions;
    this.clock = clock;
    this.ends = ends;
  }

  @Override
  public String name() {
    return "reviews";
  }

  @Override
  public String description() {
    return "Begins and ends review rounds, and follows what changes meanwhile.";
  }

  @Override
  public Timetable timetable() {
    return Timetable.everyFromNow(Duration.ofMinutes(1));
  }

  @Override
  public void run(Instant due) {
    Instant now = clock.instant().truncatedTo(ChronoUnit.SECONDS);
    for (Round it : store.rounds(Round.State.PLANNED)) {
      if (!it.begins().isAfter(now)) {
        begin(it, now);
      }
    }
    for (Round it : store.rounds(Round.State.OPEN)) {
      follow(it, now);
      ends.run(it, now);
    }
  }

  // ---- beginning --------------------------------------------------------------------------------

  private void begin(Round it, Instant now) {
    LiveModel.State state = model.state();
    String hindrance = owners.hindrance(it.order(), it.owner(), state, now);
    if (hindrance != null) {
      if (it.heldUp() == null) {
        store.heldUp(it.number(), hindrance);
        owners.tell(
            it.owner(),
            "The review round “" + it.title() + "”",
            "/reviews/" + it.number() + "/round");
      }
      return;
    }
    List<RoundItem> items = build.items(it.order(), state, now, (_, _) -> true);
    transactions.executeWithoutResult(_ -> {
      store.lock(it.number());
      Round fresh = store.round(it.number()).orElseThrow();
      if (fresh.state() == Round.State.PLANNED) {
        store.write(it.number(), items);
        store.opened(it.number(), state.revision());
        desk.tellAll(fresh, items);
      }
    });
  }

  // ---- while it is open -------------------------------------------------------------------------

  /** Closes what is gone, shows again what changed, and finds deciders for what has none. */
  private void follow(Round round, Instant now) {
    LiveModel.State state = model.state();
    ReviewItems items = known.of(state, now);
    boolean newer =
        !Long.valueOf(state.revision())
            .equals(compared.getOrDefault(round.number(), round.revision()));
    if (newer) {
      compareAll(round, state.engine(), items);
      compared.put(round.number(), state.revision());
    }
    Map<String, String> deputies = standIns.at(now);
    Deciders deciders = new Deciders(state.engine(), items, now);
    for (String decider : figures.progress(round.number()).keySet()) {
      if (!decider.isEmpty()
          && (deputies.containsKey(decider)
              || !state.engine().isActive(new PrincipalKey(decider), now))) {
        store
            .itemsOf(round.number(), decider)
            .forEach(it -> reassign(it, round, state.engine(), deciders, deputies, now));
      }
    }
  }

  private void compareAll(Round round, Engine engine, ReviewItems items) {
    List<RoundItem> some;
    int after = 0;
    do {
      some = store.pending(round.number(), after, PAGE);
      for (RoundItem it : some) {
        after = it.number();
        if (!it.control()) {
          compare(it, engine, items);
        }
      }
    } while (some.size() == PAGE);
  }

  private void compare(RoundItem it, Engine engine, ReviewItems items) {
    if (!it.item().isIn(engine.catalogue())) {
      store.gone(it.round(), it.number());
      act(it, "gone", null);
    } else {
      String facts = RoundMaker.facts(it.item(), items);
      if (!facts.equals(it.facts())) {
        store.changed(it, facts);
        act(it, "changed", null);
      }
    }
  }

  private void act(RoundItem it, String act, @Nullable String whom) {
    store.note(
        it.round(), it.number(), new ReviewStore.Act(act, null, clock.instant(), null, null, whom));
  }

  /** Of an absent decider to their deputy; of one who is gone to whoever the order names next. */
  private void reassign(
      RoundItem it,
      Round round,
      Engine engine,
      Deciders deciders,
      Map<String, String> deputies,
      Instant now) {
    String decider = it.decider();
    if (it.state() != RoundItem.State.OPEN
        || decider == null
        || (!deputies.containsKey(decider) && engine.isActive(new PrincipalKey(decider), now))) {
      return;
    }
    String deputy = deputies.get(decider);
    if (deputy != null
        && engine.isActive(new PrincipalKey(deputy), now)
        && !it.item().parties(engine.catalogue()).contains(new PrincipalKey(deputy))) {
      store.standIn(it, deputy, decider);
      act(it, "deputy", deputy);
      return;
    }
    if (engine.isActive(new PrincipalKey(decider), now)) {
      return; // absent, and the deputy may not: it waits for them
    }
    List<List<Deciders.By>> stages = round.order().deciders();
    Set<String> unfit = new HashSet<>(Set.of(decider));
    Deciders.Chosen next =
        deciders
            .of(
                it.item(),
                stages.get(Math.min(it.stage(), stages.size() - 1)),
                who -> Optional.ofNullable(deputies.get(who.value())).map(PrincipalKey::new),
                who -> unfit.contains(who.value()))
            .orElse(null);
    if (next != null) {
      store.pass(it, next.who().value(), ReviewText.word(next.by()));
      act(it, "given", next.who().value());
    }
  }
}
