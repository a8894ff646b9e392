package mandala.server.review;

import java.time.Instant;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.server.authorization.RequestContexts;
import mandala.server.model.LiveModel;
import mandala.server.notice.NoticeKind;
import mandala.server.notice.Notices;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Whether what rounds do by themselves is covered by the access that their owner has then. */
@Component
class RoundOwners {

  private final RequestContexts contexts;
  private final Notices notices;

  RoundOwners(RequestContexts contexts, Notices notices) {
    this.contexts = contexts;
    this.notices = notices;
  }

  /** {@return why a round of an owner must wait}, null where nothing is in the way */
  @Nullable String hindrance(RoundOrder order, String owner, LiveModel.State state, Instant now) {
    PrincipalKey key = new PrincipalKey(owner);
    if (!state.engine().isActive(key, now)) {
      return "Its owner is not active";
    }
    return RoundDesk.mayRun(order, contexts.of(new Session(key, now, true, null)))
        ? null
        : "Its owner's access does not cover it";
  }

  /** Sends an owner a notice that something of theirs waits. */
  void tell(String owner, String what, String where) {
    notices.tell(
        owner,
        new Notices.Notice(
            NoticeKind.REVIEW_HELD_UP, what + " waits: your access does not cover it.", where));
  }
}
