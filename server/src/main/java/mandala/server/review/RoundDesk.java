package mandala.server.review;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import mandala.core.detect.Detection;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.review.Deciders;
import mandala.core.review.ReviewItem;
import mandala.document.ChangeText;
import mandala.document.ReviewText;
import mandala.document.TroubleText;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.finding.FoundTroubles;
import mandala.server.notice.NoticeKind;
import mandala.server.notice.Notices;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Makes and runs rounds: whoever may run reviews in all accounts of a round (section 11) makes it,
 * sees how it goes, and gives items to others.
 */
@Service
class RoundDesk {

  private static final RoundFigures.Sizes NONE = new RoundFigures.Sizes(0, 0);

  private final ReviewStore store;
  private final SettlingStore settling;
  private final CarryOut carrying;
  private final RoundFigures figures;
  private final Deputies deputies;
  private final FoundTroubles troubles;
  private final Notices notices;
  private final Trail trail;
  private final AuditContext auditContext;
  private final Clock clock;

  RoundDesk(
      ReviewStore store,
      SettlingStore settling,
      CarryOut carrying,
      RoundFigures figures,
      Deputies deputies,
      FoundTroubles troubles,
      Notices notices,
      Trail trail,
      AuditContext auditContext,
      Clock clock) {
    this.store = store;
    this.settling = settling;
    this.carrying = carrying;
    this.figures = figures;
    this.deputies = deputies;
    this.troubles = troubles;
    this.notices = notices;
    this.trail = trail;
    this.auditContext = auditContext;
    this.clock = clock;
  }

  // ---- who may ----------------------------------------------------------------------------------

  /** The accounts that a round is about: those of its order, else all roots. */
  static List<AccountKey> accounts(RoundOrder order, Catalogue catalogue) {
    return order.accounts().isEmpty()
        ? catalogue.accounts().values().stream()
            .filter(it -> it.parent() == null)
            .map(Account::key)
            .sorted(Comparator.comparing(AccountKey::value))
            .toList()
        : order.accounts().stream().map(AccountKey::new).toList();
  }

  private static boolean runs(AccountKey account, ReadPolicy policy) {
    return policy.may(Supplied.REVIEW_RUN, ResourceKey.of(account));
  }

  private static boolean reads(AccountKey account, ReadPolicy policy) {
    return runs(account, policy) || policy.may(Supplied.TRAIL_READ, ResourceKey.of(account));
  }

  /** {@return whether somebody may run a round} */
  static boolean mayRun(RoundOrder order, RequestContext context) {
    Catalogue catalogue = context.state().engine().catalogue();
    return accounts(order, catalogue).stream()
        .allMatch(it -> catalogue.accounts().containsKey(it) && runs(it, context.readPolicy()));
  }

  /**
   * Checks that somebody may run a round, and that what it names is there to their eyes.
   *
   * @throws Problem if not
   */
  static void requireRun(RoundOrder order, RequestContext context) {
    order.check(context.readPolicy().now());
    Catalogue catalogue = context.state().engine().catalogue();
    for (AccountKey it : accounts(order, catalogue)) {
      boolean known =
          catalogue.accounts().containsKey(it)
              && (context.naming().tells(Kind.ACCOUNTS, it.value())
                  || runs(it, context.readPolicy()));
      if (!known) {
        throw Problem.notFound("There is no account '" + it + "'. Choose one from the list.");
      }
      if (!runs(it, context.readPolicy())) {
        throw Problem.forbidden(context.needs(Supplied.REVIEW_RUN, ResourceKey.of(it)));
      }
    }
    ResourceKey place = order.scope().place();
    if (place != null && !(catalogue.has(place) && context.naming().tells(place))) {
      throw Problem.notFound("There is no place '" + place + "'. Choose one from the list.");
    }
    for (List<Deciders.By> stage : order.deciders()) {
      for (Deciders.By by : stage) {
        if (by instanceof Deciders.By.Named(PrincipalKey who)) {
          requirePerson(who.value(), context);
        }
      }
    }
  }

