package mandala.server.review;

import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.server.authorization.RequestContext;
import mandala.server.notice.NoticeKind;
import mandala.server.notice.Notices;
import org.springframework.stereotype.Service;

/** Reviews that wait for somebody who leaves, given to somebody who stays. */
@Service
public class HandedReviews {

  private final ReviewStore store;
  private final RoundDesk rounds;
  private final RoundOwners owners;
  private final Notices notices;

  HandedReviews(ReviewStore store, RoundDesk rounds, RoundOwners owners, Notices notices) {
    this.store = store;
    this.rounds = rounds;
    this.owners = owners;
    this.notices = notices;
  }

  /** {@return how many review rounds somebody owns that are not over} */
  public int owned(PrincipalKey owner) {
    return store.alive(owner.value()).size();
  }

  /** {@return how many items of open rounds wait for somebody's decision} */
  public int items(PrincipalKey decider) {
    return store.waitingFor(decider.value()).values().stream().mapToInt(it -> it).sum();
  }

  /**
   * Gives somebody's items to another person, of those rounds that the viewer runs.
   *
   * @return how many; those about the other person stay
   */
  public int give(PrincipalKey decider, Principal to, RequestContext context) {
    int given = 0;
    for (long number : store.waitingFor(decider.value()).keySet()) {
      boolean runs =
          store.round(number).filter(it -> RoundDesk.mayRun(it.order(), context)).isPresent();
      if (runs) {
        given += rounds.give(number, decider.value(), to.key().value(), context);
      }
    }
    return given;
  }

  /**
   * Asks somebody by a notice to take over rounds which they may run: decisions take effect with
   * the rights of a round's owner, so nobody becomes one without a word of theirs.
   *
   * @return of how many
   */
  public int offer(PrincipalKey owner, Principal to, RequestContext context) {
    int offered = 0;
    for (Round it : store.alive(owner.value())) {
      String hindrance =
          owners.hindrance(
              it.order(), to.key().value(), context.state(), context.readPolicy().now());
      if (hindrance == null) {
        notices.tell(
            to.key().value(),
            new Notices.Notice(
                NoticeKind.REVIEW_HELD_UP,
                "The owner of the review round “" + it.title() + "” leaves. Take it over.",
                "/reviews/" + it.number()));
        offered++;
      }
    }
    return offered;
  }
}
