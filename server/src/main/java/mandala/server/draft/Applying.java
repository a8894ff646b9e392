package mandala.server.draft;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.engine.Session;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.server.access.Look;
import mandala.server.model.Cause;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import mandala.server.session.Trace;
import mandala.server.trail.Happening;
import mandala.server.trail.Trail;
import org.springframework.stereotype.Service;

/**
 * Applies drafts: judged against the newest revision and written, with the lines of the trail, in
 * one transaction. Everything that speaks against it is said, and then nothing has changed.
 */
@Service
class Applying {

  private final Drafts drafts;
  private final LiveModel model;
  private final Trail trail;

  Applying(Drafts drafts, LiveModel model, Trail trail) {
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
    DraftRow first = own(id, author);
    String title = first.name() == null ? "" : first.name();
    Holder holder = new Holder();
    Cause cause =
        new Cause(
            author.principal().value(),
            title.isEmpty() ? "Changed " + first.draft().changes().size() + " things" : title,
            id,
            first.takesBack());
    try {
      return model
          .change(
              state -> {
                DraftRow row = own(id, author);
                Judged judged = drafts.judgedNow(state, row, author);
                require(judged, row, content, author, look.over(state));
                holder.judged = judged;
                holder.version = row.version();
                return judged.draft().inOrder();
              },
              cause,
              (state, revision) -> {
                if (!drafts.applied(id, holder.version, revision)) {
                  throw changedMeanwhile();
                }
                trail.write(lines(holder.judged(), revision));
              })
          .revision();
    } catch (IllegalArgumentException e) {
      throw Problem.conflict("The draft does not fit the newest revision", e.getMessage() + ".");
    }
  }

  /** What was decided last, for the transaction that follows. */
  private static final class Holder {
    @org.jspecify.annotations.Nullable Judged judged;
    long version;

    Judged judged() {
      Judged decided = judged;
      if (decided == null) {
        throw new IllegalStateException("Impossible state: written before it was decided");
      }
      return decided;
    }
  }

  private DraftRow own(String id, Session author) {
    DraftRow row =
        drafts
            .find(id)
            .orElseThrow(
                () -> Problem.notFound("There is no such draft. Look at the list of drafts."));
    if (!row.owner().equals(author.principal().value())) {
      throw Problem.forbidden("Only its owner applies a draft. Ask them to hand it over.");
    }
    if (!row.isAlive()) {
      throw Problem.conflict(
          "The draft is " + row.state().word(), "There is nothing left to apply.");
    }
    return row;
  }

  private static Problem changedMeanwhile() {
    return Problem.conflict(
        "The draft was changed meanwhile",
        "Nothing was applied. Look at it as it is now, and apply it then.");
  }

  private void require(Judged judged, DraftRow row, String content, Session author, Look look) {
    if (!judged.rebase().clashes().isEmpty()) {
      throw Problem.conflict(
          "Somebody else has changed what this draft changes",
          "Nothing was applied. Open the draft: both sides stand there, choose for each.");
    }
    if (judged.draft().isEmpty()) {
      throw Problem.conflict("The draft is empty", "There is nothing to apply.");
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
          "Nothing was applied. Mend what is listed, then apply it.",
          DraftView.told(judged, look));
    }
    if (!judged.reasons().isEmpty() && !isApproved(judged, row, author)) {
      List<Key.Principal> could = text.readable(judged.authority().whoCouldApprove());
      throw Problem.conflict(
          "A second person must approve it first",
          text.of(judged.reasons().getFirst())
              + ". "
              + (could.isEmpty()
                  ? "You see nobody who may approve all of it; split the draft, or ask an"
                      + " administrator of the other accounts."
                  : "Ask " + text.names(could) + "."));
    }
  }

  private boolean isApproved(Judged judged, DraftRow row, Session author) {
    Catalogue catalogue = judged.state().engine().catalogue();
    Set<String> authors = drafts.authors(row.id());
    return drafts.approvals(row.id()).stream()
        .filter(approval -> !authors.contains(approval.approver()))
        .filter(approval -> approval.content().equals(judged.content()))
        .map(approval -> catalogue.principals().get(new Key.Principal(approval.approver())))
        .anyMatch(approver ->
            approver != null
                && judged
                    .authority()
                    .mayApprove(new Session(approver.key(), author.at(), true, null)));
  }

  private List<Happening> lines(Judged judged, long revision) {
    return ChangeLines.of(
        judged.draft().changes(),
        judged.authority(),
        judged.state().engine().catalogue(),
        judged.catalogue(),
        revision,
        Trace.address());
  }
}
