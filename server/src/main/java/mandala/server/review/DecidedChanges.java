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
import mandala.core.detect.Detection;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.core.review.ReviewItem;
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
   * @param byId items of the round and of whoever has them, by id: what goes with a decision
   */
  static List<Change> of(
      List<RoundItem> decided,
      Engine engine,
      Instant at,
      Function<ReviewItem, Collection<Detection>> findings,
      Map<String, ReviewItem> byId) {
    Draft draft = Draft.EMPTY;
    Catalogue now = engine.catalogue();
    for (RoundItem it : decided) {
      if (it.control() || it.verdict() == null || it.verdict().equals("keep")) {
        continue;
      }
      List<ReviewItem> gone = new ArrayList<>();
      if (it.verdict().equals("remove")) {
        gone.add(it.item());
        it.with().stream().map(byId::get).filter(Objects::nonNull).forEach(gone::add);
      } else if (it.changes() != null) {
        Reduction how = Reduction.of(it.changes());
        List<Change> changes =
            Reductions.changes(
                how.way(), how.until(), it.item(), findings.apply(it.item()), engine, at);
        if (fits(changes, now)) {
          for (Change change : changes) {
            draft = draft.with(change);
          }
          now = Draft.of(changes).appliedUnchecked(now);
        }
      }
      for (ReviewItem each : gone) {
        List<Change> changes = each.removal().in(now);
        for (Change change : changes) {
          draft = draft.with(change);
        }
        now = Draft.of(changes).appliedUnchecked(now);
      }
    }
    return draft.inOrder();
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

  /** {@return items by id} */
  static Map<String, ReviewItem> byId(Collection<ReviewItem> items) {
    Map<String, ReviewItem> byId = new HashMap<>();
    items.forEach(it -> byId.put(it.id(), it));
    return byId;
  }
}
