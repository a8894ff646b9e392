package mandala.bench;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.atomic.AtomicLong;
import mandala.core.change.Removal;
import mandala.core.excess.InBatches;
import mandala.core.model.Permission;
import mandala.core.model.key.Key;
import mandala.core.question.Impact;
import mandala.core.review.ItemStudy;
import mandala.core.review.ReviewItem;
import mandala.core.review.ReviewItems;
import mandala.core.review.ReviewScope;

/** What a round over a whole world asks, and what each of its items takes. */
final class RoundOfWorld {

  private static final int BATCH = 64;

  private final World world;
  private final Results results;

  RoundOfWorld(World world, Results results) {
    this.world = world;
    this.results = results;
  }

  void run() {
    long start = System.nanoTime();
    ReviewItems items = ReviewItems.of(world.engine, Settlement.NOW);
    List<ReviewItem> all =
        items.in(
            new ReviewScope(
                EnumSet.allOf(ReviewScope.Content.class), Set.of(), null, Permission.Risk.LOW));
    results.put("items of a round over everything", "s", seconds(start));
    results.put("items", "", all.size());
    Map<Key, List<ReviewItem>> byAbout = new LinkedHashMap<>();
    all.forEach(it -> byAbout.computeIfAbsent(it.about(), _ -> new ArrayList<>()).add(it));
    AtomicLong takes = new AtomicLong();
    Map<Kind, AtomicLong> nanos = new EnumMap<>(Kind.class);
    for (Kind kind : Kind.values()) {
      nanos.put(kind, new AtomicLong());
    }
    start = System.nanoTime();
    InBatches.of(
        List.copyOf(byAbout.values()),
        BATCH,
        Impact.Watch.TO_THE_END,
        some ->
            some.forEach(its -> {
              ItemStudy study = new ItemStudy(world.engine, items, Settlement.NOW);
              for (ReviewItem it : its) {
                long from = System.nanoTime();
                study.effect(it).ifPresent(effect -> takes.addAndGet(effect.takes()));
                Objects.requireNonNull(nanos.get(Kind.of(it.removal())))
                    .addAndGet(System.nanoTime() - from);
              }
            }));
    results.put("what each item takes, all threads", "s", seconds(start));
    nanos.forEach((kind, it) ->
        results.put(
            "of it on one thread: " + kind.name().toLowerCase(Locale.ROOT),
            "s",
            it.doubleValue() / 1e9));
    if (takes.get() == 0) {
      throw new IllegalStateException("Impossible state: no item takes anything");
    }
  }

  /** What is removed. */
  private enum Kind {
    MEMBERSHIPS,
    ASSIGNMENTS,
    PATTERNS,
    REACH,
    GUESTS,
    OTHERS;

    static Kind of(Removal it) {
      return switch (it) {
        case Removal.Leave _, Removal.LoseAttribute _, Removal.DropRule _ -> MEMBERSHIPS;
        case Removal.Unassign _ -> ASSIGNMENTS;
        case Removal.DropPattern _ -> PATTERNS;
        case Removal.DropReach _ -> REACH;
        case Removal.EndGuest _ -> GUESTS;
        default -> OTHERS;
      };
    }
  }

  private static double seconds(long since) {
    return (System.nanoTime() - since) / 1e9;
  }
}
