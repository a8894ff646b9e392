package mandala.document;

import java.util.ArrayList;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.model.Catalogue;

/**
 * Says in sentences what changes do, one after the other, each to the model that those before left.
 */
public final class ChangeTeller {

  private final Naming naming;
  private Catalogue now;

  /** Begins with a model. */
  public ChangeTeller(Catalogue before, Naming naming) {
    this.naming = naming;
    now = before;
  }

  /** {@return what some changes to the model so far do} */
  public List<String> sentences(List<Change> changes) {
    List<String> said = new ArrayList<>();
    for (Change change : changes) {
      Catalogue after = Draft.of(List.of(change)).appliedUnchecked(now);
      said.addAll(new ChangeText(now, after, naming).sentences(change));
      now = after;
    }
    return said;
  }
}
