package mandala.server.draft;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import mandala.core.authority.SecondApproval;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Principal;
import mandala.core.question.Session;
import mandala.server.access.Look;
import mandala.server.model.Cause;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import mandala.server.session.Trace;
import mandala.server.trail.Happening;
import mandala.server.trail.Trail;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/**
 * Applies drafts. A draft is judged against the newest revision without a lock or a transaction, so
 * that others go on meanwhile, and then written with the lines of the trail in one transaction,
 * which rechecks revision, content, approvals and policy. Everything that speaks against it is
 * said, and then nothing has changed.
 */
@Service
class Applying {

  private final Drafts drafts;
  private final LiveModel model;
  private final Trail trail;
  private final SecondApprovals approvals;

  Applying(Drafts drafts, LiveModel model, Trail trail, SecondApprovals approvals) {
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
  long apply(String id, String content, Session author, Look look) {
    Holder holder = new Holder();
    try {
      return model
          .decided(
              state -> {
                Decided decided = decided(state, id, content, author, look);
                holder.decided = decided;
                return new LiveModel.Decision(
                    decided.judged().draft().inOrder(),
                    Objects.requireNonNull(decided.judged().after()),
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
              })
          .revision();
    } catch (IllegalArgumentException e) {
      throw Problem.conflict(
          "The draft does not fit the newest revision",
          e.getMessage() + ". Open the draft and fix it.");
    }
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
      Judged judged,
      Cause cause,
      @Nullable String name,
      long version,
      List<Drafts.Approval> approvals,
      Map<String, ApprovalPolicy.Rule> policy) {}

  private static final class Holder {
    @Nullable Decided decided;
  }

  private Decided decided(
      LiveModel.State state, String id, String content, Session author, Look look) {
    DraftRow row = own(id, author);
    Map<String, ApprovalPolicy.Rule> policy = drafts.policy();
    Judged judged = drafts.judged(state, row, author);
    List<Drafts.Approval> given = drafts.approvals(id);
    require(judged, row, given, content, author, look.over(state));
    requireExplained(judged, row, policy);
    return new Decided(
        judged, cause(judged, row, given, author), row.name(), row.version(), given, policy);
  }

  private Cause cause(Judged judged, DraftRow row, List<Drafts.Approval> given, Session author) {
    String name = row.name();
    return new Cause(
        author.principal().value(),
        name == null ? DraftTitle.of(judged) : name,
        row.id(),
        row.takesBack(),
        row.reason(),
        row.reference(),
        counting(judged, row, given, author).map(Key::value).distinct().toList());
  }

  private static void requireExplained(
      Judged judged, DraftRow row, Map<String, ApprovalPolicy.Rule> policy) {
    Explaining needed = Explaining.of(judged, policy);
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
      Judged judged,
      DraftRow row,
      List<Drafts.Approval> given,
      String content,
      Session author,
      Look look) {
    if (!judged.rebase().clashes().isEmpty()) {
      throw Problem.conflict(
          "Somebody else changed what this draft changes",
          "Nothing was applied. Open the draft and choose which version to keep of each.");
    }
    if (judged.draft().isEmpty()) {
      throw Problem.conflict("The draft is empty", "Add a change to it first.");
    }
    if (!judged.content().equals(content)) {
      throw changedMeanwhile();
    }
    RefusalText text = new RefusalText(judged, author.mfa(), look);
    if (!judged.refusals().isEmpty()) {
      throw Problem.forbidden(
          judged.refusals().stream().map(text::of).distinct().collect(Collectors.joining(" ")));
    }
    if (!judged.faults().isEmpty()) {
      throw Problem.faultyChange(
          "The draft leaves a faulty model",
          "Nothing was applied. Fix the errors listed, then apply it.",
          DraftView.told(judged, look));
    }
    List<SecondApproval.Reason> reasons = approvals.of(judged);
    if (!reasons.isEmpty() && !isApproved(judged, row, given, author)) {
      List<Key.Principal> could = text.readable(judged.authority().whoCouldApprove());
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

  private boolean isApproved(
      Judged judged, DraftRow row, List<Drafts.Approval> given, Session author) {
    return counting(judged, row, given, author).findAny().isPresent();
  }

  /** {@return those whose approval counts}: of exactly this, by who may and did not write it */
  private Stream<Key.Principal> counting(
      Judged judged, DraftRow row, List<Drafts.Approval> given, Session author) {
    Catalogue catalogue = judged.state().engine().catalogue();
    Set<String> authors = drafts.authors(row.id());
    return given.stream()
        .filter(approval -> !authors.contains(approval.approver()))
        .filter(approval -> approval.content().equals(judged.content()))
        .map(approval -> catalogue.principals().get(new Key.Principal(approval.approver())))
        .filter(Objects::nonNull)
        .map(Principal::key)
        .filter(approver ->
            judged.authority().mayApprove(new Session(approver, author.at(), true, null)));
  }

  /** {@return the lines of the trail}: that it was applied and why, then each change */
  private static List<Happening> lines(Decided decided, long revision) {
    Judged judged = decided.judged();
    List<Happening> changes =
        ChangeLines.of(
            judged.draft().changes(),
            judged.authority(),
            judged.state().engine().catalogue(),
            judged.catalogue(),
            revision,
            Trace.address());
    List<Happening> lines = new ArrayList<>();
    lines.add(
        ChangeLines.applied(
            decided.name(), decided.cause(), changes, judged.catalogue(), Trace.address()));
    lines.addAll(changes);
    return lines;
  }
}