  /**
   * {@return an active person whom the viewer may read}
   *
   * @throws Problem if there is none
   */
  static Principal requirePerson(String key, RequestContext context) {
    Principal it = context.state().engine().catalogue().principals().get(new PrincipalKey(key));
    if (it == null
        || it.kind() != Principal.Kind.PERSON
        || !context.readPolicy().mayRead(it)
        || !context.state().engine().isActive(it.key(), context.readPolicy().now())) {
      throw Problem.notFound(
          "There is no active person '" + key + "' that you may name. Choose from the list.");
    }
    return it;
  }

  /**
   * {@return a round that somebody runs}
   *
   * @throws Problem if there is none to their eyes
   */
  Round require(long number, RequestContext context) {
    return store
        .round(number)
        .filter(it -> mayRun(it.order(), context))
        .orElseThrow(
            () -> Problem.notFound("There is no round " + number + ". Choose one from the list."));
  }

  // ---- before it is made ------------------------------------------------------------------------

  /** {@return what the maker of a round must know beside the model} */
  RoundMaker.Known known(RoundOrder order, Catalogue catalogue, Instant at) {
    return new RoundMaker.Known(
        deputies.at(at),
        store.givers(),
        order.only().equals("all") ? Map.of() : store.asked(),
        order.detectors().isEmpty() ? null : inFindings(order.detectors(), catalogue));
  }

  private Predicate<ReviewItem> inFindings(List<String> detectors, Catalogue catalogue) {
    Set<String> wanted = Set.copyOf(detectors);
    Collection<Detection> found =
        troubles.all().stream()
            .filter(it -> wanted.contains(it.trouble().detector().key()))
            .toList();
    return ItemFindings.of(found, catalogue)::isIn;
  }

  /**
   * {@return what a round would be}: how many items, and how many of them each reviewer gets
   *
   * @throws Problem if the viewer may not run it
   */
  ReviewController.RoundPreview preview(RoundOrder order, RequestContext context) {
    requireRun(order, context);
    Instant now = context.readPolicy().now();
    Catalogue catalogue = context.state().engine().catalogue();
    RoundMaker maker =
        new RoundMaker(context.state().engine(), order, known(order, catalogue, now), now);
    List<ReviewItem> items = maker.found();
    List<RoundMaker.Decided> decided = maker.decided(items);
    Map<String, Integer> loads = new LinkedHashMap<>();
    List<String> without = new ArrayList<>();
    int nobody = 0;
    ReviewText text = new ReviewText(catalogue, context.naming());
    for (int i = 0; i < items.size(); i++) {
      Deciders.Chosen who = decided.get(i).stages().getFirst().orElse(null);
      if (who == null) {
        nobody++;
        if (without.size() < 20) {
          without.add(aboutName(items.get(i), context) + ": " + text.of(items.get(i)));
        }
      } else {
        loads.merge(who.who().value(), 1, Integer::sum);
      }
    }
    int conflicts = (int) decided.stream().filter(it -> it.conflict() != null).count();
    return new ReviewController.RoundPreview(
        items.size(),
        (int) items.stream().map(ReviewItem::about).distinct().count(),
        loads.entrySet().stream()
            .sorted(
                Map.Entry.<String, Integer>comparingByValue()
                    .reversed()
                    .thenComparing(Map.Entry::getKey))
            .limit(500)
            .map(it ->
                new ReviewController.ReviewerLoad(
                    context.naming().tells(Kind.PRINCIPALS, it.getKey()) ? it.getKey() : null,
                    context.text().name(Kind.PRINCIPALS, it.getKey()),
                    it.getValue()))
            .toList(),
        loads.size(),
        nobody,
        without,
        conflicts);
  }

  static String aboutName(ReviewItem it, RequestContext context) {
    return context.text().name(TroubleText.kind(it.about()), it.about().value());
  }

