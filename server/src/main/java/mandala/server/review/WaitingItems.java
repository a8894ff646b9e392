package mandala.server.review;

import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import org.springframework.stereotype.Component;

/** Finds what waits for a viewer, and says no where nothing does. */
@Component
class WaitingItems {

  private final ReviewStore store;

  WaitingItems(ReviewStore store) {
    this.store = store;
  }

  /**
   * {@return a round in which something is the viewer's to decide, or that they run}
   *
   * @throws Problem if there is none
   */
  Round requireRound(long number, RequestContext context) {
    String me = context.readPolicy().viewer().value();
    return store
        .round(number)
        .filter(it -> store.isReviewer(number, me) || RoundDesk.mayRun(it.order(), context))
        .orElseThrow(() ->
            Problem.notFound(
                "Nothing of a round " + number + " waits for you. Choose one from the list."));
  }

  /**
   * {@return an item that is the viewer's to decide}
   *
   * @param lock whether others who change it wait until the transaction ends
   * @throws Problem if there is none
   */
  RoundItem require(long round, int number, RequestContext context, boolean lock) {
    String me = context.readPolicy().viewer().value();
    return (lock ? store.lockedItem(round, number) : store.item(round, number))
        .filter(it -> me.equals(it.decider()))
        .orElseThrow(() ->
            Problem.notFound(
                "No item "
                    + number
                    + " of this round waits for you: somebody else decides it, or it is gone."
                    + " Choose another one."));
  }

  /**
   * {@return the same, locked, where it can be decided now}
   *
   * @throws Problem if the round is over, the item is, or it is about the viewer
   */
  RoundItem requireDecidable(long round, int number, RequestContext context) {
    Round of = requireRound(round, context);
    if (!of.isOpen()) {
      throw Problem.conflict(
          "The round “" + of.title() + "” is over",
          "Decisions count until it ends. Ask whoever runs it.");
    }
    RoundItem it = require(round, number, context, true);
    if (!it.isDecidable()) {
      throw Problem.conflict(
          it.state() == RoundItem.State.GONE
              ? "The model no longer has this"
              : "Your decision counts already",
          "Choose another item.");
    }
    if (it.item()
        .parties(context.state().engine().catalogue())
        .contains(context.readPolicy().viewer())) {
      throw Problem.forbidden("Nobody decides about themselves. Pass the item on.");
    }
    return it;
  }
}
