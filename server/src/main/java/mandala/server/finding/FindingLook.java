package mandala.server.finding;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import mandala.core.analysis.Peers;
import mandala.core.change.Change;
import mandala.core.detect.Detection;
import mandala.core.detect.Detector;
import mandala.core.detect.Detectors;
import mandala.core.detect.Inquiry;
import mandala.core.engine.Engine;
import mandala.core.model.Account;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.Key;
import mandala.document.Naming;
import mandala.document.TroubleText;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.excess.ExcessStudies;
import mandala.server.model.History;
import mandala.server.model.LiveModel;
import mandala.server.model.Revision;
import mandala.server.schedule.WorkWhereChanged;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Has detectors look at the model where it, the use or the day has changed; keeps what they find,
 * and writes what is new and what is resolved into the trail. The first look of all only remembers.
 */
@Component
public class FindingLook extends WorkWhereChanged {

  /** For how long resolved findings are kept. */
  private static final Duration KEPT = Duration.ofDays(90);

  /** Number of findings that each get a line of the trail; of more, each detector gets one. */
  private static final int EACH = 50;

  /** Number of revisions gone back to find who moved. */
  private static final int MOST_REVISIONS = 2_000;

  private final LiveModel model;
  private final History history;
  private final ExcessStudies studies;
  private final FindingStore store;
  private final Trail trail;
  private final TransactionTemplate transactions;
  private final Clock clock;
  private final ZoneId zone;

  FindingLook(
      LiveModel model,
      History history,
      ExcessStudies studies,
      FindingStore store,
      Trail trail,
      TransactionTemplate transactions,
      Clock clock,
      @Value("${mandala.zone}") ZoneId zone) {
    super(clock);
    this.model = model;
    this.history = history;
    this.studies = studies;
    this.store = store;
    this.trail = trail;
    this.transactions = transactions;
    this.clock = clock;
    this.zone = zone;
  }

  @Override
  public String name() {
    return "findings";
  }

  @Override
  public String description() {
    return "Looks for unused access, leftovers, missing owners and other trouble.";
  }

  @Override
  public boolean doWhereChanged() {
    Instant now = clock.instant().truncatedTo(ChronoUnit.SECONDS);
    LiveModel.State state = model.state();
    ExcessStudies.Basis basis = studies.basis(state, LocalDate.ofInstant(now, zone));
    if (basis.equals(store.basis())) {
      return false;
    }
    look(state, basis, now);
    return true;
  }

  private void look(LiveModel.State state, ExcessStudies.Basis basis, Instant now) {
    ExcessStudies.Everybody of = studies.everybody(state, basis, now);
    Detectors.Answer answer =
        Detectors.of(
            new Inquiry(
                state.engine(),
                of.then(),
                of.window(),
                of.use(),
                moves(state).iterator(),
                day -> models(day, state)),
            (_, _) -> !Thread.currentThread().isInterrupted());
    if (!answer.whole()) {
      return;
    }
    transactions.executeWithoutResult(_ -> keep(answer, state, basis, now));
  }

  private void keep(
      Detectors.Answer answer, LiveModel.State state, ExcessStudies.Basis basis, Instant now) {
    store.lock();
    ExcessStudies.Basis kept = store.basis();
    if (kept != null && kept.sawAsMuchAs(basis)) {
      return; // another look, made meanwhile, saw as much
    }
    boolean first = kept == null;
    Map<String, KeptFinding> before = new HashMap<>();
    if (!first) {
      store.read().findings().forEach(it -> before.put(it.it().id(), it));
    }
    List<KeptFinding> changed = new ArrayList<>();
    List<Detection> news = new ArrayList<>();
    for (Detection it : answer.found()) {
      KeptFinding was = before.remove(it.id());
      if (was == null || was.resolvedAt() != null) {
        news.add(it);
        changed.add(new KeptFinding(it, now, state.revision(), null));
      } else if (!was.it().equals(it)) {
        changed.add(new KeptFinding(it, was.since(), was.revision(), null));
      }
    }
    List<Detection> gone = new ArrayList<>();
    before.values().stream()
        .filter(it -> it.resolvedAt() == null)
        .forEach(it -> {
          gone.add(it.it());
          changed.add(new KeptFinding(it.it(), it.since(), it.revision(), now));
        });
    store.write(changed);
    store.forget(now.minus(KEPT));
    store.looked(basis, now, answer.cut());
    if (!first) {
      List<AuditEvent> lines = lines("New finding: ", news, state);
      lines.addAll(lines("Resolved: ", gone, state));
      trail.write(lines);
    }
  }

