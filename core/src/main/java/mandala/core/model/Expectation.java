package mandala.core.model;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** A statement about access that must stay true (section 9). */
public record Expectation(
    Key.Expectation key,
    About about,
    Key.@Nullable Account account,
    Form form,
    List<Subject> subjects,
    List<Key.Permission> permissions,
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
