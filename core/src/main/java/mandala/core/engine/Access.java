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
    return bit(at, bit);
  }

  /** {@return the verdict on a bit of a position's type}, where the session is not refused */
  Verdict bit(int at, int bit) {
    int word = at * words + (bit >> 6);
    long mask = 1L << bit;
    if ((denied[word] & mask) != 0) {
      return Verdict.DENIED;
    }
    if ((allowed[word] & mask) != 0) {
      return Verdict.ALLOWED;
    }
    return (blocked[word] & mask) != 0 ? Verdict.BLOCKED : Verdict.NONE;
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
    return count(0, it.places.count);
  }

  /** {@return the number of rights in an outlook}, doors included where it has them */
  public long rights(Outlook outlook) {
    Spans.Builder told = new Spans.Builder();
    if (outlook.in() == null || outlook.doors()) {
      told.add(0, it.places.count, Spans.NO_FLOOR);
    } else {
      int top = it.places.accountAt[Areas.account(it, outlook.in())];
      told.add(top, it.places.end[top], Spans.NO_FLOOR);
    }
    Spans where = Areas.within(it, told.build(), Areas.only(it, outlook));
    long rights = 0;
    for (int i = 0; i < where.size(); i++) {
      rights += count(where.start[i], where.end[i]);
    }
    return rights;
  }

  private long count(int from, int to) {
    long rights = 0;
    for (int i = from * words; i < to * words; i++) {
      rights += Long.bitCount(allowed[i]);
    }
    return rights;
  }

  /**
   * {@return the facts of the mandala}
   *
   * @throws IllegalArgumentException if the outlook names an unknown account
   */
  public Figure figure(Outlook outlook) {
    return Figures.of(this, outlook);
  }

  /**
   * {@return the tree folded into regions of equal rights}, in the order of the tree
   *
   * @throws IllegalArgumentException if the outlook names an unknown account
   */
  public List<Region> regions(Outlook outlook) {
    return Regions.of(this, outlook);
  }
}