  // ---- the trail --------------------------------------------------------------------------------

  /** A trail's reader is told what it is about and what was looked for, and no more. */
  private static List<AuditEvent> lines(String what, List<Detection> some, LiveModel.State state) {
    TroubleText text = new TroubleText(state.engine().catalogue(), Naming.ALL);
    List<AuditEvent> lines = new ArrayList<>();
    if (some.size() <= EACH) {
      for (Detection it : some) {
        String title = TroubleText.title(it.trouble().detector());
        lines.add(about(it.trouble().about(), line(it, what + title, state), text));
      }
      return lines;
    }
    Map<Detector, Map<List<String>, List<Detection>>> groups = new TreeMap<>();
    for (Detection it : some) {
      groups
          .computeIfAbsent(it.trouble().detector(), _ -> new HashMap<>())
          .computeIfAbsent(accounts(it, state.engine()), _ -> new ArrayList<>())
          .add(it);
    }
    groups.forEach((detector, byAccount) ->
        byAccount
            .values()
            .forEach(same ->
                lines.add(
                    line(
                        same.getFirst(),
                        what + TroubleText.title(detector) + ", " + same.size() + " times",
                        state))));
    return lines;
  }

  /** Names what a line is about; not an assignment, which may be of several accounts. */
  static AuditEvent about(Key about, AuditEvent line, TroubleText text) {
    return about instanceof AssignmentKey
        ? line
        : line.about(TroubleText.kind(about).field(), about.value(), text.name(about), List.of());
  }

  private static AuditEvent line(Detection it, String said, LiveModel.State state) {
    return new AuditEvent(
        AuditEvent.Act.CHECKED,
        null,
        "Mandala",
        null,
        state.revision(),
        null,
        null,
        null,
        accounts(it, state.engine()),
        List.of(),
        said,
        null,
        null,
        null);
  }

  /** Whose trail tells of it: the account of what it is about, else all roots. */
  private static List<String> accounts(Detection it, Engine engine) {
    AccountKey account = FindingAccount.of(it.trouble(), engine.catalogue());
    return account != null
        ? List.of(account.value())
        : engine.catalogue().accounts().values().stream()
            .filter(each -> each.parent() == null)
            .map(Account::key)
            .map(AccountKey::value)
            .toList();
  }

  // ---- the past ---------------------------------------------------------------------------------

  /** The models in force on a day: at its beginning, and after each of its revisions. */
  private List<Engine> models(Instant morning, LiveModel.State state) {
    long from = Math.max(1, history.revisionAt(morning).orElse(1));
    long to = Math.max(from, history.revisionAt(morning.plus(1, ChronoUnit.DAYS)).orElse(from));
    List<Engine> models = new ArrayList<>();
    for (long number = Math.max(from, to - 5); number <= Math.min(to, state.revision()); number++) {
      Engine engine = history.engineAt(number, state);
      if (engine != null) {
        models.add(engine);
      }
    }
    return models;
  }

  private List<Inquiry.Move> moves(LiveModel.State state) {
    List<Inquiry.Move> moves = new ArrayList<>();
    for (Revision entry : history.entries(state.revision() + 1, MOST_REVISIONS)) {
      List<Change> changes = entry.changes();
      for (Change change : changes == null ? List.<Change>of() : changes) {
        if (change instanceof Change.Altered(Principal was, Principal is) && moved(was, is)) {
          Engine before = history.engineAt(entry.number() - 1, state);
          if (before != null) {
            moves.add(new Inquiry.Move(was, entry.at(), before.catalogue()));
          }
        }
      }
    }
    return moves;
  }

  private static boolean moved(Principal was, Principal is) {
    return !was.account().equals(is.account())
        || !Objects.equals(was.unit(), is.unit())
        || !Objects.equals(title(was), title(is));
  }

  private static @Nullable String title(Principal it) {
    return it.attributes().get(Peers.TITLE);
  }
}
