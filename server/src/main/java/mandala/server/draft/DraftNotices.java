package mandala.server.draft;

import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.time.Clock;
import java.util.List;
import mandala.core.change.Rebase;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.server.model.LiveModel;
import mandala.server.notice.NoticeKind;
import mandala.server.notice.Notices;
import mandala.server.schedule.Queue;
import mandala.server.schedule.Queues;
import mandala.server.schedule.Worker;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Tells people what becomes of drafts: those that wait for them, and their own. */
@Component
class DraftNotices implements Worker {

  private static final String TASK = "draft-clashes";

  private final Notices notices;
  private final LiveModel model;
  private final Drafts drafts;
  private final Queues queues;
  private final Clock clock;

  DraftNotices(Notices notices, LiveModel model, Drafts drafts, Queues queues, Clock clock) {
    this.notices = notices;
    this.model = model;
    this.drafts = drafts;
    this.queues = queues;
    this.clock = clock;
  }

  /** A draft has been applied as a revision. */
  record Applied(long revision) {}

  /** Tells somebody that a draft waits for their approval. */
  void waits(DraftRow row, String approver, boolean again) {
    String said =
        nameOf(row.owner())
            + (again ? " reminds you of a draft to approve" : " asks you to approve a draft")
            + title(row)
            + ".";
    tell(approver, NoticeKind.DRAFT_WAITS, said, row);
  }

  /** Tells the owner of a draft that somebody approved it. */
  void approved(DraftRow row, PrincipalKey by) {
    String said = nameOf(by.value()) + " approved your draft" + title(row) + ". Apply it.";
    tell(row.owner(), NoticeKind.DRAFT_APPROVED, said, row);
  }

  /** Tells the owner of a draft that somebody declined it, and why. */
  void declined(DraftRow row, PrincipalKey by, String reason) {
    String said = nameOf(by.value()) + " declined your draft" + title(row) + ": " + reason;
    tell(row.owner(), NoticeKind.DRAFT_DECLINED, said, row);
  }

  private void tell(String person, NoticeKind kind, String said, DraftRow row) {
    notices.tell(person, new Notices.Notice(kind, said, "/drafts/" + row.id()));
  }

  private static String title(DraftRow row) {
    @Nullable String name = row.name();
    return name == null ? "" : ", “" + name + "”";
  }

  private String nameOf(String person) {
    Principal it = model.engine().catalogue().principals().get(new PrincipalKey(person));
    return it == null ? "Someone" : it.about().nameOr(it.key());
  }

  /** After a revision, the drafts of others may clash: looked for apart from who applied it. */
  @EventListener
  void applied(Applied applied) {
    queues.put(Queue.TASKS, TASK, Long.toString(applied.revision()), clock.instant());
  }

  @Override
  public Queue queue() {
    return Queue.TASKS;
  }

  @Override
  public List<Task<?>> tasks() {
    return List.of(Tasks.oneTime(TASK).execute((_, _) -> lookForClashes()));
  }

  private void lookForClashes() {
    Catalogue live = model.state().engine().catalogue();
    for (DraftRow row : drafts.alive()) {
      if (!Rebase.of(row.draft(), live).clashes().isEmpty()) {
        notices.tellOnce(
            "clash " + row.id() + " " + row.version(),
            row.owner(),
            new Notices.Notice(
                NoticeKind.DRAFT_CLASHED,
                "Someone changed what your draft"
                    + title(row)
                    + " changes. Choose which version"
                    + " to keep.",
                "/drafts/" + row.id()));
      }
    }
  }
}
