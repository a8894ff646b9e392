package mandala.server.model;

import java.util.HashMap;
import java.util.Map;
import mandala.core.model.Assignment;
import mandala.core.model.Thing;

/**
 * Things read from tables with what is equal shared: a million assignments name some thousand roles
 * and scopes. Not thread-safe.
 */
final class Shared {

  private final Map<Object, Object> known = new HashMap<>();

  Thing of(Thing thing) {
    return thing instanceof Assignment it
        ? new Assignment(
            it.key(),
            it.about(),
            same(it.subject()),
            same(it.gives()),
            it.effect(),
            same(it.scope()),
            same(it.viewScope()),
            same(it.window()),
            it.mode(),
            it.crossesSeals())
        : thing;
  }

  @SuppressWarnings("unchecked") // what is kept under a value equals it, and is of its type
  private <T> T same(T value) {
    return (T) known.computeIfAbsent(value, it -> it);
  }
}
