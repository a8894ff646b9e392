package mandala.core.model;

import java.util.Collections;
import java.util.Map;
import java.util.TreeMap;

/** One condition of a clause (section 4). */
public sealed interface Term {

  /** Every resource. */
  record Everything() implements Term {}

  /** Resources of that account only. */
  record InAccount(Key.Account account) implements Term {}

  /** Resources of the principal's home account only. */
  record OwnAccount() implements Term {}

  /** A resource and all below it. */
  record Tree(Key.Resource resource) implements Term {}

  /** A resource alone. */
  record Only(Key.Resource resource) implements Term {}

  /** Each member of a collection and all below it. */
  record InCollection(Key.Collection collection) implements Term {}

  /** Resources of a type. */
  record OfType(Key.Type type) implements Term {}

  /** Resources whose effective unit is that unit or below it. */
  record InUnit(Key.Unit unit) implements Term {}

  /** The principal's unit and reach, and below. */
  record OwnUnit() implements Term {}

  /** Resources by their owner. */
  record OwnedBy(Owner owner) implements Term {}

  /** All these effective labels have these values. */
  record Labelled(Map<String, String> labels) implements Term {
    /** Copies and orders the labels by name. */
    public Labelled {
      labels = Collections.unmodifiableMap(new TreeMap<>(labels));
    }
  }

  /** Whose resources: the principal's, those of whoever reports to it, or nobody's. */
  enum Owner {
    SELF,
    TEAM,
    NONE
  }

  /** {@return whether what it covers depends on the principal} */
  default boolean relative() {
    return switch (this) {
      case OwnAccount _, OwnUnit _ -> true;
      case OwnedBy(Owner owner) -> owner != Owner.NONE;
      case Everything _, InAccount _, Tree _, Only _, InCollection _, OfType _, InUnit _ -> false;
      case Labelled _ -> false;
    };
  }
}
