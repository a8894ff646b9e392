package mandala.core.model;

import java.util.Collections;
import java.util.Map;
import java.util.TreeMap;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.TypeKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;

/** One condition of a clause (section 4). */
public sealed interface Term {

  /** Every resource. */
  record Everything() implements Term {}

  /** Resources of that account only. */
  record InAccount(AccountKey account) implements Term {}

  /** Resources of the principal's home account only. */
  record OwnAccount() implements Term {}

  /** A resource and all below it. */
  record Tree(ResourceKey resource) implements Term {}

  /** A resource alone. */
  record Only(ResourceKey resource) implements Term {}

  /** Each member of a collection and all below it. */
  record InCollection(CollectionKey collection) implements Term {}

  /** Resources of a type. */
  record OfType(TypeKey type) implements Term {}

  /** Resources whose effective unit is that unit or below it. */
  record InUnit(UnitKey unit) implements Term {}

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

  /**
   * {@return the key of the one thing that it names}: an account, a resource, a collection, a type
   * or a unit; null where it names none
   */
  default @Nullable Key named() {
    return switch (this) {
      case InAccount(AccountKey key) -> key;
      case Tree(ResourceKey key) -> key;
      case Only(ResourceKey key) -> key;
      case InCollection(CollectionKey key) -> key;
      case OfType(TypeKey key) -> key;
      case InUnit(UnitKey key) -> key;
      case Everything _, OwnAccount _, OwnUnit _, OwnedBy _, Labelled _ -> null;
    };
  }

  /** {@return its place in the one order in which documents write the terms of a clause} */
  default int order() {
    return switch (this) {
      case Everything _ -> 0;
      case InAccount _, OwnAccount _ -> 1;
      case Tree _ -> 2;
      case Only _ -> 3;
      case InCollection _ -> 4;
      case OfType _ -> 5;
      case InUnit _, OwnUnit _ -> 6;
      case OwnedBy _ -> 7;
      case Labelled _ -> 8;
    };
  }
}
