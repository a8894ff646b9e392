package mandala.server.draft;

import java.util.List;
import java.util.Set;
import mandala.core.authority.SecondApproval;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Supplied;
import mandala.core.question.Session;
import mandala.server.access.Look;
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
  DraftRow row(String id, Look look) {
    DraftRow row =
        ("open".equals(id) ? drafts.open(look.sight().viewer().value()) : drafts.find(id))
            .orElseThrow(Drafts::noSuchDraft);
    if (!row.owner().equals(look.sight().viewer().value())
        && !row.isReadBy(look.sight(), look.state().engine().catalogue())) {
      throw Drafts.noSuchDraft();
    }
    return row;
  }

  /** {@return the judgement of a draft for its author} */
  Judged judged(DraftRow row, Look look) {
    return drafts.judged(look.state(), row, authorOf(row, look));
  }

  /**
   * {@return why a draft needs a second person's approval}, null while that is being found out
   *
   * @param millis how long to wait for it
   */
  @Nullable List<SecondApproval.Reason> reasons(DraftRow row, Look look, long millis) {
    Session author = authorOf(row, look);
    return approvals.within(
        drafts.nameOfJudgement(look.state(), row, author),
        author.at(),
        () -> drafts.judged(look.state(), row, author),
        millis);
  }

  /** {@return a draft as its page shows it} */
  DraftView view(DraftRow row, Look look) {
    Judged judged = judged(row, look);
    Set<String> authors = drafts.authors(row.id());
    return DraftView.of(
        row,
        judged,
        look,
        isTold(judged, look),
        reasons(row, look, WAIT_MILLIS),
        authorOf(row, look).mfa(),
        row.isAlive()
            && !judged.draft().isEmpty()
            && !authors.contains(look.sight().viewer().value())
            && judged.authority().mayApprove(look.sight().session()),
        new DraftView.Said(
            authors,
            Explaining.of(judged, drafts.policy()),
            drafts.approvals(row.id()),
            requests.of(row.id()),
            drafts.comments(row.id())));
  }

  /** {@return a draft as lists show it} */
  DraftView.Summary summary(DraftRow row, Look look) {
    String viewer = look.sight().viewer().value();
    return DraftView.summary(
        row,
        look,
        drafts.authors(row.id()).stream().anyMatch(it -> !it.equals(viewer)),
        request(row, look));
  }

  /** {@return the viewer's own request to approve a draft}, null where they were not asked */
  DraftView.@Nullable RequestView request(DraftRow row, Look look) {
    String viewer = look.sight().viewer().value();
    return requests.of(row.id()).stream()
        .filter(it -> it.approver().equals(viewer))
        .findFirst()
        .map(it ->
            DraftView.request(it, drafts.approvals(row.id()), judged(row, look).content(), look))
        .orElse(null);
  }

  /** {@return the ids of the drafts that the viewer was asked to approve} */
  Set<String> asked(Look look) {
    return requests.askedOf(look.sight().viewer().value());
  }

  /** {@return how many drafts the viewer was asked to approve and has not answered} */
  int toApprove(Look look) {
    return (int)
        asked(look).stream()
            .flatMap(id -> drafts.find(id).stream())
            .filter(row -> row.isReadBy(look.sight(), look.state().engine().catalogue()))
            .map(row -> request(row, look))
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
  boolean isTold(Judged judged, Look look) {
    Catalogue live = look.state().engine().catalogue();
    return judged.authority().named().stream()
        .allMatch(resource -> {
          Key.Account account = live.accountOf(resource);
          return look.sight().may(Supplied.DIRECTORY_READ, resource)
              || (account != null && look.sight().mayRead(account));
        });
  }

  /** The session in which a draft's owner is judged: the viewer's own where it is theirs. */
  static Session authorOf(DraftRow row, Look look) {
    Session viewer = look.sight().session();
    return row.owner().equals(viewer.principal().value())
        ? viewer
        : new Session(new Key.Principal(row.owner()), viewer.at(), true, null);
  }
}
