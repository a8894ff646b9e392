package mandala.core.excess;

import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;

/**
 * What is observed: of which permissions, on which resources, every use is recorded. A right
 * outside of it may be used without a record, so it is never unused, only not observed.
 *
 * @param parts what is observed is in one of them
 */
public record UseCoverage(List<Part> parts) {

  /** All that there is, since ever. */
  public static final UseCoverage COMPLETE = new UseCoverage(List.of(new Part(null, null, null)));

  /** Nothing at all. */
  public static final UseCoverage NOTHING = new UseCoverage(List.of());

  /** Copies its list. */
  public UseCoverage {
    parts = List.copyOf(parts);
  }

  /**
   * What one source reports.
   *
   * @param permissions which, null for all
   * @param places the resources that it reports, each with all below it, sealed or not; null for
   *     all
   * @param since the first date that it reports whole, null for always
   */
  public record Part(
      @Nullable Set<PermissionKey> permissions,
      @Nullable Set<ResourceKey> places,
      @Nullable LocalDate since) {
    /** Copies its sets. */
    public Part {
      permissions = permissions == null ? null : Set.copyOf(permissions);
      places = places == null ? null : Set.copyOf(places);
    }

    private boolean isComplete() {
      return permissions == null && places == null && since == null;
    }
  }

  /** {@return whether all is observed, always} */
  public boolean isComplete() {
    return parts.stream().anyMatch(Part::isComplete);
  }

  /** {@return the parts that report a whole window} */
  public List<Part> over(UseWindow window) {
    return parts.stream()
        .filter(it -> it.since() == null || !it.since().isAfter(window.first()))
        .toList();
  }
}
