package mandala.server.draft;

import java.util.List;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.server.authorization.RequestContext;
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
