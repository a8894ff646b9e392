package mandala.server.draft;

import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.server.authorization.RequestContext;
import mandala.server.notice.NoticeKind;
import mandala.server.notice.Notices;
import mandala.server.platform.Problem;
import org.springframework.stereotype.Service;

/** Drafts of somebody who leaves, handed to somebody who stays. */
@Service
public class HandedDrafts {

  private final Drafts drafts;
  private final Notices notices;

  HandedDrafts(Drafts drafts, Notices notices) {
    this.drafts = drafts;
    this.notices = notices;
  }

  /** {@return how many drafts of somebody are neither applied nor discarded} */
  public int alive(PrincipalKey owner) {
    return Math.toIntExact(drafts.alive(owner.value()));
  }

  /**
   * Hands over what the other may read all of, each draft by itself; they get a notice.
   *
   * @return how many; the others stay
   */
  public int hand(PrincipalKey owner, Principal to, RequestContext context) {
    int handed = 0;
    for (DraftRow row : drafts.of(owner.value())) {
      if (row.isAlive() && DraftView.isReadBy(to.key(), row, context) && isTaken(row, owner, to)) {
        handed++;
      }
    }
    if (handed > 0) {
      Principal was = context.state().engine().catalogue().principals().get(owner);
      notices.tell(
          to.key().value(),
          new Notices.Notice(
              NoticeKind.DRAFT_WAITS,
              (handed == 1 ? "A draft" : handed + " drafts")
                  + " of "
                  + (was == null ? "someone" : was.about().nameOr(owner))
                  + (handed == 1 ? " is yours now." : " are yours now."),
              "/drafts"));
    }
    return handed;
  }

  /** One that was applied meanwhile, or for which they have no room, stays where it is. */
  private boolean isTaken(DraftRow row, PrincipalKey owner, Principal to) {
    try {
      drafts.handOver(row.id(), owner.value(), to.key().value());
      return true;
    } catch (Problem _) {
      return false;
    }
  }
}
