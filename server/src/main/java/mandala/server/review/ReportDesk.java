package mandala.server.review;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Supplied;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.document.ReviewText;
import mandala.server.authorization.RequestContext;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Gives out reports of rounds, has them signed, and finds what was decided about somebody. Whoever
 * may run a round or read the trail in all its accounts may ask; a file names everybody in it, so
 * that it is for those who may read all of them.
 */
@Service
class ReportDesk {

  /** Decisions about one person that are listed. */
  private static final int MOST = 500;

  private final ReviewStore store;
  private final SettlingStore settling;
  private final Reports reports;

  ReportDesk(ReviewStore store, SettlingStore settling, Reports reports) {
    this.store = store;
    this.settling = settling;
    this.reports = reports;
  }

  /** {@return whether somebody may read what a round came to} */
  static boolean mayRead(RoundOrder order, RequestContext context) {
    Catalogue catalogue = context.state().engine().catalogue();
    return RoundDesk.mayRun(order, context)
        || RoundDesk.accounts(order, catalogue).stream()
            .allMatch(it ->
                catalogue.accounts().containsKey(it)
                    && context.readPolicy().may(Supplied.TRAIL_READ, ResourceKey.of(it)));
  }

  private Round require(long number, RequestContext context) {
    return store
        .round(number)
        .filter(it -> mayRead(it.order(), context))
        .orElseThrow(
            () -> Problem.notFound("There is no round " + number + ". Choose one from the list."));
  }

  /**
   * {@return the newest report of a round as a file}
   *
   * @throws Problem if there is none, or it names somebody whom the viewer may not read
   */
  Reports.Kept file(long number, ReportFiles.Form form, RequestContext context) {
    Round round = require(number, context);
    Reports.Kept kept =
        reports
            .find(number, form)
            .orElseThrow(() ->
                Problem.conflict(
                    "The round “" + round.title() + "” has no report yet",
                    "It is written when the round closes. Open the round."));
    if (!readsAll(kept, context)) {
      throw Problem.forbidden(
          "The report names people whom you can't see. Ask whoever runs the round for your part"
              + " of it.");
    }
    return kept;
  }

  /** Whether the viewer may read everybody whom a report names; who is gone is no secret. */
  private static boolean readsAll(Reports.Kept kept, RequestContext context) {
    Catalogue catalogue = context.state().engine().catalogue();
    return kept.named().stream()
        .filter(it -> catalogue.principals().containsKey(new PrincipalKey(it)))
        .allMatch(it -> context.naming().tells(Kind.PRINCIPALS, it));
  }

  /** {@return what is to be said of a round's report} */
  ReportController.ReportState state(long number, RequestContext context) {
    Round round = require(number, context);
    boolean runs = RoundDesk.mayRun(round.order(), context);
    String by = round.course().signedBy();
    Reports.Kept kept = reports.find(number, ReportFiles.Form.JSON).orElse(null);
    return new ReportController.ReportState(
        number,
        round.title(),
        round.state().word(),
        reports.hashes(number),
        kept != null && readsAll(kept, context),
        runs && kept != null && by == null,
        by == null ? null : context.text().name(Kind.PRINCIPALS, by),
        round.course().signedAt());
  }

  /**
   * Signs the result of a round that closed: its report says so from then on.
   *
   * @param secondFactor whether one was shown just now
   */
  @Transactional
  public ReportController.ReportState sign(
      long number, boolean secondFactor, RequestContext context) {
    Round seen = require(number, context);
    if (!RoundDesk.mayRun(seen.order(), context)) {
      throw Problem.forbidden(
          "You need “Run reviews” in all accounts of this round. Ask whoever runs it.");
    }
    if (!secondFactor) {
      throw Problem.forbidden("Signing needs a second factor. Enrol one under You, then sign.");
    }
    store.lock(number);
    Round round = store.round(number).orElseThrow();
    Reports.Kept kept = reports.find(number, ReportFiles.Form.JSON).orElse(null);
    if (round.state() != Round.State.CLOSED || kept == null) {
      throw Problem.conflict(
          "The round “" + round.title() + "” has no report yet",
          "It is written when the round closes. Sign it then.");
    }
    if (kept.signed()) {
      throw Problem.conflict(
          "The round “" + round.title() + "” is signed already", "Open its report.");
    }
    sign(
        round,
        kept,
        context.readPolicy().viewer(),
        context.state().engine().catalogue(),
        context.readPolicy().now());
    return state(number, context);
  }

