package mandala.core.model;

import java.util.Collections;
import java.util.Map;
import java.util.TreeMap;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.TypeKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;

/** A listed thing to be protected; without a parent it hangs under its account. */
public record Resource(
    ResourceKey key,
    About about,
    TypeKey type,
    AccountKey account,
    @Nullable ResourceKey parent,
    @Nullable PrincipalKey owner,
    @Nullable UnitKey unit,
    Map<String, String> labels,
    boolean sealed)
    implements Thing {

  /** Copies and orders the labels by name. */
  public Resource {
    labels = Collections.unmodifiableMap(new TreeMap<>(labels));
  }
}
