package mandala.server.mail;

import io.swagger.v3.oas.annotations.media.Schema;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A mail, and what became of it.
 *
 * @param person key of whom it is for
 * @param recipient their address when it was made
 * @param body null where its reader may not read it
 * @param state {@code kept}: there is no mail server, so that it stays in the outbox; {@code
 *     refused}: the server does not take it for this address; {@code failed}: given up
 * @param repeated whether a crash left open if it had gone out, so that it went out again
 * @param tried when it was tried last, or null
 * @param fault why it was refused or has not gone out yet, or null
 */
public record Mail(
    String id,
    String person,
    String recipient,
    String subject,
    @Nullable String body,
    @Schema(allowableValues = {"waiting", "sending", "sent", "kept", "refused", "failed"})
        String state,
    boolean repeated,
    int attempts,
    Instant made,
    @Nullable Instant tried,
    @Nullable String fault) {

  /** {@return the same without its text} */
  Mail withoutBody() {
    return new Mail(
        id, person, recipient, subject, null, state, repeated, attempts, made, tried, fault);
  }

  /**
   * {@return the same, its link to choose a password cut short}: once it goes out by a mail server,
   * only its recipient is to have it
   */
  Mail withoutSecret() {
    return body == null || state.equals("kept")
        ? this
        : new Mail(
            id,
            person,
            recipient,
            subject,
            body.replaceAll("(/join\\?token=)\\S+", "$1…"),
            state,
            repeated,
            attempts,
            made,
            tried,
            fault);
  }
}
