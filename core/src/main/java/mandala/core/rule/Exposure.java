package mandala.core.rule;

import mandala.core.model.Permission;

/** How much a right weighs by the risk of its permission (section 12). */
public final class Exposure {

  private Exposure() {}

  /** {@return what one right of a permission of a risk adds} */
  public static int of(Permission.Risk risk) {
    return switch (risk) {
      case LOW -> 1;
      case MODERATE -> 3;
      case HIGH -> 10;
      case CRITICAL -> 30;
    };
  }
}
