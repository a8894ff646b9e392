package mandala.core.model;

import mandala.core.model.key.Key;
import org.jspecify.annotations.Nullable;

/** What people say of a thing; it never changes a verdict. */
public record About(@Nullable String name, @Nullable String description, @Nullable String note) {

  /** Nothing said. */
  public static final About NONE = new About(null, null, null);

  /** {@return a name without description or note} */
  public static About named(String name) {
    return new About(name, null, null);
  }

  /** {@return the name, or {@code key} where there is none} */
  public String nameOr(Key key) {
    return name == null ? key.value() : name;
  }
}
