package mandala.server.draft;

import java.util.List;
import java.util.Set;
import mandala.core.authority.SecondApproval;
import mandala.core.model.Catalogue;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Drafts as one call sees them: found, judged for their author, shown. */
@Component
class SeenDrafts {

  /** How long a page waits to learn whether a draft needs approval. */
  private static final long WAIT_MILLIS = 1_500;

  private final Drafts drafts;
  private final SecondApprovals approvals;
  private final ApprovalRequests requests;

  SeenDrafts(Drafts drafts, SecondApprovals approvals, ApprovalRequests requests) {
    this.requests = requests;
    this.drafts = drafts;
    this.approvals = approvals;
  }

  /**
   * {@return a draft}
   *
   * @param id its id, or {@code open} for the caller's open one
   * @throws Problem if there is none to the caller's eyes
   */
  DraftRow row(String id, RequestContext context) {
    DraftRow row =
        ("open".equals(id) ? drafts.open(context.readPolicy().viewer().value()) : drafts.find(id))
            .orElseThrow(Drafts::noSuchDraft);
    if (!row.owner().equals(context.readPolicy().viewer().value())
        && !row.isReadBy(context.readPolicy(), context.state().engine().catalogue())) {
      throw Drafts.noSuchDraft();
    }
    return row;
  }

  /** {@return the judgement of a draft for its author} */
  DraftReview review(DraftRow row, RequestContext context) {
    return drafts.review(context.state(), row, authorOf(row, context));
  }

  /**
   * {@return why a draft needs a second person's approval}, null while that is being found out
   *
   * @param millis how long to wait for it
   */
  @Nullable List<SecondApproval.Reason> reasons(DraftRow row, RequestContext context, long millis) {
    Session author = authorOf(row, context);
    return approvals.within(
        drafts.nameOfJudgement(context.state(), row, author),
        author.at(),
        () -> drafts.review(context.state(), row, author),
        millis);
  }

  /** {@return a draft as its page shows it} */
  DraftView view(DraftRow row, RequestContext context) {
    DraftReview review = review(row, context);
    Set<String> authors = drafts.authors(row.id());
    return DraftView.of(
        row,
        review,
        context,
        isTold(review, context),
        reasons(row, context, WAIT_MILLIS),
        authorOf(row, context).mfa(),
        row.isAlive()
            && !review.draft().isEmpty()
            && !authors.contains(context.readPolicy().viewer().value())
            && review.authority().mayApprove(context.readPolicy().session()),
        new DraftView.Said(
            authors,
            RequiredReason.of(review, drafts.policy()),
            drafts.approvals(row.id()),
            requests.of(row.id()),
            drafts.comments(row.id())));
  }

  /** {@return a draft as lists show it} */
  DraftView.Summary summary(DraftRow row, RequestContext context) {
    String viewer = context.readPolicy().viewer().value();
    return DraftView.summary(
        row,
        context,
        drafts.authors(row.id()).stream().anyMatch(it -> !it.equals(viewer)),
        request(row, context));
  }

  /** {@return the viewer's own request to approve a draft}, null where they were not asked */
  DraftView.@Nullable RequestView request(DraftRow row, RequestContext context) {
    String viewer = context.readPolicy().viewer().value();
    return requests.of(row.id()).stream()
        .filter(it -> it.approver().equals(viewer))
        .findFirst()
        .map(it ->
            DraftView.request(
                it, drafts.approvals(row.id()), review(row, context).content(), context))
        .orElse(null);
  }

  /** {@return the ids of the drafts that the viewer was asked to approve} */
  Set<String> asked(RequestContext context) {
    return requests.askedOf(context.readPolicy().viewer().value());
  }

  /** {@return how many drafts the viewer was asked to approve and has not answered} */
  int toApprove(RequestContext context) {
    return (int)
        asked(context).stream()
            .flatMap(id -> drafts.find(id).stream())
            .filter(row -> row.isReadBy(context.readPolicy(), context.state().engine().catalogue()))
            .map(row -> request(row, context))
            .filter(it -> it != null && !isAnswered(it))
            .count();
  }

  /** {@return whether somebody who was asked has answered for the draft as it is now} */
  static boolean isAnswered(DraftView.RequestView request) {
    return request.state().equals("approved") || request.state().equals("declined");
  }

  /**
   * Whether the viewer may be told what a draft does: who may not read what it names would learn
   * from it what there is.
   */
  boolean isTold(DraftReview review, RequestContext context) {
    Catalogue live = context.state().engine().catalogue();
    return review.authority().named().stream()
        .allMatch(resource -> {
          AccountKey account = live.accountOf(resource);
          return context.readPolicy().may(Supplied.DIRECTORY_READ, resource)
              || (account != null && context.readPolicy().mayRead(account));
        });
  }

  /** The session in which a draft's owner is judged: the viewer's own where it is theirs. */
  static Session authorOf(DraftRow row, RequestContext context) {
    Session viewer = context.readPolicy().session();
    return row.owner().equals(viewer.principal().value())
        ? viewer
        : new Session(new PrincipalKey(row.owner()), viewer.at(), true, null);
  }
}
