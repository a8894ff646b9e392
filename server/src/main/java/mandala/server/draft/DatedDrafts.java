package mandala.server.draft;

import com.github.kagkarlsson.scheduler.task.CompletionHandler;
import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.notice.NoticeKind;
import mandala.server.notice.Notices;
import mandala.server.platform.BackOff;
import mandala.server.platform.Problem;
import mandala.server.schedule.Queue;
import mandala.server.schedule.Queues;
import mandala.server.schedule.Worker;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Applies drafts at a date (section 11, "what happens by itself"): judged when the date is set, and
 * again then by the rights that the owner has then, with a second factor. What can't be applied
 * then waits in its owner's list and says why.
 */
@Component
class DatedDrafts implements Worker {

  private static final String TASK = "dated-draft";

  /** How far ahead a date may be. */
  private static final Duration FARTHEST = Duration.ofDays(366);

  private static final BackOff BACK_OFF = new BackOff(Duration.ofSeconds(30), Duration.ofHours(1));

  private static final CompletionHandler<Void> DONE = (_, operations) -> operations.remove();

  private final Drafts drafts;
  private final DraftApplier applying;
  private final RequestContexts contexts;
  private final Queues queues;
  private final Notices notices;
  private final Clock clock;
  private final TransactionTemplate transactions;

  DatedDrafts(
      Drafts drafts,
      DraftApplier applying,
      RequestContexts contexts,
      Queues queues,
      Notices notices,
      Clock clock,
      TransactionTemplate transactions) {
    this.transactions = transactions;
    this.drafts = drafts;
    this.applying = applying;
    this.contexts = contexts;
    this.queues = queues;
    this.notices = notices;
    this.clock = clock;
  }

  /**
   * Has a draft applied at an instant.
   *
   * @param content the hash of what its owner has seen
   * @param owner with the second factor as it was shown just now
   * @throws Problem if it could not be applied now, or the instant is past or too far ahead
   */
  void set(String id, String content, Instant at, Session owner, RequestContext context) {
    Instant now = clock.instant();
    if (!at.isAfter(now) || at.isAfter(now.plus(FARTHEST))) {
      throw Problem.badRequest(
          "Choose a date ahead",
          "'" + at + "' is past, or more than a year ahead. Choose one between.");
    }
    applying.check(id, content, owner, context);
    transactions.executeWithoutResult(_ -> {
      drafts.due(id, content, at);
      queues.put(Queue.TASKS, TASK, id, at);
    });
  }

  /** Takes the date of a draft back; what waits in the queue for it finds nothing to do. */
  void clear(String id, String content) {
    drafts.due(id, content, null);
  }

  @Override
  public Queue queue() {
    return Queue.TASKS;
  }

  @Override
  public List<Task<?>> tasks() {
    return List.of(
        Tasks.custom(TASK, Void.class)
            .onFailure(Worker.retrying(BACK_OFF))
            .execute((instance, _) -> apply(instance.getId())));
  }

  /** {@return what becomes of its place in the queue} */
  private CompletionHandler<Void> apply(String id) {
    DraftRow row = drafts.find(id).orElse(null);
    Instant due = row == null ? null : row.dueAt();
    String content = row == null ? null : row.dueContent();
    Instant now = clock.instant();
    if (row == null || due == null || content == null || !row.isAlive()) {
      return DONE; // discarded, applied by hand, or its date was taken back
    }
    if (due.isAfter(now)) {
      return (complete, operations) -> operations.reschedule(complete, due); // of another date
    }
    Session owner =
        new Session(new PrincipalKey(row.owner()), now.truncatedTo(ChronoUnit.SECONDS), true, null);
    try {
      applying.applyByItself(id, content, owner, contexts.of(owner), "dated change");
      tell(row, NoticeKind.DATED_APPLIED, called(row) + " was applied at its date.");
    } catch (Problem e) {
      String why = e.title() + ". " + e.document().getDetail();
      drafts.notApplied(id, why);
      tell(row, NoticeKind.DATED_WAITS, called(row) + " was not applied at its date. " + why);
    }
    return DONE;
  }

  private static String called(DraftRow row) {
    @Nullable String name = row.name();
    return name == null ? "Your draft" : "Your draft “" + name + "”";
  }

  private void tell(DraftRow row, NoticeKind kind, String said) {
    notices.tell(row.owner(), new Notices.Notice(kind, said, "/drafts/" + row.id()));
  }
}
