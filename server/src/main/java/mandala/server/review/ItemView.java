package mandala.server.review;

import io.swagger.v3.oas.annotations.media.Schema;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import mandala.server.question.FigureView;
import org.jspecify.annotations.Nullable;

/**
 * An item with the evidence for a decision, on the newest revision.
 *
 * @param row the item as the list shows it
 * @param facts digest of what it is now: a decision says which one it is about
 * @param activated whether some of what it gives must be activated first
 * @param takes rights that its removal takes from whoever has it; absent where several people have
 *     it
 * @param gives rights that its removal would give: it denies something, too
 * @param stays rights that it gives and that stay without it, by something else
 * @param people who loses anything by its removal, of those whom the viewer may ask about; absent
 *     where it is one person's
 * @param permissions of what it takes, the riskiest first; at most ten
 * @param otherPermissions how many more there are
 * @param with what else must go for nothing of it to stay; empty where nothing stays, or where
 *     nothing of theirs ends it
 * @param figure all access that the viewer may see of whoever has it, {@code without} the same
 *     without the item; absent where several people have it
 * @param remaining rights that they have without it; absent where the viewer may not see all
 * @param findings titles of findings that it is part of, {@code conflicts} what exclusions
 * @param history what was done with it and said of it, the oldest first
 */
record ItemView(
    ItemRow row,
    String facts,
    boolean activated,
    @Nullable Long takes,
    long gives,
    @Nullable Long stays,
    @Nullable Integer people,
    List<TakenPermission> permissions,
    int otherPermissions,
    List<CompanionItem> with,
    @Nullable FigureView figure,
    @Nullable FigureView without,
    @Nullable Long remaining,
    ItemUse use,
    @Nullable ItemColleagues colleagues,
    @Nullable ItemOrigin given,
    List<String> conflicts,
    List<String> findings,
    @Nullable ItemAdvice advice,
    List<ItemReduction> reductions,
    List<ItemAct> history) {

  /**
   * An item in a list.
   *
   * @param aboutNote what else tells whose access it is: title and unit
   * @param takes as it was when the round was made; absent where several people's
   * @param alike the same for items that are alike: what is decided of several at once must be
   * @param changed whether it changed since the round was made, or since it was decided
   * @param id what the decision is about; a mark once it is no longer open
   * @param with marks of what goes with it
   * @param outcome what became of the decision; absent where nothing is to be done, or not yet
   * @param revision in which it took effect
   * @param remark why it came back, or how somebody answers for it
   */
  record ItemRow(
      long round,
      int number,
      String id,
      @Schema(
              allowableValues = {
                "member",
                "nested",
                "by-rule",
                "rule",
                "pattern",
                "guest",
                "assignment",
                "bridge",
                "delegation",
                "role",
                "reach",
                "owner",
                "exempt"
              })
          String kind,
      String aboutKind,
      String about,
      String aboutName,
      @Nullable String aboutNote,
      String said,
      @Nullable @Schema(allowableValues = {"low", "moderate", "high", "critical"}) String risk,
      @Nullable Long takes,
      long exposure,
      @Nullable @Schema(allowableValues = {"keep", "reduce", "remove"}) String recommended,
      String alike,
      int stage,
      @Schema(allowableValues = {"open", "decided", "done", "gone"}) String state,
      boolean changed,
      @Nullable @Schema(allowableValues = {"gave", "each-other"}) String conflict,
      @Nullable String insteadOf,
      @Nullable @Schema(allowableValues = {"keep", "reduce", "remove"}) String verdict,
      @Nullable String reason,
      List<String> with,
      @Nullable Instant decidedAt,
      @Nullable @Schema(allowableValues = {"waiting", "in-force", "answered"}) String outcome,
      @Nullable Long revision,
      @Nullable String remark) {}

  /** A permission of what an item takes, and on how many places. */
  record TakenPermission(
      String key,
      String name,
      @Schema(allowableValues = {"view", "change", "administer"}) String accessClass,
      @Schema(allowableValues = {"low", "moderate", "high", "critical"}) String risk,
      long places) {}

  /** Something that would have to go with an item, by a mark. */
  record CompanionItem(String id, String said) {}

  /**
   * Use of what an item gives.
   *
   * @param days of the window
   * @param last day of use, absent for never
   * @param line on how many days it was used, in stretches of equal length, the oldest first
   * @param observed whether any of it is reported by a source of use
   */
  record ItemUse(int days, @Nullable LocalDate last, List<Integer> line, boolean observed) {}

  /**
   * Comparable colleagues; {@code few} is fewer than five where the viewer can't ask about them.
   *
   * @param basis what they have in common
   */
  record ItemColleagues(
      @Schema(allowableValues = {"pattern", "title", "unit"}) String basis,
      String all,
      String having,
      String using) {}

  /** Since when it is there, who made it and why, as far as the trail knows. */
  record ItemOrigin(
      long revision, Instant at, @Nullable String byName, String title, @Nullable String reason) {}

  /** What is recommended, with reasons as sentences. */
  record ItemAdvice(
      @Schema(allowableValues = {"keep", "reduce", "remove"}) String verdict,
      List<String> reasons,
      @Schema(allowableValues = {"low", "moderate", "high"}) String certainty) {}

  /**
   * A way to reduce an item.
   *
   * @param until whether it needs a time
   */
  record ItemReduction(String key, String label, List<String> says, boolean until) {}

  /** Something that was done with an item, or said of it. */
  record ItemAct(
      String act,
      @Nullable String whoName,
      Instant at,
      @Nullable String verdict,
      @Nullable String said,
      @Nullable String whomName) {}
}
