package mandala.core.explain;

import java.util.List;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Question;

/**
 * Explains verdicts. Which assignments may bear on a question the engine tells; what they come to
 * is read from the model directly, apart from the engine's snapshot, so that the two are held
 * together by tests and not by shared code. Thread-safe.
 */
public final class Routes {

  private final RouteIndex index;

  private Routes(RouteIndex index) {
    this.index = index;
  }

  /** {@return routes over an engine's model} */
  public static Routes of(Engine engine) {
    return new Routes(new RouteIndex(engine));
  }

  /**
   * {@return the routes of a question}; it is allowed exactly where some route is live
   *
   * @throws IllegalArgumentException if something in it is unknown, or the permission does not
   *     apply
   */
  public Explanation explain(Question question) {
    Catalogue catalogue = index.catalogue();
    if (!catalogue.permissions().containsKey(question.permission())) {
      throw new IllegalArgumentException("There is no permission '" + question.permission() + "'");
    }
    if (!catalogue.has(question.resource())) {
      throw new IllegalArgumentException("There is no resource '" + question.resource() + "'");
    }
    for (PrincipalKey who :
        question.actingFor() == null
            ? List.of(question.principal())
            : List.of(question.principal(), question.actingFor())) {
      boolean known =
          catalogue.principals().containsKey(who)
              || (who.equals(PrincipalKey.ANONYMOUS) && question.actingFor() == null);
      if (!known || question.principal().equals(question.actingFor())) {
        throw new IllegalArgumentException("There is no principal '" + who + "' to ask so");
      }
    }
    return new RouteFinder(index, question).explain();
  }
}
