package mandala.core.model.check;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;

/**
 * The one check of a whole model. It reports every problem and throws on none, whatever the model;
 * a model without faults can be evaluated. Linear in the size of the model.
 */
public final class ModelCheck {

  private ModelCheck() {}

  /** {@return all faults}, by kind of rule (keys, references and values, cycles), then by place */
  public static List<Fault> faultsOf(AccessModel model) {
    return faultsOf(model, new Catalogue(model));
  }

  /**
   * {@return the faults of some things among all that are known}, in the same order; things that
   * point at these are not looked at
   *
   * @param known holds these things and all others
   */
  public static List<Fault> faultsOf(AccessModel model, Catalogue known) {
    Faults faults = new Faults();
    new KeyCheck(model, faults).run();
    new DirectoryCheck(model, known, faults).run();
    new RightsCheck(model, known, faults).run();
    new GrantCheck(model, known, faults).run();
    new StatementCheck(model, known, faults).run();
    new CycleCheck(model, known, faults).run();
    Set<Fault> distinct = new LinkedHashSet<>(faults.found());
    return List.copyOf(new ArrayList<>(distinct));
  }
}
