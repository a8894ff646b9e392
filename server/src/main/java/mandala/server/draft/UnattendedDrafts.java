package mandala.server.draft;

import java.time.Clock;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Set;
import mandala.core.authority.Refusal;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/**
 * Makes and applies drafts of what happens by itself (section 11): with the rights that their owner
 * has then, and a second person's approval where one would be needed. Nobody need be there.
 */
@Service
public class UnattendedDrafts {

  private final Drafts drafts;
  private final DraftApplier applying;
  private final SecondApprovals second;
  private final ApprovalRequests requests;
  private final DraftNotices notices;
  private final LiveModel model;
  private final RequestContexts contexts;
  private final Clock clock;

  UnattendedDrafts(
      Drafts drafts,
      DraftApplier applying,
      SecondApprovals second,
      ApprovalRequests requests,
      DraftNotices notices,
      LiveModel model,
      RequestContexts contexts,
      Clock clock) {
    this.drafts = drafts;
    this.applying = applying;
    this.second = second;
    this.requests = requests;
    this.notices = notices;
    this.model = model;
    this.contexts = contexts;
    this.clock = clock;
  }

  /** What became of a draft. */
  public sealed interface Answer {

    /** {@return why it is not in force}, in sentences that name nobody; empty where it is */
    default String why() {
      return switch (this) {
        case Applied _, Discarded _ -> "";
        case Waits _ -> "A second person must approve it.";
        case HeldUp(String why) -> why;
        case Unfit(String why) -> why + ".";
        case Declined(String because) -> "It was declined: " + because;
      };
    }

    /** It is in force since a revision. */
    record Applied(long revision) implements Answer {}

    /** It waits for somebody's approval. */
    record Waits() implements Answer {}

    /** It waits for its owner; says why in words that name nobody. */
    record HeldUp(String why) implements Answer {}

    /** It can't be applied by anybody as it is; says why in words that name nobody. */
    record Unfit(String why) implements Answer {}

    /** Somebody who was asked to approve it declined. */
    record Declined(String because) implements Answer {}

    /** It was discarded. */
    record Discarded() implements Answer {}
  }

  /**
   * What a draft is to be.
   *
   * @param owner key of whose rights apply it
   * @param changes in an order in which each fits what those before left
   */
  public record Plan(
      String owner, String name, String reason, String reference, List<Change> changes) {}

  /**
   * Makes a draft in the running transaction; whichever its owner has open stays open.
   *
   * @return its id
   * @throws Problem if its owner has too many, or it is too large
   */
  public String begin(Plan it, long revision) {
    return drafts
        .keepAside(
            it.owner(), it.name(), revision, Draft.of(it.changes()), it.reason(), it.reference())
        .id();
  }

  /**
   * {@return why a draft would have to wait for its owner, or could not be applied by anybody},
   * null where neither is so; a second person's approval aside
   */
  public @Nullable Answer hindrance(Plan it) {
    Session owner = session(it.owner());
    LiveModel.State state = model.state();
    if (!state.engine().isActive(owner.principal(), owner.at())) {
      return new Answer.HeldUp("Its owner is not active.");
    }
    DraftRow row = new DraftRow("", it.owner(), it.name(), state.revision(), owner.at());
    row.put(Draft.of(it.changes()), state.revision(), owner.at());
    return hindrance(drafts.review(state, row, owner));
  }

  private Session session(String owner) {
    return new Session(
        new PrincipalKey(owner), clock.instant().truncatedTo(ChronoUnit.SECONDS), true, null);
  }

  /**
   * Applies changes at once, with their owner there: what speaks against them is said, and then
   * nothing has changed and no draft is left.
   *
   * @param author its owner, with the second factor as it was shown just now
   * @return the revision
   * @throws Problem if anything speaks against it
   */
  public long applyNow(Plan it, Session author) {
    LiveModel.State state = model.state();
    String id = begin(it, state.revision());
    try {
      DraftRow row = drafts.find(id).orElseThrow(Drafts::noSuchDraft);
      String content = drafts.review(state, row, author).content();
      return applying.apply(id, content, author, contexts.of(author));
    } catch (Problem e) {
      discard(id);
      throw e;
    }
  }

