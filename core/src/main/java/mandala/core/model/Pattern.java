package mandala.core.model;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A named starting point that people of one job share; assignments name it as subject.
 *
 * @param owners who answers for it (section 10)
 */
public record Pattern(
    Key.Pattern key, About about, Key.@Nullable Account account, List<Key.Principal> owners)
    implements Thing {

  /** Copies its owners. */
  public Pattern {
    owners = List.copyOf(owners);
  }
}
