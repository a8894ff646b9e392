package mandala.core.excess;

import java.time.LocalDate;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;

/**
 * Somebody did something on a day (section 12).
 *
 * @param principal who did it; {@code anonymous} may have
 * @param day a date in UTC
 * @param count how often, at least once
 * @param actingFor for whom it was done, or null; then it is a use of their access
 */
public record UseRecord(
    PrincipalKey principal,
    PermissionKey permission,
    ResourceKey resource,
    LocalDate day,
    long count,
    @Nullable PrincipalKey actingFor) {

  /**
   * Checks what a record must be.
   *
   * @throws IllegalArgumentException if it was done less than once, by somebody for themselves, or
   *     by or for {@code anonymous} acting for another; the message says which and what to do
   */
  public UseRecord {
    if (count < 1) {
      throw new IllegalArgumentException("the count is " + count + "; write 1 or more");
    }
    if (principal.equals(actingFor)) {
      throw new IllegalArgumentException(
          "'" + principal + "' acts for themselves; leave 'actingFor' out");
    }
    if (actingFor != null
        && (principal.equals(PrincipalKey.ANONYMOUS) || actingFor.equals(PrincipalKey.ANONYMOUS))) {
      throw new IllegalArgumentException(
          "nobody acts for, or as, 'anonymous'; leave 'actingFor' out or name a principal");
    }
  }

  /** {@return whose access was used}: of those acted for, else of who did it */
  public PrincipalKey whose() {
    return actingFor == null ? principal : actingFor;
  }
}
