package mandala.server.excess;

import io.swagger.v3.oas.annotations.media.Schema;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import mandala.server.question.FigureView;
import org.jspecify.annotations.Nullable;

/**
 * What of somebody's access is needed, young, not observed and unused, in rights.
 *
 * @param at the instant asked about
 * @param days of the window
 * @param first date of the window
 * @param historyShort whether the model's history is shorter than the window, so that what came
 *     before it began counts as old
 * @param part whether the viewer may see only part of their access
 * @param rights all that is effective, in the accounts that the viewer may see
 * @param needed what was used or is demanded, and what comes with it
 * @param young what was not yet held when the window began, and what comes with it; absent where it
 *     is counted as needed: where the viewer may not see all accounts
 * @param unobserved what no source of use reports over the whole window, and what comes with it
 * @param unused the rest
 * @param exposure of all of it
 * @param unusedExposure of what is unused alone
 * @param whole the figure of all of it, counted in resources
 * @param used the same of what is needed or young
 * @param kept the same of what is needed, young or not observed
 * @param permissions those that the viewer may read of which something is unused, the riskiest
 *     first
 */
record ExcessAnswer(
    Instant at,
    int days,
    LocalDate first,
    boolean historyShort,
    boolean part,
    long rights,
    long needed,
    @Nullable Long young,
    long unobserved,
    long unused,
    long exposure,
    long unusedExposure,
    FigureView whole,
    FigureView used,
    FigureView kept,
    List<UnusedPermission> permissions) {

  /**
   * A permission of which something is unused.
   *
   * @param places on how many resources
   * @param lastUsed when it was last used, on any of these places, as far back as use is kept;
   *     absent for never
   * @param colleagues how many comparable colleagues hold it whom the viewer may ask about, absent
   *     where there are none
   * @param colleaguesUsing how many of them used it within the window
   */
  record UnusedPermission(
      String key,
      String name,
      @Schema(allowableValues = {"view", "change", "administer"}) String accessClass,
      @Schema(allowableValues = {"low", "moderate", "high", "critical"}) String risk,
      long places,
      @Nullable LocalDate lastUsed,
      @Nullable Integer colleagues,
      @Nullable Integer colleaguesUsing) {}
}
