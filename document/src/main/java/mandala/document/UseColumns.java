package mandala.document;

import org.jspecify.annotations.Nullable;

/**
 * Which columns of a table have what of a use record (section 12).
 *
 * @param principal the column with the key of who did it
 * @param permission the column with the key of what was done
 * @param resource the column with the key of where
 * @param day the column with the date in UTC, or with an instant
 * @param count the column with how often, or null: once
 * @param actingFor the column with the key of for whom, or null: for nobody else
 */
public record UseColumns(
    String principal,
    String permission,
    String resource,
    String day,
    @Nullable String count,
    @Nullable String actingFor) {

  /** Columns that are named like the fields of {@code mandala-use/1}. */
  public static final UseColumns PLAIN =
      new UseColumns("principal", "permission", "resource", "day", "count", "actingFor");
}
