package mandala.core.detect;

import java.time.Instant;
import java.util.Iterator;
import java.util.List;
import java.util.function.Function;
import mandala.core.engine.Engine;
import mandala.core.excess.Use;
import mandala.core.excess.UseWindow;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import org.jspecify.annotations.Nullable;

/**
 * What detectors are asked: a model, what was used, and what was before.
 *
 * @param then the model in force when the window began
 * @param use what was used within the window, and what is observed
 * @param moves who moved since, newest first; read to the end
 * @param past the models in force on a day, none where nothing is known
 */
public record Inquiry(
    Engine engine,
    Engine then,
    UseWindow window,
    Use use,
    Iterator<Move> moves,
    Function<Instant, List<Engine>> past) {

  /**
   * Somebody's home account, unit or title became another.
   *
   * @param was the person before
   * @param before the model before
   */
  public record Move(Principal was, Instant at, Catalogue before) {}

  /** {@return an inquiry without a past} */
  public static Inquiry of(Engine engine, UseWindow window, @Nullable Use use) {
    return new Inquiry(
        engine,
        engine,
        window,
        use == null ? Use.NONE.observing(mandala.core.excess.UseCoverage.NOTHING) : use,
        List.<Move>of().iterator(),
        _ -> List.of());
  }
}
