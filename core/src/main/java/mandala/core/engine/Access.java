package mandala.core.engine;

import java.util.List;
import java.util.Optional;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import org.jspecify.annotations.Nullable;

/**
 * The whole access of one session over all resources. Immutable; it keeps a few words for each
 * resource, so hold it only while it is read.
 */
public final class Access {

  final Snapshot it;
  final int words;
  private final @Nullable Verdict refusal;
  private final long[] allowed;
  private final long[] blocked;
  private final long[] denied;

  Access(Snapshot it, @Nullable Verdict refusal, long[] allowed, long[] blocked, long[] denied) {
    this.it = it;
    this.words = it.rights.mostWords;
    this.refusal = refusal;
    this.allowed = allowed;
    this.blocked = blocked;
    this.denied = denied;
  }

  /** {@return why there is no access at all}: inactive or no delegation */
  public Optional<Verdict> refusal() {
    return Optional.ofNullable(refusal);
  }

  /** {@return the model it was told of} */
  public Catalogue catalogue() {
    return it.catalogue;
  }

  /**
   * {@return the verdict on a permission and a resource}, as {@link Engine#decide} would give it
   *
   * @throws IllegalArgumentException if either is unknown
   */
  public Verdict verdict(Key.Permission permission, Key.Resource resource) {
    Integer p = it.rights.permissionId.get(permission);
    int at = it.places.find(resource);
    if (p == null || at < 0) {
      throw new IllegalArgumentException("Unknown: " + (p == null ? permission : resource));
    }
    if (refusal != null) {
      return refusal;
    }
    int bit = it.rights.bit[it.places.type[at]][p];
    if (bit < 0) {
      return Verdict.NOT_APPLICABLE;
    }
    for (Verdict verdict : List.of(Verdict.DENIED, Verdict.ALLOWED, Verdict.BLOCKED)) {
      if ((word(verdict, at, bit >> 6) & 1L << bit) != 0) {
        return verdict;
      }
    }
    return Verdict.NONE;
  }

  /** {@return one word of what has a verdict at a position} */
  long word(Verdict verdict, int at, int w) {
    return switch (verdict) {
      case ALLOWED -> allowed[at * words + w];
      case BLOCKED -> blocked[at * words + w];
      case DENIED -> denied[at * words + w];
      case ERROR, INACTIVE, NO_DELEGATION, NOT_APPLICABLE, NONE ->
          throw new IllegalArgumentException("No mask is kept of " + verdict);
    };
  }

  /** {@return the number of rights}: pairs of permission and resource that are allowed */
  public long rights() {
    long rights = 0;
    for (long word : allowed) {
      rights += Long.bitCount(word);
    }
    return rights;
  }
}
