package mandala.server.review;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a round came to, as it was when it closed: what was asked and why, each item with its
 * decision and what became of it, how its reviewers decided, and who signed it. It is written once
 * and never again, so that it can be held to its hash in the trail.
 *
 * @param format {@link #FORMAT}
 * @param signature absent until somebody signs it
 */
record RoundReport(
    String format,
    ReviewSummary summary,
    List<ReportedReviewer> reviewers,
    List<ReportedItem> items,
    @Nullable ReviewSignature signature) {

  static final String FORMAT = "mandala-review/1";

  /**
   * What was asked.
   *
   * @param why what made it by itself, absent where a person did
   * @param what a sentence of what was in it
   * @param people whose access it asked about, {@code before} their exposure when it began and
   *     {@code after} when it closed
   * @param rule what became of what nobody decided
   */
  record ReviewSummary(
      long round,
      String title,
      String what,
      @Nullable String why,
      String owner,
      Instant begins,
      Instant ends,
      Instant closed,
      long revision,
      int items,
      int people,
      long before,
      long after,
      int kept,
      int reduced,
      int removed,
      int byRule,
      int gone,
      String rule) {}

  /** How a reviewer decided: shares from 0 to 1, pace in seconds. */
  record ReportedReviewer(
      String name,
      int items,
      int kept,
      int reduced,
      int removed,
      @Nullable Double keeps,
      @Nullable Double pace,
      int controls,
      int controlsKept) {}

  /**
   * An item.
   *
   * @param whose key of what it is about, {@code whoseName} its name then
   * @param takes rights that its removal took when it was found, {@code expected} when it was
   *     decided
   * @param control whether it was known to be wrong
   * @param insteadOf whose deputy the reviewer was
   * @param outcome what became of it, in words
   */
  record ReportedItem(
      int number,
      String what,
      String whoseKind,
      String whose,
      String whoseName,
      @Nullable String account,
      @Nullable String risk,
      @Nullable Long takes,
      @Nullable Long expected,
      @Nullable String recommended,
      boolean control,
      @Nullable String reviewer,
      @Nullable String insteadOf,
      @Nullable String verdict,
      @Nullable String reason,
      @Nullable String decidedBy,
      @Nullable Instant decidedAt,
      String outcome,
      @Nullable Long revision,
      @Nullable String remark,
      List<ReportedAct> history) {}

  /** Something that was done with an item, or said of it. */
  record ReportedAct(
      String act,
      @Nullable String by,
      Instant at,
      @Nullable String verdict,
      @Nullable String said,
      @Nullable String to) {}

  /** Who signed the result, with a second factor shown then. */
  record ReviewSignature(String key, String name, Instant at, boolean secondFactor) {}

  /** {@return the same, signed} */
  RoundReport signed(ReviewSignature by) {
    return new RoundReport(format, summary, reviewers, items, by);
  }
}
