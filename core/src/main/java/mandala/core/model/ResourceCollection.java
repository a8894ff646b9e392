package mandala.core.model;

import java.util.List;

/** A named list of resources of one account. */
public record ResourceCollection(
    Key.Collection key, About about, Key.Account account, List<Key.Resource> members)
    implements Thing {

  /** Copies its members. */
  public ResourceCollection {
    members = List.copyOf(members);
  }
}
