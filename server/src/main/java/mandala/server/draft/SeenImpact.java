package mandala.server.draft;

import java.util.ArrayList;
import java.util.List;
import mandala.core.analysis.Consequences;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Impact;
import mandala.server.authorization.RequestContext;
import org.springframework.stereotype.Component;

/**
 * The impact of drafts as one call may know it: of people whose whole access the viewer may ask
 * about in the model in force, and of those whom the draft brings. Numbers count nobody else.
 */
@Component
class SeenImpact {

  private final Impacts impacts;
  private final SeenDrafts seen;

  SeenImpact(Impacts impacts, SeenDrafts seen) {
    this.impacts = impacts;
    this.seen = seen;
  }

  /**
   * {@return what a draft does, or how far that is found}
   *
   * @param millis how long to wait for it
   */
  ImpactView of(DraftRow row, DraftReview review, RequestContext context, long millis) {
    if (!seen.isTold(review, context)) {
      return ImpactView.waiting("hidden", 0, 0);
    }
    if (review.after() == null) {
      return ImpactView.waiting("faulty", 0, 0);
    }
    Impacts.Work work = impacts.of(row.id(), review);
    Consequences found = work.await(millis);
    if (found == null) {
      return waiting(work);
    }
    List<PrincipalKey> told = new ArrayList<>();
    for (Impact.Person it : found.impact().people()) {
      if (isTold(it.principal(), context)) {
        told.add(it.principal());
      }
    }
    boolean others = told.size() < found.impact().people().size();
    if (others) {
      Impacts.Work cut = impacts.on(review, found, told);
      Consequences part = cut.await(millis);
      if (part == null) {
        return waiting(cut);
      }
      found = part;
    }
    return ImpactView.of(found, others, review, context, new PrincipalKey(row.owner()));
  }

  private static ImpactView waiting(Impacts.Work work) {
    String state = work.hasFailed() ? "failed" : work.isCancelled() ? "cancelled" : "running";
    return ImpactView.waiting(state, work.done(), work.of());
  }

  private static boolean isTold(PrincipalKey who, RequestContext context) {
    return context.readPolicy().maySeeAllOf(who)
        || (!who.equals(PrincipalKey.ANONYMOUS)
            && !context.state().engine().catalogue().principals().containsKey(who));
  }
}
