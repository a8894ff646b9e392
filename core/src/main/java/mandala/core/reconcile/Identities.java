package mandala.core.reconcile;

import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import org.jspecify.annotations.Nullable;

/**
 * Who another system means: whom its terms list under an identity, else whoever has it as their
 * e-mail address, else as their key.
 */
public final class Identities {

  private final Catalogue catalogue;
  private final Terms terms;
  private final Map<String, PrincipalKey> byEmail = new HashMap<>();

  /** Those of a system. */
  public Identities(Catalogue catalogue, Terms terms) {
    this.catalogue = catalogue;
    this.terms = terms;
    for (Principal it : catalogue.principals().values()) {
      if (it.email() != null) {
        byEmail.put(it.email().toLowerCase(Locale.ROOT), it.key());
      }
    }
  }

  /** {@return who has an identity}, null where nobody in the model does */
  public @Nullable PrincipalKey of(String identity) {
    PrincipalKey listed = terms.people().get(identity);
    if (listed == null) {
      listed = byEmail.get(identity.toLowerCase(Locale.ROOT));
    }
    PrincipalKey key = listed != null || identity.isBlank() ? listed : new PrincipalKey(identity);
    return key != null && catalogue.principals().containsKey(key) ? key : null;
  }
}
