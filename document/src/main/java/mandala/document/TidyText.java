package mandala.document;

import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.RoleKey;
import mandala.core.tidy.TidyStep;
import org.jspecify.annotations.Nullable;

/** Says why something can go without changing anything (section 12, a tidier model). */
public final class TidyText {

  private final ChangeText text;

  /**
   * Text with the names of two models.
   *
   * @param after the tidier one, which has the roles and groups that were made for it
   */
  public TidyText(Catalogue before, Catalogue after, Naming naming) {
    text = new ChangeText(before, after, naming);
  }

  /** {@return why a step changes nothing}, in words that follow a colon */
  public String why(TidyStep.Why why) {
    return switch (why) {
      case TidyStep.Why.LeftTheSame _ -> "the rest already includes it";
      case TidyStep.Why.Covered(@Nullable AssignmentKey by) ->
          by == null
              ? "it has ended"
              : "“"
                  + text.name(Kind.ASSIGNMENTS, by.value())
                  + "” gives as much, wherever and whenever this does";
      case TidyStep.Why.TakesNothing _ -> "it denies nothing that anyone would otherwise have";
      case TidyStep.Why.Role(RoleKey role, int times, int things) ->
          "role “"
              + text.name(Kind.ROLES, role.value())
              + "” replaces "
              + things
              + " assignments each for "
              + times
              + " subjects";
      case TidyStep.Why.Group(GroupKey group, int people, int things) ->
          "group “"
              + text.name(Kind.GROUPS, group.value())
              + "” replaces "
              + (things == 1 ? "an assignment" : things + " assignments")
              + " for each of its "
              + people
              + " members";
      case TidyStep.Why.Twin(RoleKey kept) ->
          "role “" + text.name(Kind.ROLES, kept.value()) + "” gives exactly the same";
    };
  }
}
