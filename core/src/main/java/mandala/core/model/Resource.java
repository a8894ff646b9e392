package mandala.core.model;

import java.util.Collections;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** A listed thing to be protected; without a parent it hangs under its account. */
public record Resource(
    Key.Resource key,
    About about,
    Key.Type type,
    Key.Account account,
    Key.@Nullable Resource parent,
    Key.@Nullable Principal owner,
    Key.@Nullable Unit unit,
    Map<String, String> labels,
    boolean sealed)
    implements Thing {

  /** Copies and orders the labels by name. */
  public Resource {
    labels = Collections.unmodifiableMap(new TreeMap<>(labels));
  }
}
