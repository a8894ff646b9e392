package mandala.core.model;

import java.util.List;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.TypeKey;
import org.jspecify.annotations.Nullable;

/** One action on some resource types. */
public record Permission(
    PermissionKey key,
    About about,
    @Nullable AccountKey account,
    List<TypeKey> on,
    AccessClass accessClass,
    Risk risk,
    List<PermissionKey> implies,
    List<PermissionKey> requires,
    @Nullable Boolean delegable)
    implements Thing {

  /** Copies its lists. */
  public Permission {
    on = List.copyOf(on);
    implies = List.copyOf(implies);
    requires = List.copyOf(requires);
  }

  /** What kind of doing a permission is. */
  public enum AccessClass {
    VIEW,
    CHANGE,
    ADMINISTER
  }

  /** How much harm a permission can do. */
  public enum Risk {
    LOW,
    MODERATE,
    HIGH,
    CRITICAL
  }

  /**
   * {@return whether a delegation may pass it on}: what the document writes; where it is silent, no
   * for class administer and for risk high or critical, else yes (section 1)
   */
  public boolean mayBeDelegated() {
    return delegable != null
        ? delegable
        : accessClass != AccessClass.ADMINISTER && risk.compareTo(Risk.HIGH) < 0;
  }
}
