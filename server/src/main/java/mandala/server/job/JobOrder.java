package mandala.server.job;

import java.time.Instant;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * What somebody wants to be done.
 *
 * @param kind name of the {@link JobKind}
 * @param owner key of whoever began it
 * @param title in a few words, as its owner reads it
 * @param details what exactly, as the kind reads it
 * @param viewer with whose rights: the owner's, or in an impersonated view that of the other
 * @param seenAt the instant of an impersonated view, else null: rights of when it runs
 * @param secondFactor whether they had shown a second factor
 */
public record JobOrder(
    String kind,
    String owner,
    String title,
    JsonNode details,
    String viewer,
    @Nullable Instant seenAt,
    boolean secondFactor) {

  /** {@return the session with whose rights it is done} */
  public Session session(Instant now) {
    return new Session(new PrincipalKey(viewer), seenAt == null ? now : seenAt, secondFactor, null);
  }
}
