package mandala.server.schedule;

/** A queue in the database; each instance takes from it with threads of its own. */
public enum Queue {
  /** Long work that people begin. */
  WORK("work_queue", 2),
  /** Everything else: mail, notices, what is dated and what recurs. */
  TASKS("task_queue", 3);

  private final String table;
  private final int threads;

  Queue(String table, int threads) {
    this.table = table;
    this.threads = threads;
  }

  String table() {
    return table;
  }

  int threads() {
    return threads;
  }
}
