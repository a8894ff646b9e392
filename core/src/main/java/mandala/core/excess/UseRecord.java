package mandala.core.excess;

import java.time.LocalDate;
import java.util.Optional;
import mandala.core.model.check.Fault;
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
   * @throws IllegalArgumentException if {@link #faultOf} finds a fault; the message tells it
   */
  public UseRecord {
    faultOf("$", principal, count, actingFor)
        .ifPresent(fault -> {
          throw new IllegalArgumentException(fault.toString());
        });
  }

  /**
   * {@return what is wrong with a record}: done less than once, by somebody for themselves, or by
   * or for {@code anonymous} acting for another
   *
   * @param path of the record, for the fault's own
   */
  public static Optional<Fault> faultOf(
      String path, PrincipalKey principal, long count, @Nullable PrincipalKey actingFor) {
    if (count < 1) {
      return Optional.of(
          new Fault(path + ".count", "the count is " + count, "Write 1 or more, or leave it out"));
    }
    String acting = path + ".actingFor";
    if (principal.equals(actingFor)) {
      return Optional.of(
          new Fault(acting, "'" + principal + "' acts for themselves", "Leave it out"));
    }
    boolean nobody =
        principal.equals(PrincipalKey.ANONYMOUS) || PrincipalKey.ANONYMOUS.equals(actingFor);
    return actingFor != null && nobody
        ? Optional.of(new Fault(acting, "nobody acts for, or as, 'anonymous'", "Leave it out"))
        : Optional.empty();
  }

  /** {@return whose access was used}: of those acted for, else of who did it */
  public PrincipalKey whose() {
    return actingFor == null ? principal : actingFor;
  }
}
