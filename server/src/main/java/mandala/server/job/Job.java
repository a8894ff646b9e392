package mandala.server.job;

import io.swagger.v3.oas.annotations.media.Schema;
import java.time.Instant;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * A job as its owner sees it.
 *
 * @param kind what kind of work
 * @param details what exactly its owner ordered
 * @param done how far it is, {@code total} of how much; null while that is unknown
 * @param fault why it failed, and what to do
 * @param answered whether it has an answer
 * @param file name of the file that it wrote, or null
 * @param bytes size of that file
 * @param keptUntil when its result is deleted; null while it runs
 */
public record Job(
    String id,
    String kind,
    String title,
    JsonNode details,
    @Schema(allowableValues = {"waiting", "running", "done", "failed", "cancelled"}) String state,
    long done,
    @Nullable Long total,
    Instant begun,
    @Nullable Instant ended,
    @Nullable String fault,
    boolean answered,
    @Nullable String file,
    long bytes,
    @Nullable Instant keptUntil) {

  /** {@return whether nothing is done any more} */
  boolean isOver() {
    return !state.equals("waiting") && !state.equals("running");
  }
}
