package mandala.core.model;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Separation of duties: nobody takes more than {@code atMost} of the sides (section 8). */
public record Exclusion(
    Key.Exclusion key,
    About about,
    Key.@Nullable Account account,
    List<List<Key.Permission>> sides,
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
      Key.Principal principal, @Nullable Instant until, @Nullable String reason) {}
}
