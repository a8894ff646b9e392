package mandala.server.use;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.core.excess.Use;
import mandala.core.excess.UseRecord;
import mandala.core.model.Catalogue;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.server.authorization.ReadPolicy;
import org.jspecify.annotations.Nullable;

/**
 * Which names of use records are known: by the model, to a source, and to whoever sends or sees
 * them. For one thread.
 */
final class KnownNames {

  private final Catalogue catalogue;
  private final @Nullable ReadPolicy policy;
  private final @Nullable AccountKey account;
  private final Map<Key, Boolean> told = new HashMap<>();

  /**
   * Looks into a model.
   *
   * @param account whose places the source may report, with those of the accounts below it; null
   *     for all
   * @param policy what the viewer may read, null for everything
   */
  KnownNames(Catalogue catalogue, @Nullable AccountKey account, @Nullable ReadPolicy policy) {
    this.catalogue = catalogue;
    this.policy = policy;
    this.account = account;
  }

  /** {@return whether the model has all that a record names}, in places of the source */
  boolean knows(UseRecord it) {
    return !Use.isStranger(it, catalogue) && covers(it.resource());
  }

  /** {@return whether a source may report use of a resource} */
  boolean covers(ResourceKey resource) {
    AccountKey its = catalogue.has(resource) ? catalogue.accountOf(resource) : null;
    return its != null && (account == null || catalogue.isAtOrBelow(its, account));
  }

  /** {@return the fields of a record whose names the viewer may not know}, or nobody does */
  List<String> missing(UseRecord it) {
    List<String> missing = new ArrayList<>();
    if (!tells(it.principal())) {
      missing.add("principal");
    }
    if (!tells(it.whose()) && it.actingFor() != null) {
      missing.add("actingFor");
    }
    if (!told.computeIfAbsent(it.permission(), _ -> tellsPermission(it))) {
      missing.add("permission");
    }
    if (!told.computeIfAbsent(it.resource(), _ -> tellsPlace(it.resource()))) {
      missing.add("resource");
    }
    return missing;
  }

  /** {@return whether the viewer may know that a record names only what is there} */
  boolean tells(UseRecord it) {
    return missing(it).isEmpty();
  }

  private boolean tells(PrincipalKey key) {
    Principal principal = catalogue.principals().get(key);
    return principal == null
        ? key.equals(PrincipalKey.ANONYMOUS)
        : policy == null || told.computeIfAbsent(key, _ -> policy.mayRead(principal));
  }

  private boolean tellsPermission(UseRecord it) {
    Permission permission = catalogue.permissions().get(it.permission());
    return permission != null && (policy == null || policy.mayRead(permission, catalogue));
  }

  private boolean tellsPlace(ResourceKey place) {
    AccountKey its = covers(place) ? catalogue.accountOf(place) : null;
    return its != null && (policy == null || policy.mayRead(its));
  }
}
