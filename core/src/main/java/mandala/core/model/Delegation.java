package mandala.core.model;

import java.util.List;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.PrincipalKey;

/** Lets one principal (the delegate) act for another. */
public record Delegation(
    DelegationKey key,
    About about,
    PrincipalKey principal,
    PrincipalKey delegate,
    Limit limit,
    List<Clause> scope,
    Window window)
    implements Thing {

  /** Copies its scope. */
  public Delegation {
    scope = List.copyOf(scope);
  }

  /** What a delegation lets through; it only filters. */
  public sealed interface Limit {

    /** The word {@code "all"}. */
    record All() implements Limit {}

    /** What these give. */
    record Listed(List<Gives> gives) implements Limit {
      /** Copies its list. */
      public Listed {
        gives = List.copyOf(gives);
      }
    }
  }
}
