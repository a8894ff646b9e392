package mandala.server.review;

import java.time.Instant;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * A review round.
 *
 * @param owner key of who runs it
 * @param revision on which its items were found, null before
 * @param cause what made it by itself, null where a person did
 * @param reason why it was cancelled
 * @param heldUp why it waits for its owner
 */
record Round(
    long number,
    RoundOrder order,
    String owner,
    State state,
    Instant begins,
    Instant ends,
    Instant madeAt,
    @Nullable Long revision,
    @Nullable String cause,
    @Nullable String reason,
    @Nullable Instant endedAt,
    @Nullable String heldUp,
    Course course) {

  /**
   * How it goes.
   *
   * @param lateSince since its end, null before
   * @param carriedAt when decisions were carried out last
   * @param before exposure of whose access it asks about, when it was made
   * @param after the same, when it closed
   */
  record Course(
      @Nullable Instant remindedAt,
      @Nullable Instant lateSince,
      @Nullable Instant carriedAt,
      @Nullable Long before,
      @Nullable Long after,
      @Nullable String signedBy,
      @Nullable Instant signedAt) {}

  /** Where a round is. */
  enum State {
    PLANNED,
    MAKING,
    OPEN,
    CLOSED,
    CANCELLED;

    /** {@return the word for it} */
    String word() {
      return name().toLowerCase(Locale.ROOT);
    }

    static State of(String word) {
      return valueOf(word.toUpperCase(Locale.ROOT));
    }
  }

  String title() {
    return order.title();
  }

  boolean isOpen() {
    return state == State.OPEN;
  }
}
