package mandala.server.question;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mandala.core.model.Principal;
import mandala.core.question.Verdict;
import mandala.server.platform.ExportTable;
import org.jspecify.annotations.Nullable;

/**
 * What somebody can do.
 *
 * @param refusal why there is no access at all: {@code inactive}, {@code no-delegation}, or {@code
 *     absent} where the model that is asked about lacks the principal; else null
 * @param limited whether the viewer sees some accounts only
 * @param everybody whether what they hold themselves and could do for others are shown together
 * @param through what comes from whom they may act for, where everybody was asked for
 * @param hiddenThrough whether there are others they may act for, whom the viewer can't see
 * @param switchable what they could activate then
 * @param at the instant asked about
 */
record AccessAnswer(
    Named principal,
    @Nullable Named actingFor,
    @Nullable Named in,
    Instant at,
    boolean secondFactor,
    boolean secondFactorCounts,
    @Nullable String refusal,
    boolean limited,
    boolean draftCut,
    boolean everybody,
    List<ThroughView> through,
    boolean hiddenThrough,
    List<SwitchedOn.SwitchableView> switchable,
    FigureView figure,
    List<RegionView> regions,
    List<PermissionView> permissions) {

  /** A thing by key and name. */
  record Named(String key, String name) {

    static Named of(Principal it) {
      return new Named(it.key().value(), it.about().nameOr(it.key()));
    }

    static @Nullable Named ofNullable(@Nullable Principal it) {
      return it == null ? null : of(it);
    }
  }

  /**
   * What comes from somebody who is acted for.
   *
   * @param rights how many rights
   * @param more how many of these they do not hold themselves
   */
  record ThroughView(String key, String name, long rights, long more) {

    static ThroughView of(AccessQuestion.Through it) {
      Principal whom = it.whom();
      return new ThroughView(
          whom.key().value(), whom.about().nameOr(whom.key()), it.rights(), it.more());
    }
  }

  /** A permission that the answer names. */
  record PermissionView(
      String key, String name, @Nullable String description, String accessClass, String risk) {}

  /** {@return a line for each permission of each innermost region} */
  ExportTable table() {
    Map<String, PermissionView> named = new HashMap<>();
    permissions.forEach(it -> named.put(it.key(), it));
    List<List<Object>> rows = new ArrayList<>();
    regions.forEach(it -> rows(it, "", named, rows));
    return new ExportTable(
        "access",
        List.of(
            "account",
            "place",
            "key",
            "within",
            "permission",
            "name",
            "class",
            "risk",
            "verdict",
            "of these places",
            "places it applies to"),
        rows);
  }

  /** Regions without regions below divide what the answer covers. */
  private static void rows(
      RegionView region,
      String within,
      Map<String, PermissionView> named,
      List<List<Object>> rows) {
    region.below().forEach(it -> rows(it, region.name(), named, rows));
    if (!region.below().isEmpty()) {
      return;
    }
    for (RegionView.CellView cell : region.cells()) {
      PermissionView it = named.get(cell.permission());
      Map<String, Integer> counts = new LinkedHashMap<>();
      counts.put(Verdict.ALLOWED.word(), cell.allowed());
      counts.put(Verdict.BLOCKED.word(), cell.blocked());
      counts.put(Verdict.DENIED.word(), cell.denied());
      counts.forEach((verdict, many) -> {
        if (it != null && many > 0) {
          rows.add(
              List.of(
                  region.account(),
                  region.name(),
                  region.resource(),
                  within,
                  it.key(),
                  it.name(),
                  it.accessClass(),
                  it.risk(),
                  verdict,
                  many,
                  cell.applicable()));
        }
      });
    }
  }
}
