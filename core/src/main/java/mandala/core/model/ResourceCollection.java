package mandala.core.model;

import java.util.List;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.ResourceKey;

/** A named list of resources of one account. */
public record ResourceCollection(
    CollectionKey key, About about, AccountKey account, List<ResourceKey> members)
    implements Thing {

  /** Copies its members. */
  public ResourceCollection {
    members = List.copyOf(members);
  }
}
