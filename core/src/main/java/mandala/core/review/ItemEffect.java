package mandala.core.review;

import java.util.Optional;
import mandala.core.model.Permission;
import mandala.core.model.key.PrincipalKey;
import mandala.core.present.Access;
import mandala.core.question.Extent;
import org.jspecify.annotations.Nullable;

/**
 * What the removal of an item does to whoever has it. Just-in-time access that the item gives
 * counts as if it were activated.
 *
 * @param whose whose access it is; for a delegation the delegate, acting for the other
 * @param held all that they have
 * @param left all that they have without the item
 * @param taken what is in the one and not in the other: what the item gives beyond all else
 * @param activated whether some of it must be activated first
 */
public record ItemEffect(
    PrincipalKey whose, Access held, Access left, Access taken, boolean activated) {

  /** {@return the number of rights that removing it takes} */
  public long takes() {
    return taken.rights();
  }

  /** {@return the number of rights that removing it gives}: what it denies or blocks */
  public long gives() {
    return left.beyond(held).rights();
  }

  /** {@return what the rights that it takes weigh} (section 12) */
  public long exposure() {
    return taken.exposure(Extent.WHOLE);
  }

  /** {@return the highest risk of a right that it takes}, empty where it takes none */
  public Optional<Permission.Risk> risk() {
    return taken.permissions().stream()
        .map(it -> taken.catalogue().permissions().get(it))
        .map(it -> it == null ? Permission.Risk.LOW : it.risk())
        .max(Permission.Risk::compareTo);
  }

  /** {@return how many of the rights that it takes another access has, too} */
  public long takenOf(@Nullable Access other) {
    return other == null ? 0 : takes() - taken.beyond(other).rights();
  }
}