  /** {@return the revision in which a draft was applied}, null where it was not */
  public @Nullable Long revisionOf(String id) {
    return drafts.find(id).map(DraftRow::appliedAs).orElse(null);
  }

  /** {@return whether there is such a draft, neither applied nor discarded} */
  public boolean isAlive(@Nullable String id) {
    return id != null && drafts.find(id).filter(DraftRow::isAlive).isPresent();
  }

  /** Discards a draft that is alive. */
  public void discard(String id) {
    drafts
        .find(id)
        .filter(DraftRow::isAlive)
        .ifPresent(it -> drafts.move(id, it.owner(), DraftRow.State.DISCARDED));
  }

  /**
   * Applies a draft where it may be applied now; asks whoever could approve it, once.
   *
   * @param how it comes to that, as the revision says it
   */
  public Answer proceed(String id, String how) {
    DraftRow row = drafts.find(id).orElse(null);
    if (row == null || row.state() == DraftRow.State.DISCARDED) {
      return new Answer.Discarded();
    }
    Long appliedAs = row.appliedAs();
    if (appliedAs != null) {
      return new Answer.Applied(appliedAs);
    }
    Session owner = session(row.owner());
    LiveModel.State state = model.state();
    if (!state.engine().isActive(owner.principal(), owner.at())) {
      return new Answer.HeldUp("Its owner is not active.");
    }
    RequestContext context = contexts.of(owner);
    DraftReview review = drafts.review(state, row, owner);
    Answer hindrance = hindrance(review);
    if (hindrance == null
        && !second.of(review).isEmpty()
        && !applying.isApproved(review, row, drafts.approvals(id), owner)) {
      hindrance = waits(row, review);
    }
    if (hindrance != null) {
      return hindrance;
    }
    try {
      return new Answer.Applied(applying.applyByItself(id, review.content(), owner, context, how));
    } catch (Problem e) {
      return new Answer.HeldUp("The draft was not applied: " + e.title() + ".");
    }
  }

  /** Why nobody's approval would help, null where nothing is in the way. */
  private static @Nullable Answer hindrance(DraftReview review) {
    if (!review.rebase().clashes().isEmpty() || review.draft().isEmpty()) {
      return new Answer.Unfit("Somebody changed the same meanwhile");
    }
    if (review.refusals().stream().anyMatch(it -> !(it instanceof Refusal.LastOwner))) {
      return new Answer.HeldUp("Its owner's access does not cover a change that was decided.");
    }
    if (!review.refusals().isEmpty()) {
      return new Answer.Unfit("An account would have no owner left");
    }
    return review.faults().isEmpty()
        ? null
        : new Answer.Unfit("The model would have a fault after it");
  }

  private Answer waits(DraftRow row, DraftReview review) {
    List<ApprovalRequests.Request> asked = requests.of(row.id());
    for (ApprovalRequests.Request it : asked) {
      ApprovalRequests.Declined declined = it.declined();
      if (declined != null && it.isDeclined(review.content())) {
        return new Answer.Declined(declined.because());
      }
    }
    if (asked.isEmpty()) {
      Set<String> authors = drafts.authors(row.id());
      List<String> could =
          review.authority().whoCouldApprove().stream()
              .map(Key::value)
              .filter(it -> !authors.contains(it))
              .sorted()
              .limit(ApprovalRequests.MOST)
              .toList();
      if (could.isEmpty()) {
        return new Answer.HeldUp("A second person must approve it, and nobody else can.");
      }
      requests.ask(row.id(), could);
      could.forEach(it -> notices.waits(row, it, false));
    }
    return new Answer.Waits();
  }
}
