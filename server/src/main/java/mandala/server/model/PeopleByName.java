package mandala.server.model;

import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.core.table.Register;
import org.jspecify.annotations.Nullable;

/**
 * A model's principals in the order of their names, put in order when first asked for. Thread-safe.
 */
public final class PeopleByName {

  private final Register<PrincipalKey, Principal> principals;
  private volatile @Nullable List<Principal> ordered;

  PeopleByName(Register<PrincipalKey, Principal> principals) {
    this.principals = principals;
  }

  private record Named(String name, Principal principal) {}

  /** {@return all principals by name, whatever the case, then by key} */
  public List<Principal> all() {
    List<Principal> known = ordered;
    if (known == null) {
      known =
          principals.values().stream()
              .map(it -> new Named(it.about().nameOr(it.key()).toLowerCase(Locale.ROOT), it))
              .sorted(
                  Comparator.comparing(Named::name)
                      .thenComparing(it -> it.principal().key().value()))
              .map(Named::principal)
              .toList();
      ordered = known;
    }
    return known;
  }
}
