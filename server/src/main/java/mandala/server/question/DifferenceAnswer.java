package mandala.server.question;

import java.time.Instant;
import java.util.List;
import mandala.server.platform.ExportTable;
import org.jspecify.annotations.Nullable;

/**
 * How two sides differ: what only the other side has is gained, what only the one has is lost.
 *
 * @param more a figure of what only the other side has, {@code less} of what only the one has
 * @param areas where they differ
 */
record DifferenceAnswer(
    DifferenceSide one,
    DifferenceSide other,
    long gained,
    long lost,
    FigureView more,
    FigureView less,
    List<DifferingArea> areas,
    List<DifferenceLine> lines) {

  /**
   * One side: whose access, when, and its figure; both figures have the same areas.
   *
   * @param kind {@code person}, {@code role}, {@code pattern} or {@code colleagues}
   * @param title what the name does not say
   */
  record DifferenceSide(
      String kind,
      String key,
      String name,
      @Nullable String title,
      Instant at,
      long revision,
      @Nullable String refusal,
      FigureView figure) {}

  /** {@return a line for each permission that differs in an account} */
  ExportTable table() {
    List<List<Object>> rows =
        lines.stream()
            .map(it ->
                List.<Object>of(
                    it.accountName(),
                    it.permission(),
                    it.permissionName(),
                    it.accessClass(),
                    it.risk(),
                    it.gained(),
                    it.lost()))
            .toList();
    return new ExportTable(
        "difference",
        List.of(
            "account",
            "permission",
            "name",
            "class",
            "risk",
            "only " + other.name(),
            "only " + one.name()),
        rows);
  }
}
