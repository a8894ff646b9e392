package mandala.server.catalog;

import java.util.Comparator;
import java.util.List;
import mandala.core.model.Catalogue;
import mandala.core.model.Pattern;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.PatternKey;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Problem;
import mandala.server.question.FigureView;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Patterns: what they give, and to whom. */
@RestController
@RequestMapping("/api/rights/patterns")
class PatternsController {

  /** How many people are listed. */
  private static final int MOST = 200;

  private final RequestContexts contexts;

  PatternsController(RequestContexts contexts) {
    this.contexts = contexts;
  }

  /**
   * A pattern.
   *
   * @param size how many people have it whom the viewer may read
   * @param people the first of those, by name
   * @param gives the assignments to everyone with it
   */
  record PatternPage(
      ThingView pattern, int size, List<PatternPerson> people, List<AssignmentView> gives) {}

  /** Somebody with a pattern. */
  record PatternPerson(String key, String name, String kind, boolean active) {}

  @GetMapping("/{key}")
  PatternPage pattern(
      @PathVariable String key, @RequestParam(required = false) @Nullable String draft) {
    RequestContext context = contexts.context(draft, null);
    Catalogue catalogue = context.asked().engine().catalogue();
    Pattern pattern = catalogue.patterns().get(new PatternKey(key));
    if (pattern == null || !context.readPolicy().mayRead(pattern, catalogue)) {
      throw Problem.notFound("There is no pattern '" + key + "'. Choose one from the list.");
    }
    Subject itself = new Subject.OfPattern(pattern.key());
    List<Principal> people =
        catalogue.principals().values().stream()
            .filter(it -> pattern.key().equals(it.pattern()))
            .filter(context.readPolicy()::mayRead)
            .toList();
    return new PatternPage(
        ThingView.of(pattern, context),
        people.size(),
        people.stream()
            .map(it ->
                new PatternPerson(
                    it.key().value(),
                    it.about().nameOr(it.key()),
                    FigureView.word(it.kind()),
                    context.asked().engine().isActive(it.key(), context.readPolicy().now())))
            .sorted(Comparator.comparing(PatternPerson::name))
            .limit(MOST)
            .toList(),
        RightsController.assignments(
            catalogue.assignments().values().stream()
                .filter(it -> it.subject().equals(itself))
                .toList(),
            context));
  }
}
