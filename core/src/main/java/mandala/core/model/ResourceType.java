package mandala.core.model;

import java.util.Set;
import org.jspecify.annotations.Nullable;

/** A kind of resource. */
public record ResourceType(Key.Type key, About about, Key.@Nullable Account account)
    implements Thing {

  /** The type of {@code account:K}. */
  public static final Key.Type ACCOUNT = new Key.Type("account");

  /** The type of {@code unit:U}. */
  public static final Key.Type UNIT = new Key.Type("unit");

  /** The type of {@code group:G}. */
  public static final Key.Type GROUP = new Key.Type("group");

  /** The types that always exist and are never listed. */
  public static final Set<Key.Type> IMPLICIT = Set.of(ACCOUNT, UNIT, GROUP);
}
