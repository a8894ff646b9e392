package mandala.core.reconcile;

import java.util.List;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;

/** One way in which another system holds something else than the model says. */
public sealed interface Discrepancy {

  /** {@return what stays the same of it from one import to the next} */
  default String id() {
    return switch (this) {
      case Missing it -> "missing " + it.who() + " " + it.permission();
      case Extra it -> "extra " + it.who() + " " + it.permission();
      case Different it -> "different " + it.who() + " " + it.permission();
      case UnknownPerson it -> "unknown " + it.identity();
      case Orphaned it -> "orphaned " + it.identity();
    };
  }

  /** {@return whose it is}, null where nobody in the model */
  default @Nullable PrincipalKey who() {
    return null;
  }

  /** {@return of which permission it is}, null of an identity */
  default @Nullable PermissionKey permission() {
    return null;
  }

  /** {@return where only the model has it} */
  default List<ResourceKey> missing() {
    return List.of();
  }

  /** {@return where only the system has it} */
  default List<ResourceKey> extra() {
    return List.of();
  }

  /** {@return the identity that it is of}, null of a permission */
  default @Nullable String identity() {
    return null;
  }

  /** {@return how much it is}: places, or lines of the system */
  default int size() {
    return missing().size() + extra().size();
  }

  /**
   * The model allows it; the system does not hold it anywhere.
   *
   * @param places where it is allowed
   */
  record Missing(PrincipalKey who, PermissionKey permission, List<ResourceKey> places)
      implements Discrepancy {

    @Override
    public List<ResourceKey> missing() {
      return places;
    }
  }

  /**
   * The system holds it; the model allows it nowhere.
   *
   * @param places where it is held
   */
  record Extra(PrincipalKey who, PermissionKey permission, List<ResourceKey> places)
      implements Discrepancy {

    @Override
    public List<ResourceKey> extra() {
      return places;
    }
  }

  /**
   * Both have it, in different places.
   *
   * @param missing where only the model has it
   * @param extra where only the system has it
   */
  record Different(
      PrincipalKey who,
      PermissionKey permission,
      List<ResourceKey> missing,
      List<ResourceKey> extra)
      implements Discrepancy {}

  /** Nobody in the model has this identity. */
  record UnknownPerson(String identity, int lines) implements Discrepancy {

    @Override
    public int size() {
      return lines;
    }
  }

  /** Whoever has this identity left, is suspended, or is not active at that time. */
  record Orphaned(String identity, PrincipalKey who, int lines) implements Discrepancy {

    @Override
    public int size() {
      return lines;
    }
  }
}
