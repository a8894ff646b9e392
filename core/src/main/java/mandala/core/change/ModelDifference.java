package mandala.core.change;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mandala.core.model.AccessModel;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.core.model.key.Key;

/** What makes one model of another. */
public final class ModelDifference {

  private ModelDifference() {}

  /**
   * {@return the changes that make one model of another}, each thing at most once, by kind and key;
   * of equal things without keys one at most. Linear in the size of both.
   */
  public static List<Change> between(AccessModel before, AccessModel after) {
    List<Change> changes = new ArrayList<>();
    for (Kind kind : Kind.values()) {
      Map<Object, Thing> old = byIdentity(before.things(kind));
      Map<Object, Thing> now = byIdentity(after.things(kind));
      now.forEach((id, thing) -> {
        Thing was = old.get(id);
        if (was == null) {
          changes.add(new Change.Added(thing));
        } else if (!was.equals(thing)) {
          changes.add(new Change.Altered(was, thing));
        }
      });
      old.forEach((id, thing) -> {
        if (!now.containsKey(id)) {
          changes.add(new Change.Removed(thing));
        }
      });
    }
    return changes;
  }

  private static Map<Object, Thing> byIdentity(List<? extends Thing> things) {
    Map<Object, Thing> byIdentity = new LinkedHashMap<>();
    for (Thing thing : things) {
      Key key = thing.key();
      byIdentity.put(key == null ? thing : key, thing);
    }
    return byIdentity;
  }
}
