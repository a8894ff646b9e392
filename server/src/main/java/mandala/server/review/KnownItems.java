package mandala.server.review;

import java.time.Duration;
import java.time.Instant;
import java.util.Objects;
import mandala.core.engine.Engine;
import mandala.core.review.ReviewItem;
import mandala.core.review.ReviewItems;
import mandala.server.model.LiveModel;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * What can be reviewed of the newest model, read once for each revision and again after a while:
 * windows end. Thread-safe.
 */
@Component
class KnownItems {

  private static final Duration KEPT = Duration.ofMinutes(5);

  private @Nullable Kept kept;

  private record Kept(Engine engine, Instant at, ReviewItems items) {}

  /** {@return the items of a state}; not to be asked for risks, which is not for many threads */
  @SuppressWarnings("ReferenceEquality") // an engine is one state of the model
  synchronized ReviewItems of(LiveModel.State state, Instant at) {
    Kept last = kept;
    if (last == null
        || last.engine() != state.engine()
        || last.at().isAfter(at)
        || last.at().plus(KEPT).isBefore(at)) {
      last = new Kept(state.engine(), at, ReviewItems.of(state.engine(), at));
      kept = last;
    }
    return Objects.requireNonNull(last).items();
  }

  /** {@return the digest of an item's facts}, the same as long as it is the same */
  String facts(ReviewItem item, LiveModel.State state, Instant at) {
    return RoundMaker.facts(item, of(state, at));
  }
}
