package mandala.server.excess;

import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import mandala.server.platform.ExportTable;
import org.jspecify.annotations.Nullable;

/**
 * What of the access of several people is needed, young, not observed and unused, in rights.
 *
 * @param name what they are called
 * @param at the instant asked about
 * @param days of the window
 * @param first date of the window
 * @param historyShort whether the model's history is shorter than the window
 * @param part whether some were left out whose whole access the viewer may not see, or only some
 *     accounts count
 * @param people how many were looked at
 * @param total of all of them
 * @param rows of each, those first whose unused exposure is the highest
 */
record StudyAnswer(
    String name,
    Instant at,
    int days,
    LocalDate first,
    boolean historyShort,
    boolean part,
    int people,
    StudyRow total,
    List<StudyRow> rows) {

  /** Maximum number of people in one answer; the total is of all. */
  static final int MOST = 5_000;

  /**
   * The figures of one of them, or of all.
   *
   * @param key of the person or service; absent for all, and for who has not signed in
   * @param young absent where it is counted as needed: where not all accounts count
   * @param unused rights that are none of the others
   * @param unusedExposure the exposure of these
   */
  record StudyRow(
      @Nullable String key,
      String name,
      @Nullable String kind,
      @Nullable String account,
      long rights,
      long needed,
      @Nullable Long young,
      long unobserved,
      long unused,
      long exposure,
      long unusedExposure) {}

  private static final List<String> HEAD =
      List.of(
          "name",
          "key",
          "account",
          "rights",
          "used or required",
          "too new to judge",
          "not observed",
          "unused",
          "exposure",
          "unused exposure");

  /** {@return the same as a table} */
  ExportTable table() {
    List<List<Object>> cells = new ArrayList<>();
    for (StudyRow it : rows) {
      cells.add(
          List.of(
              it.name(),
              it.key() == null ? "" : it.key(),
              it.account() == null ? "" : it.account(),
              it.rights(),
              it.needed(),
              it.young() == null ? "" : it.young(),
              it.unobserved(),
              it.unused(),
              it.exposure(),
              it.unusedExposure()));
    }
    return new ExportTable("use", HEAD, cells);
  }
}
