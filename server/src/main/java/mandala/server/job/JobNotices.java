package mandala.server.job;

import java.time.Duration;
import mandala.server.notice.NoticeKind;
import mandala.server.notice.Notices;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Tells people that long work of theirs ended, where it took so long that they may have left. */
@Component
class JobNotices {

  /** Whoever waits for less than this is still there. */
  static final Duration LONG = Duration.ofSeconds(10);

  private final Notices notices;
  private final JobTables tables;

  JobNotices(Notices notices, JobTables tables) {
    this.notices = notices;
    this.tables = tables;
  }

  @EventListener
  void ended(JobEnded ended) {
    Job job = tables.find(ended.id(), ended.owner()).orElse(null);
    if (job != null
        && job.ended() != null
        && Duration.between(job.begun(), job.ended()).compareTo(LONG) > 0) {
      notices.tell(
          ended.owner(),
          new Notices.Notice(
              NoticeKind.JOB_ENDED,
              ended.title() + (ended.done() ? ": done." : ": failed."),
              "/you/work"));
    }
  }
}
