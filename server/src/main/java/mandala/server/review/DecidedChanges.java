package mandala.server.review;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.Removal;
import mandala.core.detect.Detection;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.core.review.ItemStudy;
import mandala.core.review.ReviewItem;
import mandala.core.review.ReviewItems;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/** What decisions do to the model: the changes of those that remove or reduce, together. */
final class DecidedChanges {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private DecidedChanges() {}

  /** How an item is reduced, as it is kept. */
  record Reduction(String way, @Nullable Instant until) {

    String json() {
      return JSON.writeValueAsString(this);
    }

    static Reduction of(String json) {
      return JSON.readValue(json, Reduction.class);
    }
  }

  /**
   * {@return the changes of decided items}, each in what the one before left; controls change
   * nothing
   *
   * @param findings of an item
   * @param items of the engine's model
   */
  static List<Change> of(
      List<RoundItem> decided,
      Engine engine,
      Instant at,
      Function<ReviewItem, Collection<Detection>> findings,
      ReviewItems items) {
    Draft draft = Draft.EMPTY;
    Catalogue now = engine.catalogue();
    for (RoundItem it : decided) {
      List<Change> changes = of(it, named(it.with(), it.item(), items), now, engine, at, findings);
      if (changes != null) {
        for (Change change : changes) {
          draft = draft.with(change);
        }
        now = Draft.of(changes).appliedUnchecked(now);
      }
    }
    return draft.inOrder();
  }

  /**
   * {@return the changes of one decided item}; null where they do not fit
   *
   * @param with what goes with it
   * @param now what others before it leave of the engine's model
   */
  static @Nullable List<Change> of(
      RoundItem it,
      List<ReviewItem> with,
      Catalogue now,
      Engine engine,
      Instant at,
      Function<ReviewItem, Collection<Detection>> findings) {
    if (it.control() || it.verdict() == null || it.verdict().equals("keep")) {
      return List.of();
    }
    if (it.verdict().equals("remove")) {
      List<Removal> gone = new ArrayList<>();
      gone.add(it.item().removal());
      with.forEach(each -> gone.add(each.removal()));
      return ItemStudy.changes(now, gone);
    }
    String how = it.changes();
    if (how == null) {
      return null;
    }
    Reduction reduction = Reduction.of(how);
    List<Change> changes =
        Reductions.changes(
            reduction.way(), reduction.until(), it.item(), findings.apply(it.item()), engine, at);
    return changes.isEmpty() || !fits(changes, now) ? null : changes;
  }

  /** {@return the items of whoever has one, by their ids}, as far as there are any */
  static List<ReviewItem> named(List<String> ids, ReviewItem of, ReviewItems items) {
    if (ids.isEmpty() || of.whose().isEmpty()) {
      return List.of();
    }
    Map<String, ReviewItem> theirs = new HashMap<>();
    items.of(of.whose().get()).forEach(it -> theirs.put(it.id(), it));
    return ids.stream().map(theirs::get).filter(Objects::nonNull).toList();
  }

  /** Whether what the changes alter and remove is as it was. */
  private static boolean fits(List<Change> changes, Catalogue now) {
    for (Change it : changes) {
      Thing was = it.things().getFirst();
      boolean there =
          was instanceof Guest guest
              ? now.find(Kind.GUESTS, guest.principal().value()).contains(guest)
              : was.equals(now.find(was));
      if (!(it instanceof Change.Added) && !there) {
        return false;
      }
    }
    return true;
  }
}
