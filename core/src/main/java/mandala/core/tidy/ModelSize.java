package mandala.core.tidy;

import mandala.core.change.Change;
import mandala.core.model.AccessModel;
import mandala.core.model.Group;
import mandala.core.model.PermissionSet;
import mandala.core.model.Role;
import mandala.core.model.Thing;

/**
 * How many statements a model has, one each (section 12). What is supplied does not count, nor do
 * clauses, guests and collections.
 *
 * @param assignments all of them
 * @param members of groups, listed
 * @param sets of roles
 * @param inherits of roles
 * @param allows of sets
 * @param denies of sets
 * @param includes of sets
 */
public record ModelSize(
    int assignments, int members, int sets, int inherits, int allows, int denies, int includes) {

  /** {@return the size of a model} */
  public static ModelSize of(AccessModel model) {
    int members = 0;
    for (Group it : model.groups()) {
      members += it.members().size();
    }
    int sets = 0;
    int inherits = 0;
    for (Role it : model.roles()) {
      sets += it.sets().size();
      inherits += it.inherits().size();
    }
    int allows = 0;
    int denies = 0;
    int includes = 0;
    for (PermissionSet it : model.permissionSets()) {
      allows += it.allow().size();
      denies += it.deny().size();
      includes += it.includes().size();
    }
    return new ModelSize(
        model.assignments().size(), members, sets, inherits, allows, denies, includes);
  }

  /** {@return all of them together} */
  public int total() {
    return assignments + members + sets + inherits + allows + denies + includes;
  }

  /** {@return how many fewer statements there are after a change}, less than 0 for more */
  public static int fewer(Change change) {
    return switch (change) {
      case Change.Added(Thing it) -> -statements(it);
      case Change.Altered(Thing before, Thing after) -> statements(before) - statements(after);
      case Change.Removed(Thing it) -> statements(it);
    };
  }

  private static int statements(Thing thing) {
    return of(AccessModel.builder().add(thing).build()).total();
  }
}
