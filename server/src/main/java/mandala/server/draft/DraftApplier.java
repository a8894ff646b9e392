package mandala.server.draft;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import mandala.core.authority.RequiredRight;
import mandala.core.authority.SecondApproval;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.UsedRights;
import mandala.server.model.LiveModel;
import mandala.server.model.RevisionCause;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;

/**
 * Applies drafts. A draft is judged against the newest revision without a lock or a transaction, so
 * that others go on meanwhile, and then written with the lines of the trail in one transaction,
 * which rechecks revision, content, approvals and policy. Everything that speaks against it is
 * said, and then nothing has changed.
 */
@Service
class DraftApplier {

  private final Drafts drafts;
  private final LiveModel model;
  private final Trail trail;
  private final SecondApprovals approvals;
  private final ApplicationEventPublisher events;
  private final UsedRights used;

  DraftApplier(
      Drafts drafts,
      LiveModel model,
      Trail trail,
      SecondApprovals approvals,
      ApplicationEventPublisher events,
      UsedRights used) {
    this.used = used;
    this.events = events;
    this.approvals = approvals;
    this.drafts = drafts;
    this.model = model;
    this.trail = trail;
  }

  /**
   * Applies a draft.
   *
   * @param content the hash of what the author has seen
   * @param author with the second factor as it was shown just now
   * @return the new revision
   * @throws Problem if anything speaks against it
   */
  long apply(String id, String content, Session author, RequestContext context) {
    return apply(id, content, author, context, null);
  }

  /**
   * Applies a draft while its owner is not there.
   *
   * @param how it came to that: the revision says so
   */
  long applyByItself(String id, String content, Session owner, RequestContext context, String how) {
    return apply(id, content, owner, context, how);
  }

  private long apply(
      String id,
      String content,
      Session author,
      RequestContext context,
      @Nullable String byItself) {
    Holder holder = new Holder();
    try {
      return model
          .decided(
              state -> {
                Decided decided = decided(state, id, content, author, context);
                if (byItself != null) {
                  decided = decided.byItself(byItself);
                }
                holder.decided = decided;
                return new LiveModel.Decision(
                    decided.review().draft().inOrder(),
                    Objects.requireNonNull(decided.review().after()),
                    decided.cause());
              },
              (_, revision) -> {
                Decided decided = Objects.requireNonNull(holder.decided);
                if (!drafts.applied(id, decided.version(), revision)
                    || !decided.approvals().equals(drafts.approvals(id))
                    || !decided.policy().equals(drafts.policy())) {
                  throw changedMeanwhile();
                }
                trail.write(lines(decided, revision));
                noteUse(decided.review(), author);
                events.publishEvent(new DraftNotices.Applied(revision));
              })
          .revision();
    } catch (IllegalArgumentException e) {
      throw Problem.conflict(
          "The draft does not fit the newest revision",
          e.getMessage() + ". Open the draft and fix it.");
    }
  }

  /**
   * Judges a draft as {@link #apply} would on the newest revision, and changes nothing.
   *
   * @throws Problem if anything speaks against it
   */
  void check(String id, String content, Session author, RequestContext context) {
    decided(model.state(), id, content, author, context);
  }

  /**
   * What was decided on a state, for the transaction that follows.
   *
   * @param cause of the revision
   * @param name that the author gave the draft, or null
   * @param version of the draft
   * @param approvals and {@code policy} by which it was decided: the transaction holds them to what
   *     they are then
   */
  private record Decided(
      DraftReview review,
      RevisionCause cause,
      @Nullable String name,
      long version,
      List<Drafts.Approval> approvals,
      Map<String, ApprovalPolicy.Rule> policy) {

    /** {@return the same}, its cause saying that nobody was there */
    Decided byItself(String how) {
      RevisionCause by =
          new RevisionCause(
              cause.author(),
              cause.title() + " (" + how + ", applied by itself)",
              cause.draft(),
              cause.takesBack(),
              cause.reason(),
              cause.reference(),
              cause.approvedBy());
      return new Decided(review, by, name, version, approvals, policy);
    }
  }

  /** What the change needed was used by its author. */
  private void noteUse(DraftReview review, Session author) {
    for (RequiredRight it : review.authority().demands()) {
      it.anyOf().stream()
          .filter(place ->
              review.state().engine().decide(author.asks(it.permission(), place)).allowed())
          .forEach(place -> used.used(author.principal(), it.permission(), place));
    }
  }

  private static final class Holder {
    @Nullable Decided decided;
  }

  private Decided decided(
      LiveModel.State state, String id, String content, Session author, RequestContext context) {
    DraftRow row = own(id, author);
    Map<String, ApprovalPolicy.Rule> policy = drafts.policy();
    DraftReview review = drafts.review(state, row, author);
    List<Drafts.Approval> given = drafts.approvals(id);
    require(review, row, given, content, author, context.over(state));
    requireExplained(review, row, policy);
    return new Decided(
        review, cause(review, row, given, author), row.name(), row.version(), given, policy);
  }

