package mandala.core.tidy;

import java.util.ArrayList;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Role;
import mandala.core.model.key.RoleKey;

/** Lets one role stand wherever another does, which then goes. */
public final class TwinRoles {

  private final Gives was;
  private final Gives is;
  private final Role gone;
  private final Role kept;

  private TwinRoles(Role gone, Role kept) {
    this.gone = gone;
    this.kept = kept;
    was = new Gives.OfRole(gone.key());
    is = new Gives.OfRole(kept.key());
  }

  /** {@return what it takes for one role to go and another to take its place everywhere} */
  public static List<Change> renamed(Catalogue catalogue, Role gone, Role kept) {
    TwinRoles twins = new TwinRoles(gone, kept);
    AccessModel model = catalogue.model();
    List<Change> changes = new ArrayList<>();
    for (Assignment it : model.assignments()) {
      if (it.gives().equals(twins.was)) {
        changes.add(new Change.Altered(it, Rewritten.gives(it, twins.is)));
      }
    }
    for (Bridge it : model.bridges()) {
      if (it.gives().equals(twins.was)) {
        changes.add(new Change.Altered(it, Rewritten.gives(it, twins.is)));
      }
    }
    for (Delegation it : model.delegations()) {
      if (it.limit() instanceof Delegation.Limit.Listed(List<Gives> gives)
          && gives.contains(twins.was)) {
        changes.add(new Change.Altered(it, twins.renamed(it, gives)));
      }
    }
    for (Role it : model.roles()) {
      boolean names = it.inherits().contains(gone.key()) || gone.key().equals(it.basedOn());
      if (names && !it.key().equals(gone.key())) {
        changes.add(new Change.Altered(it, twins.renamed(it)));
      }
    }
    changes.add(new Change.Removed(gone));
    return changes;
  }

  private Delegation renamed(Delegation it, List<Gives> gives) {
    List<Gives> renamed = new ArrayList<>();
    for (Gives each : gives) {
      Gives named = each.equals(was) ? is : each;
      if (!renamed.contains(named)) {
        renamed.add(named);
      }
    }
    return new Delegation(
        it.key(),
        it.about(),
        it.principal(),
        it.delegate(),
        new Delegation.Limit.Listed(renamed),
        it.scope(),
        it.window());
  }

  private Role renamed(Role it) {
    List<RoleKey> inherits = new ArrayList<>();
    for (RoleKey each : it.inherits()) {
      RoleKey named = each.equals(gone.key()) ? kept.key() : each;
      if (!inherits.contains(named)) {
        inherits.add(named);
      }
    }
    RoleKey basedOn = it.basedOn();
    boolean itself = gone.key().equals(basedOn) && kept.key().equals(it.key());
    RoleKey after = itself ? null : gone.key().equals(basedOn) ? kept.key() : basedOn;
    return Rewritten.after(it, after, inherits);
  }
}
