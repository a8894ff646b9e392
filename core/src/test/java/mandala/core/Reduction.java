package mandala.core;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;
import mandala.core.model.AccessModel;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.core.model.check.ModelCheck;

/** Drops things from a model, last kinds first, while it stays valid and still fails. */
final class Reduction {

  private Reduction() {}

  static AccessModel of(AccessModel model, Predicate<AccessModel> fails) {
    AccessModel smallest = model;
    boolean smaller = true;
    while (smaller) {
      smaller = false;
      List<Thing> things = new ArrayList<>();
      for (Kind kind : Kind.values()) {
        things.addAll(smallest.things(kind));
      }
      for (Thing thing : things.reversed()) {
        AccessModel without = without(smallest, thing);
        if (ModelCheck.faultsOf(without).isEmpty() && stillFails(without, fails)) {
          smallest = without;
          smaller = true;
        }
      }
    }
    return smallest;
  }

  private static boolean stillFails(AccessModel model, Predicate<AccessModel> fails) {
    try {
      return fails.test(model);
    } catch (IllegalArgumentException _) {
      return false;
    }
  }

  @SuppressWarnings("ReferenceEquality") // this very thing, not an equal one
  private static AccessModel without(AccessModel model, Thing dropped) {
    AccessModel.Builder rest = AccessModel.builder();
    for (Kind kind : Kind.values()) {
      model.things(kind).stream().filter(thing -> thing != dropped).forEach(rest::add);
    }
    return rest.build();
  }
}
