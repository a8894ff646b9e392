package mandala.server.schedule;

import java.time.Instant;

/** Work that recurs by a timetable; of all instances on a database, one does it. */
public interface RecurringWork {

  /** {@return its name}: unique, in words with hyphens */
  String name();

  /** {@return what it does, in one sentence} */
  String description();

  /** {@return when} */
  Timetable timetable();

  /**
   * Does it once. After a failure it is tried again, later each time.
   *
   * @param due when it should have been done
   */
  void run(Instant due);
}
