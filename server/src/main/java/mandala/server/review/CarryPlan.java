package mandala.server.review;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.detect.Detection;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.present.Access;
import mandala.core.question.Session;
import mandala.core.review.ItemEffect;
import mandala.core.review.ItemStudy;
import mandala.core.review.ReviewItem;
import mandala.core.review.ReviewItems;
import org.jspecify.annotations.Nullable;

/**
 * What counted decisions change in the newest model, and which of them can't take effect.
 *
 * @param changes of all that are {@code taken}, in order; {@code each} those of each
 * @param taken items whose decision the changes carry out
 * @param settled items that are as decided without a change
 * @param returned items that come back, with the reason in words that name nobody
 */
record CarryPlan(
    List<Change> changes,
    Map<RoundItem, List<Change>> each,
    List<RoundItem> taken,
    List<RoundItem> settled,
    Map<RoundItem, String> returned) {

  static final String DEFEATED = "Something else grants the same by now";
  static final String CHANGED = "It changed after it was decided";
  static final String UNFIT = "What was chosen no longer fits";
  static final String FAULTY = "The model would have a fault after it";

  CarryPlan {
    changes = List.copyOf(changes);
    taken = List.copyOf(taken);
    settled = List.copyOf(settled);
  }

  /**
   * {@return how decisions that count are carried out}
   *
   * @param decided to remove or reduce, controls too; by number
   * @param items of the engine's model
   * @param findings of an item
   */
  static CarryPlan of(
      List<RoundItem> decided,
      Engine engine,
      ReviewItems items,
      Instant at,
      Function<ReviewItem, Collection<Detection>> findings) {
    return new Making(engine, items, at, findings).of(decided);
  }

  /** The making of one. */
  private static final class Making {
    private final Engine engine;
    private final ReviewItems items;
    private final Instant at;
    private final Function<ReviewItem, Collection<Detection>> findings;
    private final ItemStudy study;
    private final List<RoundItem> taken = new ArrayList<>();
    private final Map<RoundItem, List<Change>> each = new HashMap<>();
    private final List<RoundItem> settled = new ArrayList<>();
    private final Map<RoundItem, String> returned = new LinkedHashMap<>();
    private Draft draft = Draft.EMPTY;
    private Catalogue now;

    Making(
        Engine engine,
        ReviewItems items,
        Instant at,
        Function<ReviewItem, Collection<Detection>> findings) {
      this.engine = engine;
      this.items = items;
      this.at = at;
      this.findings = findings;
      study = new ItemStudy(engine, items, at);
      now = engine.catalogue();
    }

    CarryPlan of(List<RoundItem> decided) {
      decided.forEach(this::add);
      if (after(draft) == null) {
        oneByOne();
      }
      returnDefeated();
      return new CarryPlan(draft.inOrder(), each, taken, settled, returned);
    }

    private void add(RoundItem it) {
      if (it.control() || !it.item().isIn(engine.catalogue())) {
        settled.add(it); // nobody has it: there is nothing left to decide
        return;
      }
      if (!RoundMaker.facts(it.item(), items).equals(it.facts())) {
        returned.put(it, CHANGED);
        return;
      }
      List<ReviewItem> with = DecidedChanges.named(it.with(), it.item(), items);
      List<Change> changes = DecidedChanges.of(it, with, now, engine, at, findings);
      Draft next = changes == null ? null : joined(draft, changes);
      if (changes == null || next == null) {
        returned.put(it, UNFIT);
        return;
      }
      draft = next;
      now = Draft.of(changes).appliedUnchecked(now);
      taken.add(it);
      each.put(it, changes);
    }

    private static @Nullable Draft joined(Draft before, List<Change> changes) {
      try {
        Draft.Builder builder = before.builder();
        changes.forEach(builder::add);
        return builder.build();
      } catch (IllegalArgumentException _) {
        return null;
      }
    }

    private @Nullable Engine after(Draft of) {
      try {
        return of.isEmpty() ? engine : engine.after(of.inOrder());
      } catch (IllegalArgumentException _) {
        return null;
      }
    }

    /** Together they leave a fault: those after which there would be one come back. */
    private void oneByOne() {
      again(List.copyOf(taken), it -> after(draft) == null ? FAULTY : null);
    }

    /** Begins anew with some items; each that a test finds wrong at its turn is left out. */
    private void again(List<RoundItem> some, Function<RoundItem, @Nullable String> test) {
      taken.clear();
      draft = Draft.EMPTY;
      now = engine.catalogue();
      for (RoundItem it : some) {
        Draft before = draft;
        Catalogue was = now;
        int had = taken.size();
        add(it);
        String wrong = taken.size() == had ? null : test.apply(it);
        if (wrong != null) {
          taken.removeLast();
          draft = before;
          now = was;
          returned.put(it, wrong);
        }
      }
    }

    /** A removal that was to take something, and takes nothing with all the others either. */
    private void returnDefeated() {
      Engine after = after(draft);
      if (after == null) {
        return;
      }
      Map<RoundItem, String> defeated = new LinkedHashMap<>();
      for (RoundItem it : taken) {
        Long expected = it.effect().expected();
        if (expected != null && expected > 0 && staysWith(after, it)) {
          defeated.put(it, DEFEATED);
        }
      }
      if (!defeated.isEmpty()) {
        again(
            taken.stream().filter(it -> !defeated.containsKey(it)).toList(),
            _ -> after(draft) == null ? FAULTY : null);
        returned.putAll(defeated);
      }
    }

    /** Whether all that an item gives is still there after all changes. */
    private boolean staysWith(Engine after, RoundItem it) {
      ReviewItem item = it.item();
      List<ReviewItem> with = DecidedChanges.named(it.with(), item, items);
      if (study.takes(item, with).orElse(1) > 0) {
        return false;
      }
      ItemEffect effect = study.effect(item).orElse(null);
      if (effect == null || !after.catalogue().principals().containsKey(effect.whose())) {
        return false;
      }
      Access staying = study.staying(item, effect);
      Access left = after.accessAfresh(new Session(effect.whose(), at, true, null));
      return staying.rights() > 0 && staying.beyond(left).rights() == 0;
    }
  }
}
