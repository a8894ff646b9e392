package mandala.server.draft;

import java.util.List;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import org.springframework.stereotype.Service;

/** Makes drafts of what was proposed. */
@Service
public class DraftProposals {

  private final Drafts drafts;

  DraftProposals(Drafts drafts) {
    this.drafts = drafts;
  }

  /**
   * Begins a draft of whoever calls, which becomes their active one; the one before is set aside.
   *
   * @param changes in an order in which each fits what those before left
   * @return its id
   */
  public String begin(String name, List<Change> changes, RequestContext context) {
    return drafts
        .begin(
            context.readPolicy().viewer().value(),
            name,
            context.state().revision(),
            Draft.of(changes))
        .id();
  }

  /**
   * Checks that proposals still fit the model in force.
   *
   * @param revision that they were made for
   * @throws Problem if there is a newer one
   */
  public static void requireNewest(long revision, RequestContext context) {
    if (revision != context.state().revision()) {
      throw Problem.conflict(
          "The model has changed since",
          "The proposals fit revision "
              + revision
              + "; the newest is "
              + context.state().revision()
              + ". Look for proposals again.");
    }
  }

  /** {@return whether a draft is there, neither applied nor discarded} */
  public boolean isAlive(String id) {
    return drafts.find(id).filter(DraftRow::isAlive).isPresent();
  }

  /** {@return whether a draft is alive, and its owner is whoever calls} */
  public boolean isOwn(String id, RequestContext context) {
    return drafts
        .find(id)
        .filter(DraftRow::isAlive)
        .filter(it -> it.owner().equals(context.readPolicy().viewer().value()))
        .isPresent();
  }
}
