package mandala.server.review;

import java.time.Instant;
import java.util.List;
import mandala.core.engine.Engine;
import mandala.core.excess.Excess;
import mandala.core.excess.Use;
import mandala.core.excess.UseWindow;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.server.authorization.RequestContexts;
import mandala.server.model.History;
import mandala.server.model.LiveModel;
import mandala.server.notice.NoticeKind;
import mandala.server.notice.Notices;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Closes rounds in which every decision is in force or answered for. */
@Component
class RoundCloser {

  private static final String GIVEN_AGAIN = "It was granted again after the decision took effect";

  private final ReviewStore store;
  private final SettlingStore settling;
  private final KnownItems known;
  private final LiveModel model;
  private final History history;
  private final Reports reports;
  private final RequestContexts contexts;
  private final Notices notices;
  private final TransactionTemplate transactions;

  RoundCloser(
      ReviewStore store,
      SettlingStore settling,
      KnownItems known,
      LiveModel model,
      History history,
      Reports reports,
      RequestContexts contexts,
      Notices notices,
      TransactionTemplate transactions) {
    this.store = store;
    this.settling = settling;
    this.known = known;
    this.model = model;
    this.history = history;
    this.reports = reports;
    this.contexts = contexts;
    this.notices = notices;
    this.transactions = transactions;
  }

  /** Closes a round, where nothing is left to do and what is in force still is. */
  void close(Round round, Instant now) {
    LiveModel.State state = model.state();
    long[] exposure = exposures(round, state, now);
    transactions.executeWithoutResult(_ -> {
      store.lock(round.number());
      Round fresh = store.round(round.number()).orElseThrow();
      if (!fresh.isOpen() || settling.sizes(round.number()).left() > 0) {
        return;
      }
      boolean whole = true;
      for (RoundItem it : settling.inForce(round.number())) {
        if (!CarryOut.isInForce(it, known, state, now)) {
          settling.returned(it, GIVEN_AGAIN);
          store.note(
              it.round(),
              it.number(),
              new ReviewStore.Act("returned", null, now, it.verdict(), GIVEN_AGAIN, null));
          whole = false;
        }
      }
      if (whole) {
        store.ended(round.number(), Round.State.CLOSED, null, now);
        report(fresh, state, exposure, now);
        tell(round);
      }
    });
  }

  /** Writes the report of a round that closed, in the running transaction. */
  private void report(Round round, LiveModel.State state, long[] exposure, Instant now) {
    settling.exposures(round.number(), exposure[0], exposure[1]);
    reports.keep(
        round,
        reports.write(
            round,
            contexts.of(new Session(new PrincipalKey(round.owner()), now, true, null)),
            now,
            exposure[0],
            exposure[1]),
        "Closed",
        state.engine().catalogue(),
        now);
  }

  /** Writes the report of a round that closed at an instant. */
  void report(Round round, LiveModel.State state, Instant at) {
    long[] exposure = exposures(round, state, at);
    transactions.executeWithoutResult(_ -> report(round, state, exposure, at));
  }

  private void tell(Round round) {
    notices.tell(
        round.owner(),
        new Notices.Notice(
            NoticeKind.REVIEW_ENDED,
            "The review round “" + round.title() + "” closed. Sign its result.",
            "/reviews/" + round.number() + "/report"));
  }

  /** The exposure of whose access it asked about, when it was made and now. */
  private long[] exposures(Round round, LiveModel.State state, Instant now) {
    List<PrincipalKey> whose =
        settling.subjects(round.number()).stream().map(PrincipalKey::new).toList();
    Long revision = round.revision();
    Engine before = revision == null ? null : history.engineAt(revision, state);
    return new long[] {
      before == null ? 0 : exposure(before, whose, round.begins()),
      exposure(state.engine(), whose, now)
    };
  }

  private static long exposure(Engine engine, List<PrincipalKey> whose, Instant at) {
    return engine
        .excess(engine, Use.NONE, new UseWindow(at, 1))
        .of(whose.stream().filter(engine.catalogue().principals()::containsKey).toList())
        .stream()
        .mapToLong(Excess::exposure)
        .sum();
  }
}