  private RevisionCause cause(
      DraftReview review, DraftRow row, List<Drafts.Approval> given, Session author) {
    String name = row.name();
    return new RevisionCause(
        author.principal().value(),
        name == null ? DraftTitle.of(review) : name,
        row.id(),
        row.takesBack(),
        row.reason(),
        row.reference(),
        counting(review, row, given, author).map(Key::value).distinct().toList());
  }

  private static void requireExplained(
      DraftReview review, DraftRow row, Map<String, ApprovalPolicy.Rule> policy) {
    RequiredReason needed = RequiredReason.of(review, policy);
    if ((needed.reason() && row.reason() == null)
        || (needed.reference() && row.reference() == null)) {
      throw Problem.conflict(
          needed.reason() && row.reason() == null
              ? "The draft needs a reason"
              : "The draft needs a reference",
          "The policy of an account that it changes asks for "
              + (needed.reason() && needed.reference()
                  ? "a reason and a reference"
                  : needed.reason() ? "a reason" : "a reference")
              + ". Nothing was applied. Add it on the draft's page, then apply.");
    }
  }

  private DraftRow own(String id, Session author) {
    DraftRow row = drafts.find(id).orElseThrow(Drafts::noSuchDraft);
    if (!row.owner().equals(author.principal().value())) {
      throw Problem.forbidden("Only its owner applies a draft. Ask them to hand it over.");
    }
    if (!row.isAlive()) {
      throw Problem.conflict(
          "The draft is " + row.state().word(), "Start a new draft for more changes.");
    }
    return row;
  }

  private static Problem changedMeanwhile() {
    return Problem.conflict(
        "The draft was changed meanwhile",
        "Nothing was applied. Look at it as it is now, and apply it then.");
  }

  private void require(
      DraftReview review,
      DraftRow row,
      List<Drafts.Approval> given,
      String content,
      Session author,
      RequestContext context) {
    if (!review.rebase().clashes().isEmpty()) {
      throw Problem.conflict(
          "Somebody else changed what this draft changes",
          "Nothing was applied. Open the draft and choose which version to keep of each.");
    }
    if (review.draft().isEmpty()) {
      throw Problem.conflict("The draft is empty", "Add a change to it first.");
    }
    if (!review.content().equals(content)) {
      throw changedMeanwhile();
    }
    RefusalText text = new RefusalText(review, author.mfa(), context);
    if (!review.refusals().isEmpty()) {
      throw Problem.forbidden(
          review.refusals().stream().map(text::of).distinct().collect(Collectors.joining(" ")));
    }
    if (!review.faults().isEmpty()) {
      throw Problem.faultyChange(
          "The draft leaves a faulty model",
          "Nothing was applied. Fix the errors listed, then apply it.",
          DraftView.told(review, context));
    }
    List<SecondApproval.Reason> reasons = approvals.of(review);
    if (!reasons.isEmpty() && !isApproved(review, row, given, author)) {
      List<PrincipalKey> could = text.readable(review.authority().whoCouldApprove());
      throw Problem.conflict(
          "A second person must approve it first",
          text.of(reasons.getFirst())
              + ". "
              + (could.isEmpty()
                  ? "You can't see anyone who can approve all of it; split the draft, or ask an"
                      + " administrator of the other accounts."
                  : "Ask " + text.names(could) + "."));
    }
  }

  /** {@return whether somebody whose approval counts approved exactly this} */
  boolean isApproved(
      DraftReview review, DraftRow row, List<Drafts.Approval> given, Session author) {
    return counting(review, row, given, author).findAny().isPresent();
  }

  /** {@return those whose approval counts}: of exactly this, by who may and did not write it */
  private Stream<PrincipalKey> counting(
      DraftReview review, DraftRow row, List<Drafts.Approval> given, Session author) {
    Catalogue catalogue = review.state().engine().catalogue();
    Set<String> authors = drafts.authors(row.id());
    return given.stream()
        .filter(approval -> !authors.contains(approval.approver()))
        .filter(approval -> approval.content().equals(review.content()))
        .map(approval -> catalogue.principals().get(new PrincipalKey(approval.approver())))
        .filter(Objects::nonNull)
        .map(Principal::key)
        .filter(approver ->
            review.authority().mayApprove(new Session(approver, author.at(), true, null)));
  }

  /** {@return the lines of the trail}: that it was applied and why, then each change */
  private static List<AuditEvent> lines(Decided decided, long revision) {
    DraftReview review = decided.review();
    List<AuditEvent> changes =
        ChangeLines.of(
            review.draft().changes(),
            review.authority(),
            review.state().engine().catalogue(),
            review.catalogue(),
            revision,
            AuditContext.address());
    List<AuditEvent> lines = new ArrayList<>();
    lines.add(
        ChangeLines.applied(
            decided.name(), decided.cause(), changes, review.catalogue(), AuditContext.address()));
    lines.addAll(changes);
    return lines;
  }
}
