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
}
