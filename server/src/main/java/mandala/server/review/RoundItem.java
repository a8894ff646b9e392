package mandala.server.review;

import java.time.Instant;
import java.util.List;
import java.util.Locale;
import mandala.core.review.ReviewItem;
import org.jspecify.annotations.Nullable;

/**
 * An item of a round, as it is kept.
 *
 * @param aboutKind field of the kind of whose access it is, {@code about} the key
 * @param account of whose access it is, or where it gives something
 * @param facts digest of {@link ReviewItem#facts}
 * @param risk word of the highest that it may give, null where it gives no permission
 * @param takes rights that its removal takes, when it was found; null where several people's
 * @param control whether it is known to be wrong, and not in the model
 * @param decider key of who must decide it, null where there is nobody
 * @param chosenBy word of what makes them the decider
 * @param insteadOf whose deputy they are
 * @param later deciders of later stages, an empty text where there is nobody
 * @param conflict {@code gave} or {@code each-other}
 * @param changed whether it changed since it was found
 * @param changes JSON of what reduces it
 * @param with ids of what goes with it
 * @param effect what became of the decision
 */
record RoundItem(
    long round,
    int number,
    ReviewItem item,
    String aboutKind,
    String about,
    @Nullable String account,
    String facts,
    @Nullable String risk,
    @Nullable Long takes,
    long exposure,
    @Nullable String recommended,
    boolean control,
    int stage,
    @Nullable String decider,
    @Nullable String chosenBy,
    @Nullable String insteadOf,
    List<String> later,
    @Nullable String conflict,
    State state,
    boolean changed,
    @Nullable String verdict,
    @Nullable String reason,
    @Nullable String changes,
    List<String> with,
    @Nullable String decidedBy,
    @Nullable Instant decidedAt,
    Effect effect) {

  RoundItem {
    later = List.copyOf(later);
    with = List.copyOf(with);
  }

  /**
   * What became of a decision.
   *
   * @param expected rights that it takes, as it was made; null where nothing counts them
   * @param outcome null where nothing is to be done, or not yet
   * @param draft that carries it out
   * @param revision in which it took effect
   * @param remark why it came back, or how somebody answers for it
   * @param returned how often it came back
   */
  record Effect(
      @Nullable Long expected,
      @Nullable Outcome outcome,
      @Nullable String draft,
      @Nullable Long revision,
      @Nullable String remark,
      @Nullable Instant settledAt,
      int returned) {

    static final Effect NONE = new Effect(null, null, null, null, null, null, 0);
  }

  /** What became of a decision that changes the model. */
  enum Outcome {
    /** It is in a draft that is not applied. */
    WAITING,
    /** The model is as it was decided. */
    IN_FORCE,
    /** It has no effect, and somebody answers for that. */
    ANSWERED;

    String word() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    static Outcome of(String word) {
      return valueOf(word.toUpperCase(Locale.ROOT).replace('-', '_'));
    }
  }

  /** Where an item is. */
  enum State {
    /** It waits for its decider. */
    OPEN,
    /** It was decided, and its decider can undo that. */
    DECIDED,
    /** Its decision counts. */
    DONE,
    /** The model does not have it any longer. */
    GONE;

    String word() {
      return name().toLowerCase(Locale.ROOT);
    }

    static State of(String word) {
      return valueOf(word.toUpperCase(Locale.ROOT));
    }
  }

  /** {@return whether a decision that counts has had no effect so far, and needs one} */
  boolean isUnsettled() {
    return state == State.DONE
        && !control
        && verdict != null
        && !verdict.equals("keep")
        && (effect.outcome() == null || effect.outcome() == Outcome.WAITING);
  }

  boolean isDecidable() {
    return state == State.OPEN || state == State.DECIDED;
  }
}
