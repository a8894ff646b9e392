package mandala.server.review;

import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.core.review.ItemStudy;
import mandala.core.review.ReviewItems;
import mandala.server.authorization.RequestContext;
import mandala.server.model.LiveModel;
import mandala.server.notice.NoticeKind;
import mandala.server.notice.Notices;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Takes decisions of whoever an item waits for. Each is written at once and can be undone until
 * they finish; then it counts, or the next stage decides.
 */
@Service
class DecisionDesk {

  private final ReviewStore store;
  private final EvidenceReader evidence;
  private final WaitingItems waiting;
  private final Acquaintances acquaintances;
  private final KnownItems known;
  private final Notices notices;

  DecisionDesk(
      ReviewStore store,
      EvidenceReader evidence,
      WaitingItems waiting,
      Acquaintances acquaintances,
      KnownItems known,
      Notices notices) {
    this.store = store;
    this.evidence = evidence;
    this.waiting = waiting;
    this.acquaintances = acquaintances;
    this.known = known;
    this.notices = notices;
  }

  /**
   * A decision as it is kept.
   *
   * @param changes how an item is reduced
   * @param expected rights that it takes
   */
  record Kept(
      String verdict,
      @Nullable String reason,
      @Nullable String changes,
      List<String> with,
      String facts,
      @Nullable Long expected) {

    /** {@return that an item is kept} */
    static Kept keep(@Nullable String reason, String facts) {
      return new Kept("keep", reason, null, List.of(), facts, null);
    }
  }

  // ---- reading ----------------------------------------------------------------------------------

  /**
   * {@return what somebody decides in a round}, by number
   *
   * @throws Problem if nothing of it waits for them
   */
  ReviewController.MyItems mine(long number, RequestContext context) {
    Round round = waiting.requireRound(number, context);
    String me = context.readPolicy().viewer().value();
    List<RoundItem> items = store.itemsOf(number, me);
    return new ReviewController.MyItems(
        number,
        round.title(),
        round.state().word(),
        round.ends(),
        round.order().stages().size(),
        acquaintances.targets(context),
        ItemRows.all(items, round.isOpen(), context));
  }

  /** {@return an item with its evidence, for whoever must decide it} */
  ItemView item(long round, int number, RequestContext context) {
    Round of = waiting.requireRound(round, context);
    RoundItem it = waiting.require(round, number, context, false);
    if (!of.isOpen() || !it.isDecidable()) {
      throw Problem.conflict(
          "This item is not open",
          "What was to be read for a decision can't be read any longer. Choose an open item.");
    }
    return evidence.of(it, context);
  }

  // ---- deciding ---------------------------------------------------------------------------------

  /**
   * Decides an item.
   *
   * @throws Problem if it is not the viewer's to decide, has changed since they saw it, or asks for
   *     a reason
   */
  @Transactional
  public ItemView.ItemRow decide(
      long round, int number, ReviewController.DecisionOrder order, RequestContext context) {
    RoundItem it = waiting.requireDecidable(round, number, context);
    Instant now = now(context);
    String facts = requireAsSeen(it, order.facts(), context);
    String reason = blankToNull(order.reason());
    String changes = null;
    switch (order.verdict()) {
      case "keep" -> requireReason(it, reason);
      case "remove" -> {
        // what goes with it is checked below
      }
      case "reduce" -> changes = reduction(it, order, context);
      default ->
          throw Problem.badRequest(
              "'" + order.verdict() + "' is no decision", "Choose keep, reduce or remove.");
    }
    List<String> with =
        order.verdict().equals("remove") && order.with() != null
            ? companions(it, order.with(), context)
            : List.of();
    store.decide(
        it,
        new Kept(order.verdict(), reason, changes, with, facts, expected(it, order, with, context)),
        context.readPolicy().viewer().value(),
        now);
    note(it, "decided", order.verdict(), reason, null, context);
    return ItemRows.open(store.item(round, number).orElseThrow(), context);
  }

  private static Instant now(RequestContext context) {
    return context.readPolicy().now();
  }

  private static @Nullable String blankToNull(@Nullable String text) {
    return text == null || text.isBlank() ? null : text.strip();
  }

