package mandala.server.model;

import java.util.List;
import java.util.stream.Stream;
import mandala.core.change.Change;
import mandala.core.model.Activation;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.core.model.key.Key;

/**
 * One thing that a revision touched: its kind and key. Guest memberships and activations have no
 * key and are known by their principal, all of one at once.
 */
record Touch(Kind kind, String key) {

  static List<Touch> by(List<Change> changes) {
    return changes.stream()
        .flatMap(change ->
            switch (change) {
              case Change.Added(Thing thing) -> Stream.of(thing);
              case Change.Removed(Thing thing) -> Stream.of(thing);
              case Change.Altered(Thing before, Thing after) -> Stream.of(before, after);
            })
        .map(Touch::of)
        .distinct()
        .toList();
  }

  private static Touch of(Thing thing) {
    Kind kind = Kind.of(thing);
    Key key = thing.key();
    return new Touch(
        kind,
        switch (thing) {
          case Guest it -> it.principal().value();
          case Activation it -> it.principal().value();
          default -> {
            if (key == null) {
              throw new IllegalStateException("Impossible state: a keyless " + thing);
            }
            yield key.value();
          }
        });
  }
}
