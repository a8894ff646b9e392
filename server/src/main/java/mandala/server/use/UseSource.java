package mandala.server.use;

import java.time.LocalDate;
import java.util.Set;
import mandala.core.excess.UseCoverage;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.document.UseColumns;
import org.jspecify.annotations.Nullable;

/**
 * Somebody who reports use.
 *
 * @param number by which use names it
 * @param account whose settings it belongs to; it reports use of this account's places only
 * @param permissions of which it reports every use, null for all
 * @param places on which it does, each with all below it
 * @param since the first day that it reports whole
 * @param columns which columns of its tables have what
 */
record UseSource(
    int number,
    String key,
    String name,
    AccountKey account,
    @Nullable Set<PermissionKey> permissions,
    Set<ResourceKey> places,
    LocalDate since,
    UseColumns columns) {

  /** Copies its sets. */
  UseSource {
    permissions = permissions == null ? null : Set.copyOf(permissions);
    places = Set.copyOf(places);
  }

  UseCoverage.Part part() {
    return new UseCoverage.Part(permissions, places, since);
  }
}
