package mandala.server.reconcile;

import java.util.List;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.reconcile.Discrepancy;
import org.jspecify.annotations.Nullable;

/**
 * A discrepancy as it is kept.
 *
 * @param first number of the comparison that found it
 * @param gone number of the first that did not find it any more, null while it stands
 * @param held what the system holds of it, in its terms
 */
record KeptDiscrepancy(Discrepancy it, int first, @Nullable Integer gone, List<String> held) {

  /** Copies its list. */
  KeptDiscrepancy {
    held = List.copyOf(held);
  }

  /** {@return whether it stood at a comparison} */
  boolean stoodAt(int number) {
    return first <= number && (gone == null || gone > number);
  }

  /** {@return whose it is}, null where nobody in the model */
  static @Nullable PrincipalKey who(Discrepancy discrepancy) {
    return switch (discrepancy) {
      case Discrepancy.Missing it -> it.who();
      case Discrepancy.Extra it -> it.who();
      case Discrepancy.Different it -> it.who();
      case Discrepancy.Orphaned it -> it.who();
      case Discrepancy.UnknownPerson _ -> null;
    };
  }

  /** {@return of which permission it is}, null of an identity */
  static @Nullable PermissionKey permission(Discrepancy discrepancy) {
    return switch (discrepancy) {
      case Discrepancy.Missing it -> it.permission();
      case Discrepancy.Extra it -> it.permission();
      case Discrepancy.Different it -> it.permission();
      case Discrepancy.Orphaned _, Discrepancy.UnknownPerson _ -> null;
    };
  }

  /** {@return where only the model has it} */
  static List<ResourceKey> missing(Discrepancy discrepancy) {
    return switch (discrepancy) {
      case Discrepancy.Missing it -> it.places();
      case Discrepancy.Different it -> it.missing();
      default -> List.of();
    };
  }

  /** {@return where only the system has it} */
  static List<ResourceKey> extra(Discrepancy discrepancy) {
    return switch (discrepancy) {
      case Discrepancy.Extra it -> it.places();
      case Discrepancy.Different it -> it.extra();
      default -> List.of();
    };
  }

  /** {@return the identity that it is of}, null of a permission */
  static @Nullable String identity(Discrepancy discrepancy) {
    return switch (discrepancy) {
      case Discrepancy.Orphaned it -> it.identity();
      case Discrepancy.UnknownPerson it -> it.identity();
      default -> null;
    };
  }

  /** {@return how much it is}: places, or lines of the system */
  static int size(Discrepancy discrepancy) {
    return switch (discrepancy) {
      case Discrepancy.Orphaned it -> it.lines();
      case Discrepancy.UnknownPerson it -> it.lines();
      default -> missing(discrepancy).size() + extra(discrepancy).size();
    };
  }
}
