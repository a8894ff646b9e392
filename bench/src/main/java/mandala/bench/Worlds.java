package mandala.bench;

import java.util.EnumMap;
import java.util.Map;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;

/** Worlds made so far in this run: making one takes longer than most measurements. */
final class Worlds {

  private static final Map<Size, World> MADE = new EnumMap<>(Size.class);

  private Worlds() {}

  static synchronized World of(Size size) {
    return MADE.computeIfAbsent(
        size,
        it -> {
          AccessModel model = Settlement.of(it, World.SEED);
          return new World(model, Engine.of(model));
        });
  }
}
