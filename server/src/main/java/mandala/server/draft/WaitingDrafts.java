package mandala.server.draft;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import mandala.core.authority.Authority;
import mandala.core.authority.SecondApproval;
import mandala.core.change.Rebase;
import mandala.core.engine.Engine;
import mandala.core.model.Supplied;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Session;
import mandala.server.authorization.RequestContext;
import org.springframework.stereotype.Component;

/**
 * The drafts of others that wait for a viewer's approval. What is cheap to check comes first: who
 * may approve nothing is asked about none, and whether a draft needs approval at all is found out
 * only where the viewer could give it, once for each content and revision, in the background.
 */
@Component
class WaitingDrafts {

  /** How long one list waits for what is found out in the background. */
  private static final long WAIT_NANOS = TimeUnit.MILLISECONDS.toNanos(1_500);

  private final Drafts drafts;
  private final SeenDrafts seen;

  /** What drafts name, by the name of their judgement; bounded by the number of resources. */
  private final Cache<String, List<ResourceKey>> approvedOn =
      Caffeine.newBuilder()
          .maximumWeight(1_000_000)
          .weigher((String _, List<ResourceKey> it) -> it.size() + 1)
          .build();

  WaitingDrafts(Drafts drafts, SeenDrafts seen) {
    this.drafts = drafts;
    this.seen = seen;
  }

  /**
   * What was found.
   *
   * @param judging of how many more it is still being found out if they need approval
   */
  record Found(List<DraftRow> drafts, int judging) {}

  /**
   * {@return drafts that wait for the viewer's approval}: those sent to them and not answered
   * first, then the others that they may approve, each the newest first
   */
  Found forApproval(RequestContext context) {
    Session viewer = context.readPolicy().session();
    Engine engine = context.state().engine();
    if (engine.access(viewer).intervals(Supplied.DRAFT_APPROVE).isEmpty()) {
      return new Found(List.of(), 0);
    }
    Map<String, Integer> policy = ApprovalPolicy.peopleOf(drafts.policy());
    List<DraftRow> sent = new ArrayList<>();
    Set<String> asked = seen.asked(context);
    List<DraftRow> found = new ArrayList<>();
    int judging = 0;
    long until = System.nanoTime() + WAIT_NANOS;
    for (DraftRow row : drafts.ofOthers(viewer.principal().value())) {
      if (!mayApprove(row, policy, context)) {
        continue;
      }
      DraftView.RequestView request = asked.contains(row.id()) ? seen.request(row, context) : null;
      if (request != null) {
        if (!SeenDrafts.isAnswered(request)) {
          sent.add(row);
        }
        continue;
      }
      long left = Math.max(0, until - System.nanoTime());
      List<SecondApproval.Reason> reasons =
          seen.reasons(row, context, TimeUnit.NANOSECONDS.toMillis(left));
      judging += reasons == null ? 1 : 0;
      if (reasons != null && !reasons.isEmpty()) {
        found.add(row);
      }
    }
    sent.addAll(found);
    return new Found(sent, judging);
  }

  private boolean mayApprove(DraftRow row, Map<String, Integer> policy, RequestContext context) {
    Engine engine = context.state().engine();
    Session author = SeenDrafts.authorOf(row, context);
    List<ResourceKey> resources =
        approvedOn.get(
            DraftReview.name(context.state(), row, author, policy),
            _ ->
                Authority.of(engine, Rebase.of(row.draft(), engine.catalogue()).draft(), author)
                    .approvedOn());
    return resources.stream().allMatch(it -> context.readPolicy().may(Supplied.DRAFT_APPROVE, it))
        && row.isReadBy(context.readPolicy(), engine.catalogue());
  }
}
