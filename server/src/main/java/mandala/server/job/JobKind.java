package mandala.server.job;

import mandala.server.platform.ExportTable;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * A kind of long work. What stops in the middle is begun again, so it only reads the model, or
 * {@linkplain JobRun#end ends} in the transaction in which it changes something.
 */
public interface JobKind {

  /** {@return its name}: unique, in words with hyphens */
  String name();

  /**
   * Does the work: what it gives is given to the run. Looks at {@link JobRun#progress} now and
   * then, by which it is cancelled.
   *
   * @throws mandala.server.platform.Problem if it can't be done: its words are shown to the owner
   * @throws Exception if it failed; it is tried again
   */
  void run(JobRun run) throws Exception;

  /** {@return what was answered as a table}, null where the answer is none */
  default @Nullable ExportTable table(JsonNode answer) {
    return null;
  }

  /** Notes that it failed for good, where anybody but its owner is to know. */
  default void failed(JobOrder order) {}
}
