package mandala.core.review;

import java.time.Instant;
import java.util.List;
import mandala.core.change.Removal;
import mandala.core.engine.Engine;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.shrink.Contents;
import org.jspecify.annotations.Nullable;

/**
 * Finds what of a model can be reviewed. Reads the assignments once; ask one about many. For one
 * thread.
 */
public final class ReviewItems {

  private final ItemIndex index;
  private final Contents contents;
  private final ItemRisks everywhere;

  private ReviewItems(Catalogue catalogue, Instant at) {
    index = new ItemIndex(catalogue, at);
    contents = new Contents(catalogue);
    everywhere = new ItemRisks(index, contents, null);
  }

  /** {@return what can be reviewed of a model at an instant}; what was over by then is left out */
  public static ReviewItems of(Engine engine, Instant at) {
    return new ReviewItems(engine.catalogue(), at);
  }

  Catalogue catalogue() {
    return index.catalogue;
  }

  /** {@return what a group has that its members get}, as a text that changes with it */
  String facts(GroupKey group) {
    return index.of(new Subject.OfGroup(group)) + " " + index.bridges(group);
  }

  /**
   * {@return what a principal has that could be removed}: memberships, pattern, assignments, reach
   * and guest memberships, in a stable order; none where there is no such principal
   */
  public List<ReviewItem> of(PrincipalKey key) {
    Principal who = index.catalogue.principals().get(key);
    return who == null ? List.of() : index.of(who, _ -> true);
  }

  /** {@return what is assigned to a subject}, by key; what is denied or over is left out */
  List<Assignment> assignedTo(Subject subject) {
    return index.of(subject);
  }

  /** {@return what is in a scope}, each item once, in a stable order: whose access it is first */
  public List<ReviewItem> in(ReviewScope scope) {
    return new ItemSearch(index, contents, scope).all();
  }

  /** {@return whether an item is no access by itself}: ownership, or being spared a rule */
  public static boolean givesNoPermission(ReviewItem it) {
    return it.removal() instanceof Removal.Disown || it.removal() instanceof Removal.EndExemption;
  }

  /**
   * {@return the highest risk of a permission that an item may give}, anywhere, whoever it is and
   * whatever else they have; null where it gives none
   */
  public Permission.@Nullable Risk risk(ReviewItem it) {
    return everywhere.of(it);
  }
}
