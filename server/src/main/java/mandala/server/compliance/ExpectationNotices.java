package mandala.server.compliance;

import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Set;
import mandala.core.compliance.Finding;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Expectation;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Session;
import mandala.core.question.WhoQuestion;
import mandala.server.authorization.RequestContexts;
import mandala.server.model.LiveModel;
import mandala.server.notice.NoticeKind;
import mandala.server.notice.Notices;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionalEventListener;

/** Tells those who can change an expectation that it began to fail. */
@Component
class ExpectationNotices {

  /** Maximum number of people told of one expectation. */
  private static final int MOST = 50;

  private final LiveModel model;
  private final Notices notices;
  private final RequestContexts contexts;
  private final Clock clock;

  ExpectationNotices(LiveModel model, Notices notices, RequestContexts contexts, Clock clock) {
    this.model = model;
    this.notices = notices;
    this.contexts = contexts;
    this.clock = clock;
  }

  @TransactionalEventListener(fallbackExecution = true)
  void began(ComplianceMonitor.ViolationBegan violation) {
    Engine engine = model.engine();
    engine.catalogue().model().expectations().stream()
        .filter(it -> Finding.idOf(it.key()).equals(violation.about()))
        .forEach(it -> tell(it, engine));
  }

  private void tell(Expectation expectation, Engine engine) {
    Catalogue catalogue = engine.catalogue();
    Instant now = clock.instant().truncatedTo(ChronoUnit.SECONDS);
    AccountKey owner = expectation.account();
    List<AccountKey> accounts =
        owner != null
            ? List.of(owner)
            : catalogue.accounts().values().stream()
                .filter(it -> it.parent() == null)
                .map(it -> it.key())
                .toList();
    accounts.stream()
        .flatMap(account ->
            engine
                .whoCan(
                    new WhoQuestion(
                        Set.of(Supplied.RIGHTS_DEFINE),
                        new WhoQuestion.Where.On(ResourceKey.of(account)),
                        now,
                        true))
                .allowed()
                .stream())
        .map(it -> it.principal())
        .distinct()
        .filter(it ->
            contexts
                .of(new Session(it, now, true, null))
                .readPolicy()
                .mayRead(expectation, catalogue))
        .limit(MOST)
        .forEach(it ->
            notices.tell(
                it.value(),
                new Notices.Notice(
                    NoticeKind.EXPECTATION_FAILS,
                    "The expectation “"
                        + expectation.about().nameOr(expectation.key())
                        + "” began to fail.",
                    "/checks")));
  }
}
