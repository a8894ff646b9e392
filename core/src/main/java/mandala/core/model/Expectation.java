package mandala.core.model;

import java.util.List;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.PermissionKey;
import org.jspecify.annotations.Nullable;

/** A statement about access that must stay true (section 9). */
public record Expectation(
    ExpectationKey key,
    About about,
    @Nullable AccountKey account,
    Form form,
    List<Subject> subjects,
    List<PermissionKey> permissions,
    List<Clause> scope,
    @Nullable Integer min,
    @Nullable Integer max)
    implements Thing {

  /** Copies its lists. */
  public Expectation {
    subjects = List.copyOf(subjects);
    permissions = List.copyOf(permissions);
    scope = List.copyOf(scope);
  }

  /** What the statement says of its subjects. */
  public enum Form {
    CAN,
    CANNOT,
    ONLY,
    COUNT
  }
}