  /** {@return the facts of an item now}, which are those that the viewer saw */
  private String requireAsSeen(RoundItem it, String seen, RequestContext context) {
    if (it.control()) {
      return it.facts();
    }
    LiveModel.State state = context.state();
    if (!it.item().isIn(state.engine().catalogue())) {
      throw Problem.conflict("The model no longer has this", "Choose another item.");
    }
    String facts = known.facts(it.item(), state, now(context));
    if (!facts.equals(seen)) {
      throw Problem.conflict(
          "This changed since you looked at it", "Look at it again, then decide.");
    }
    return facts;
  }

  /** {@return the rights that a removal takes}, with all that goes with it */
  private @Nullable Long expected(
      RoundItem it,
      ReviewController.DecisionOrder order,
      List<String> with,
      RequestContext context) {
    if (it.control() || !order.verdict().equals("remove")) {
      return null;
    }
    ReviewItems items = known.of(context.state(), now(context));
    OptionalLong takes =
        new ItemStudy(context.state().engine(), items, now(context))
            .takes(it.item(), DecidedChanges.named(with, it.item(), items));
    return takes.isPresent() ? takes.getAsLong() : null;
  }

  private static void requireReason(RoundItem it, @Nullable String reason) {
    boolean risky = "high".equals(it.risk()) || "critical".equals(it.risk());
    boolean against = it.recommended() != null && !it.recommended().equals("keep");
    if (reason == null && (risky || against)) {
      throw Problem.badRequest(
          "Keeping this needs a reason",
          (risky
                  ? "It may give permissions of " + it.risk() + " risk"
                  : "The recommendation is to " + it.recommended() + " it")
              + ". Write why it stays.");
    }
  }

  private String reduction(
      RoundItem it, ReviewController.DecisionOrder order, RequestContext context) {
    String way = order.reduction() == null ? "" : order.reduction();
    Instant until = order.until() == null ? null : order.until().truncatedTo(ChronoUnit.SECONDS);
    if (until != null && !until.isAfter(now(context))) {
      throw Problem.badRequest("The end is over already", "Choose a time that comes.");
    }
    Engine engine = context.state().engine();
    boolean possible =
        !Reductions.changes(
                way,
                until,
                it.item(),
                evidence.findings(it.item(), engine.catalogue()),
                engine,
                now(context))
            .isEmpty();
    if (!possible && !it.control()) {
      throw Problem.badRequest(
          "This can't be reduced so",
          "Choose one of the ways that the item offers, with its date.");
    }
    return new DecidedChanges.Reduction(way, until).json();
  }

  /** {@return the ids of what goes with an item}, by the marks that the viewer has of them */
  private List<String> companions(RoundItem it, List<String> marks, RequestContext context) {
    PrincipalKey whose = it.item().whose().orElse(null);
    Map<String, String> possible = new HashMap<>();
    if (whose != null && !marks.isEmpty()) {
      known
          .of(context.state(), now(context))
          .of(whose)
          .forEach(each -> possible.put(context.mark("item " + each.id()), each.id()));
    }
    List<String> ids = new ArrayList<>();
    for (String mark : marks) {
      String id = possible.get(mark);
      if (id == null) {
        throw Problem.badRequest(
            "'" + mark + "' can't go with this", "Choose from what the item offers.");
      }
      ids.add(id);
    }
    return ids;
  }

  /**
   * Decides several items at once: to keep those of low risk that are alike.
   *
   * @return how many
   */
  @Transactional
  public int keepAlike(long round, ReviewController.AlikeOrder order, RequestContext context) {
    List<RoundItem> some = new ArrayList<>();
    Set<String> alike = new HashSet<>();
    for (int number : order.items().stream().sorted().distinct().toList()) {
      RoundItem it = waiting.requireDecidable(round, number, context);
      if (it.risk() != null && !it.risk().equals("low")) {
        throw Problem.badRequest(
            "Items of " + it.risk() + " risk are decided one by one",
            "Choose items of low risk only.");
      }
      if (it.recommended() != null && !it.recommended().equals("keep")) {
        throw Problem.badRequest(
            "One of them is recommended to " + it.recommended(), "Decide that one by itself.");
      }
      requireAsSeen(it, it.facts(), context);
      alike.add(ItemRows.open(it, context).alike());
      some.add(it);
    }
    if (alike.size() > 1) {
      throw Problem.badRequest(
          "These items are not alike", "Choose items that give the same thing.");
    }
    String reason = blankToNull(order.reason());
    for (RoundItem it : some) {
      store.decide(
          it, Kept.keep(reason, it.facts()), context.readPolicy().viewer().value(), now(context));
      note(it, "decided", "keep", reason, null, context);
    }
    return some.size();
  }