  private void sign(
      Round round, Reports.Kept kept, PrincipalKey by, Catalogue catalogue, Instant now) {
    Principal who = catalogue.principals().get(by);
    String name = who == null ? by.value() : who.about().nameOr(by);
    settling.signed(round.number(), by.value(), now);
    reports.keep(
        round,
        new Reports.Written(
            ReportFiles.read(kept.content().getByteArray())
                .signed(new RoundReport.ReviewSignature(by.value(), name, now, true)),
            kept.named()),
        "Signed",
        catalogue,
        now);
  }

  /** Signs a round of the demo. */
  @Transactional
  public void signAsItsOwner(Round round, LiveModel.State state, Instant at) {
    sign(
        round,
        reports.find(round.number(), ReportFiles.Form.JSON).orElseThrow(),
        new PrincipalKey(round.owner()),
        state.engine().catalogue(),
        at);
  }

  // ---- was somebody reviewed? -------------------------------------------------------------------

  /**
   * {@return what rounds asked about somebody and what was decided}, the newest first
   *
   * @param since rounds that ended, or will, from then on
   * @throws Problem if the viewer may not read them
   */
  ReportController.ReviewsOf about(String person, Instant since, RequestContext context) {
    if (!context.state().engine().catalogue().principals().containsKey(new PrincipalKey(person))
        || !context.naming().tells(Kind.PRINCIPALS, person)) {
      throw Problem.notFound(
          "There is nobody '" + person + "' that you may read. Choose from the list.");
    }
    ReviewText text = new ReviewText(context.state().engine().catalogue(), context.naming());
    Map<Long, Round> readable =
        readable(store.rounds(), Set.of(Round.State.OPEN, Round.State.CLOSED), context);
    readable.values().removeIf(it -> it.ends().isBefore(since));
    return new ReportController.ReviewsOf(
        context.text().name(Kind.PRINCIPALS, person),
        settling.aboutPerson(person, readable.keySet(), MOST).stream()
            .map(it -> row(it, Objects.requireNonNull(readable.get(it.round())), text, context))
            .toList());
  }

  /** The rounds in some states that a viewer may read, by number. */
  private static Map<Long, Round> readable(
      List<Round> rounds, Set<Round.State> states, RequestContext context) {
    Map<Long, Round> readable = new HashMap<>();
    rounds.stream()
        .filter(it -> states.contains(it.state()) && mayRead(it.order(), context))
        .forEach(it -> readable.put(it.number(), it));
    return readable;
  }

  private static ReportController.ReviewedItem row(
      RoundItem it, Round round, ReviewText text, RequestContext context) {
    String by = it.decidedBy();
    return new ReportController.ReviewedItem(
        it.round(),
        round.title(),
        round.state().word(),
        round.course().signedAt() != null,
        RoundDesk.mayRun(round.order(), context),
        it.number(),
        text.of(it.item()),
        it.verdict(),
        it.reason(),
        by == null ? null : context.text().name(Kind.PRINCIPALS, by),
        it.decider() == null ? null : context.text().name(Kind.PRINCIPALS, it.decider()),
        it.decidedAt(),
        it.state().word(),
        Reports.outcome(it),
        it.effect().revision(),
        it.effect().remark());
  }

  /** {@return the decisions that a revision carried out}, as far as the viewer may read them */
  ReportController.ReviewsOf ofRevision(long revision, RequestContext context) {
    ReviewText text = new ReviewText(context.state().engine().catalogue(), context.naming());
    Map<Long, Round> readable =
        readable(
            store.rounds(),
            Set.of(Round.State.OPEN, Round.State.CLOSED, Round.State.CANCELLED),
            context);
    return new ReportController.ReviewsOf(
        "revision " + revision,
        settling.ofRevision(revision).stream()
            .filter(it -> readable.containsKey(it.round()))
            .map(it -> row(it, Objects.requireNonNull(readable.get(it.round())), text, context))
            .toList());
  }
}
