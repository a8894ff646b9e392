package mandala.core.model;

import mandala.core.model.key.Key;
import org.jspecify.annotations.Nullable;

/** Anything a model lists. */
public sealed interface Thing
    permits Account,
        Activation,
        Assignment,
        Bridge,
        Delegation,
        Exclusion,
        Expectation,
        Group,
        Guest,
        Pattern,
        Permission,
        PermissionSet,
        Principal,
        Resource,
        ResourceCollection,
        ResourceType,
        Role,
        Unit {

  /** {@return what people say of it} */
  About about();

  /** {@return its key}, null for guests and activations, which have none */
  default @Nullable Key key() {
    return null;
  }
}
