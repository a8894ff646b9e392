package mandala.server.draft;

import java.util.List;
import java.util.Set;
import mandala.core.engine.Engine;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.present.Access;
import mandala.core.question.Difference;
import mandala.core.question.Extent;
import mandala.core.question.Session;
import mandala.document.Naming;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Problem;
import mandala.server.question.DifferenceLine;
import mandala.server.question.FigureView;
import mandala.server.question.QuestionAudit;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What a draft does to everybody, and to each. */
@RestController
@RequestMapping("/api/drafts/{id}/impact")
class ImpactController {

  private final SeenDrafts seen;
  private final Impacts impacts;
  private final SeenImpact impact;
  private final QuestionAudit asking;
  private final RequestContexts contexts;

  ImpactController(
      SeenDrafts seen,
      Impacts impacts,
      SeenImpact impact,
      QuestionAudit asking,
      RequestContexts contexts) {
    this.seen = seen;
    this.impacts = impacts;
    this.impact = impact;
    this.asking = asking;
    this.contexts = contexts;
  }

  /**
   * What the draft does to everybody.
   *
   * @param wait how long to wait for it, in milliseconds, up to ten seconds
   */
  @GetMapping
  ImpactView impact(@PathVariable String id, @RequestParam(defaultValue = "1500") long wait) {
    RequestContext context = contexts.context();
    DraftRow row = seen.row(id, context);
    return impact.of(row, seen.review(row, context), context, Math.clamp(wait, 0, 10_000));
  }

  @DeleteMapping
  void cancel(@PathVariable String id) {
    RequestContext context = contexts.context();
    DraftRow row = seen.row(id, context);
    DraftReview review = seen.review(row, context);
    if (review.after() != null) {
      impacts.of(row.id(), review).cancel();
    }
  }

  /**
   * What the draft does to one person.
   *
   * @param before their mandala, {@code after} the one after it, both with the same areas
   * @param more a figure of what they gain, {@code less} of what they lose
   */
  record PersonImpact(
      DraftView.PersonName person,
      long gained,
      long lost,
      @Nullable FigureView before,
      @Nullable FigureView after,
      @Nullable FigureView more,
      @Nullable FigureView less,
      List<DifferenceLine> lines) {}

  @GetMapping("/{person}")
  PersonImpact impactOn(@PathVariable String id, @PathVariable String person) {
    RequestContext context = contexts.context();
    DraftRow row = seen.row(id, context);
    DraftReview review = seen.review(row, context);
    Engine before = context.state().engine();
    Engine after = review.after();
    PrincipalKey key = new PrincipalKey(person);
    Principal was = before.catalogue().principals().get(key);
    Principal is = review.catalogue().principals().get(key);
    Principal either = is == null ? was : is;
    // judged in the model in force; of somebody whom the draft brings, it tells its reader itself
    boolean told =
        seen.isTold(review, context)
            && (was == null || context.readPolicy().maySeeAllOf(was.key()));
    if (after == null || either == null || !told) {
      throw Problem.notFound(
          "There is nobody called '" + person + "' whose access you can ask about.");
    }
    if (was != null) {
      asking.about(context, was, "What a draft does to them");
    }
    Naming naming = context.about(List.of(either), null, null);
    Session then = new Session(key, context.readPolicy().now(), true, null);
    Access old = was == null ? null : before.access(then);
    Access now = is == null ? null : after.access(then);
    Difference difference = old == null || now == null ? null : old.difference(now);
    Set<AccountKey> within = context.with(after, review.state()).draftedWithin();
    Extent extent = new Extent(either.account(), true, within);
    return new PersonImpact(
        new DraftView.PersonName(person, either.about().nameOr(key)),
        difference == null ? (now == null ? 0 : now.rights()) : difference.gained(),
        difference == null ? (old == null ? 0 : old.rights()) : difference.lost(),
        old == null ? null : FigureView.of(old.figure(extent), before.catalogue(), naming, false),
        now == null ? null : FigureView.of(now.figure(extent), after.catalogue(), naming, false),
        old == null || now == null
            ? null
            : FigureView.of(now.beyond(old).figure(extent), after.catalogue(), naming, false),
        old == null || now == null
            ? null
            : FigureView.of(old.beyond(now).figure(extent), before.catalogue(), naming, false),
        old == null || now == null || difference == null
            ? List.of()
            : DifferenceLine.of(difference, old, now, naming).stream()
                .filter(it ->
                    !it.account().isEmpty()
                        && (within == null || within.contains(new AccountKey(it.account()))))
                .toList());
  }
}
