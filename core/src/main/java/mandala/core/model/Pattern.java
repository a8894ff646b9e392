package mandala.core.model;

import java.util.List;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PrincipalKey;
import org.jspecify.annotations.Nullable;

/**
 * A named starting point that people of one job share; assignments name it as subject.
 *
 * @param owners who answers for it (section 10)
 */
public record Pattern(
    PatternKey key, About about, @Nullable AccountKey account, List<PrincipalKey> owners)
    implements Thing {

  /** Copies its owners. */
  public Pattern {
    owners = List.copyOf(owners);
  }
}