  /** Undoes a decision that does not count yet. */
  @Transactional
  public ItemView.ItemRow undo(long round, int number, RequestContext context) {
    RoundItem it = waiting.requireDecidable(round, number, context);
    if (it.state() == RoundItem.State.DECIDED) {
      store.undo(it);
      note(it, "undone", null, null, null, context);
    }
    return ItemRows.open(store.item(round, number).orElseThrow(), context);
  }

  /** Passes an item on to another person. */
  @Transactional
  public void pass(
      long round, int number, ReviewController.PassOrder order, RequestContext context) {
    RoundItem it = waiting.requireDecidable(round, number, context);
    Catalogue catalogue = context.state().engine().catalogue();
    PrincipalKey to = new PrincipalKey(order.to());
    Principal whom = catalogue.principals().get(to);
    boolean known =
        whom != null
            && whom.kind() == Principal.Kind.PERSON
            && acquaintances.isKnown(whom, context)
            && context.state().engine().isActive(to, now(context));
    if (!known) {
      throw Problem.notFound(
          "There is no active person '"
              + order.to()
              + "' that you may name. Choose from the list.");
    }
    if (it.item().parties(catalogue).contains(to)) {
      throw Problem.badRequest(
          "Nobody decides about themselves", "Choose somebody else to pass it on to.");
    }
    store.pass(it, order.to(), "passed");
    note(it, "passed", null, blankToNull(order.said()), order.to(), context);
    notices.tell(
        order.to(),
        new Notices.Notice(
            NoticeKind.REVIEW_WAITS,
            "An item was passed on to you for your decision.",
            "/reviews/" + round));
  }

  /** Asks whoever has an item about it. */
  @Transactional
  public void ask(long round, int number, String said, RequestContext context) {
    RoundItem it = waiting.requireDecidable(round, number, context);
    Principal whose =
        it.item().whose().map(context.state().engine().catalogue().principals()::get).orElse(null);
    if (it.control() || whose == null || whose.kind() != Principal.Kind.PERSON) {
      throw Problem.badRequest(
          "There is nobody to ask about this", "Choose an item of a person, or decide it.");
    }
    note(it, "asked", null, said.strip(), whose.key().value(), context);
    notices.tell(
        whose.key().value(),
        new Notices.Notice(
            NoticeKind.REVIEW_ASKS,
            myName(context) + " asks about your access: " + said.strip(),
            "/you/reviews"));
  }

  private static String myName(RequestContext context) {
    PrincipalKey me = context.readPolicy().viewer();
    Principal it = context.state().engine().catalogue().principals().get(me);
    return it == null ? me.value() : it.about().nameOr(me);
  }

  /** Answers what the viewer is asked about an item of theirs. */
  @Transactional
  public void answer(long round, int number, String said, RequestContext context) {
    String me = context.readPolicy().viewer().value();
    ReviewStore.Asked asked =
        store.askedOf(me).stream()
            .filter(it -> it.round() == round && it.item() == number)
            .findFirst()
            .orElseThrow(
                () -> Problem.notFound("Nobody asks you about this. Look at what you are asked."));
    store.note(
        round, number, new ReviewStore.Act("answered", me, now(context), null, said.strip(), null));
    notices.tell(
        asked.who(),
        new Notices.Notice(
            NoticeKind.REVIEW_ANSWERED,
            myName(context) + " answered your question: " + said.strip(),
            "/reviews/" + round));
  }

  /** Says something of an item. */
  @Transactional
  public void comment(long round, int number, String said, RequestContext context) {
    note(
        waiting.requireDecidable(round, number, context),
        "commented",
        null,
        said.strip(),
        null,
        context);
  }

  private void note(
      RoundItem it,
      String act,
      @Nullable String verdict,
      @Nullable String said,
      @Nullable String whom,
      RequestContext context) {
    store.note(
        it.round(),
        it.number(),
        new ReviewStore.Act(
            act, context.readPolicy().viewer().value(), now(context), verdict, said, whom));
  }
}