  /** Notes in the trail what was done with a round. */
  void note(RoundOrder order, String said, RequestContext context) {
    Catalogue catalogue = context.state().engine().catalogue();
    trail.write(
        List.of(
            auditContext.by(
                AuditEvent.Act.CHANGED,
                accounts(order, catalogue).stream().map(AccountKey::value).toList(),
                said + " the review round “" + order.title() + "”")));
  }

  /** Plans a round, to be made when it begins. */
  @Transactional
  public long plan(RoundOrder order, RequestContext context) {
    requireRun(order, context);
    note(order, "Planned", context);
    return store.add(
        order,
        context.readPolicy().viewer().value(),
        Round.State.PLANNED,
        context.readPolicy().now(),
        null);
  }

  // ---- while it runs ----------------------------------------------------------------------------

  /** {@return the rounds that a viewer runs, and what waits for them in any} */
  ReviewController.RoundList list(RequestContext context) {
    Catalogue catalogue = context.state().engine().catalogue();
    String me = context.readPolicy().viewer().value();
    Map<Long, RoundFigures.Waiting> waiting =
        figures.waiting(me).stream()
            .collect(Collectors.toMap(RoundFigures.Waiting::round, it -> it));
    List<Round> all = store.rounds();
    Map<Long, RoundFigures.Sizes> sizes = figures.sizes();
    return new ReviewController.RoundList(
        catalogue.accounts().keySet().stream()
            .filter(it -> runs(it, context.readPolicy()))
            .map(AccountKey::value)
            .sorted()
            .toList(),
        all.stream()
            .filter(it -> waiting.containsKey(it.number()))
            .map(it -> mine(it, Objects.requireNonNull(waiting.get(it.number()))))
            .toList(),
        all.stream()
            .filter(it -> mayRun(it.order(), context))
            .map(it -> view(it, sizes.getOrDefault(it.number(), NONE), context))
            .toList(),
        catalogue.accounts().keySet().stream().anyMatch(it -> reads(it, context.readPolicy())),
        all.stream()
            .filter(it -> it.state() == Round.State.OPEN || it.state() == Round.State.CLOSED)
            .filter(it -> !mayRun(it.order(), context) && ReportDesk.mayRead(it.order(), context))
            .map(it -> view(it, sizes.getOrDefault(it.number(), NONE), context))
            .toList(),
        store.askedOf(me).stream().map(it -> asked(it, context)).toList());
  }

  private static ReviewController.MyRound mine(Round it, RoundFigures.Waiting waiting) {
    return new ReviewController.MyRound(
        it.number(), it.title(), it.ends(), waiting.items(), waiting.decided());
  }

  private ReviewController.AskedView asked(ReviewStore.Asked it, RequestContext context) {
    RoundItem item = store.item(it.round(), it.item()).orElseThrow();
    ReviewText text = new ReviewText(context.state().engine().catalogue(), context.naming());
    return new ReviewController.AskedView(
        it.round(),
        it.item(),
        context.text().name(Kind.PRINCIPALS, it.who()),
        text.of(item.item()),
        it.said(),
        it.at());
  }

  private static ReviewController.RoundView view(
      Round it, RoundFigures.Sizes sizes, RequestContext context) {
    ChangeText text = context.text();
    return new ReviewController.RoundView(
        it.number(),
        it.title(),
        it.order().seen(context),
        text.name(Kind.PRINCIPALS, it.owner()),
        it.state().word(),
        it.begins(),
        it.ends(),
        it.revision(),
        it.cause(),
        it.reason(),
        it.heldUp(),
        it.isOpen() && it.course().lateSince() != null,
        sizes.all(),
        sizes.finished());
  }

