package mandala.core.model;

import java.util.Set;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.TypeKey;
import org.jspecify.annotations.Nullable;

/** A kind of resource. */
public record ResourceType(TypeKey key, About about, @Nullable AccountKey account)
    implements Thing {

  /** The type of {@code account:K}. */
  public static final TypeKey ACCOUNT = new TypeKey("account");

  /** The type of {@code unit:U}. */
  public static final TypeKey UNIT = new TypeKey("unit");

  /** The type of {@code group:G}. */
  public static final TypeKey GROUP = new TypeKey("group");

  /** The types that always exist and are never listed. */
  public static final Set<TypeKey> IMPLICIT = Set.of(ACCOUNT, UNIT, GROUP);
}
