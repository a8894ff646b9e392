package mandala.core.model;

import java.time.Instant;
import java.util.List;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import org.jspecify.annotations.Nullable;

/** Separation of duties: nobody takes more than {@code atMost} of the sides (section 8). */
public record Exclusion(
    ExclusionKey key,
    About about,
    @Nullable AccountKey account,
    List<List<PermissionKey>> sides,
    int atMost,
    Where where,
    List<Exemption> exempt)
    implements Thing {

  /** Copies its lists. */
  public Exclusion {
    sides = sides.stream().map(List::copyOf).toList();
    exempt = List.copyOf(exempt);
  }

  /** Where the sides must meet. */
  public enum Where {
    RESOURCE,
    ACCOUNT,
    ANYWHERE
  }

  /** Who is spared, until when and why. */
  public record Exemption(
      PrincipalKey principal, @Nullable Instant until, @Nullable String reason) {}
}