  /**
   * {@return how a round goes}: of each reviewer how much is left, how they decide, and how fast
   *
   * @throws Problem if the viewer does not run it
   */
  ReviewController.RoundDetail detail(long number, RequestContext context) {
    Round round = require(number, context);
    Map<String, Double> pace = figures.pace(number);
    Map<String, RoundFigures.Controls> controls = figures.controls(number);
    List<ReviewController.ReviewerView> reviewers = new ArrayList<>();
    int[] sums = new int[2];
    figures
        .progress(number)
        .forEach((key, it) -> {
          sums[0] += it.all();
          sums[1] += it.decided() + it.done() + it.gone();
          RoundFigures.Controls met = controls.get(key);
          int decided = it.kept() + it.reduced() + it.removed();
          boolean told = !key.isEmpty() && context.naming().tells(Kind.PRINCIPALS, key);
          reviewers.add(
              new ReviewController.ReviewerView(
                  told ? key : null,
                  key.isEmpty() ? "No one" : context.text().name(Kind.PRINCIPALS, key),
                  it.all() - it.gone(),
                  it.all() - it.gone() - it.decided() - it.done(),
                  it.kept(),
                  it.reduced(),
                  it.removed(),
                  decided == 0 ? null : (double) it.kept() / decided,
                  pace.get(key),
                  met == null ? 0 : met.decided(),
                  met == null ? 0 : met.kept()));
        });
    return new ReviewController.RoundDetail(
        view(round, new RoundFigures.Sizes(sums[0], sums[1]), context), reviewers);
  }

  /** Cancels a round that is not over. */
  @Transactional
  public ReviewController.RoundDetail cancel(long number, String reason, RequestContext context) {
    Round round = require(number, context);
    store.lock(number);
    if (round.state() == Round.State.CLOSED || round.state() == Round.State.CANCELLED) {
      throw Problem.conflict(
          "The round “" + round.title() + "” is over", "Choose one that is open or planned.");
    }
    settling.drafts(number).forEach(it -> carrying.free(number, it));
    store.ended(number, Round.State.CANCELLED, reason.strip(), context.readPolicy().now());
    note(round.order(), "Cancelled (“" + reason.strip() + "”)", context);
    return detail(number, context);
  }

  /**
   * Gives items of a round that are not decided to somebody else.
   *
   * @param from key of whose they are; empty for those of nobody
   * @return how many; those about whom they are given to stay
   */
  @Transactional
  public int give(long number, String from, String to, RequestContext context) {
    Round round = require(number, context);
    if (!round.isOpen()) {
      throw Problem.conflict("The round is not open", "Choose an open round.");
    }
    Principal whom = requirePerson(to, context);
    Catalogue catalogue = context.state().engine().catalogue();
    List<RoundItem> some = from.isEmpty() ? store.ofNobody(number) : store.itemsOf(number, from);
    int given = 0;
    for (RoundItem it : some) {
      if (it.state() == RoundItem.State.OPEN
          && !it.item().parties(catalogue).contains(whom.key())) {
        store.pass(it, to, "given");
        store.note(
            number,
            it.number(),
            new ReviewStore.Act(
                "given", context.readPolicy().viewer().value(), clock.instant(), null, null, to));
        given++;
      }
    }
    if (given > 0) {
      note(round.order(), "Gave " + given + " items to somebody else in", context);
      tell(to, round, given);
    }
    return given;
  }

  /** Tells a reviewer that items wait for them. */
  void tell(String whom, Round round, int items) {
    notices.tell(
        whom,
        new Notices.Notice(
            NoticeKind.REVIEW_WAITS,
            (items == 1 ? "1 item waits" : items + " items wait")
                + " for your decision in “"
                + round.title()
                + "”.",
            "/reviews/" + round.number()));
  }

  /** Tells each reviewer of a round that it has begun. */
  void tellAll(Round round, List<RoundItem> items) {
    Map<String, Integer> loads = new LinkedHashMap<>();
    for (RoundItem it : items) {
      if (it.decider() != null) {
        loads.merge(it.decider(), 1, Integer::sum);
      }
    }
    loads.forEach((who, many) -> tell(who, round, many));
  }
}
