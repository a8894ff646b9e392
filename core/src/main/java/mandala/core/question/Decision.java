package mandala.core.question;

import org.jspecify.annotations.Nullable;

/**
 * The answer to a question.
 *
 * @param verdict what is true
 * @param reason for an error, what is unknown; else null
 */
public record Decision(Verdict verdict, @Nullable String reason) {

  public static Decision of(Verdict verdict) {
    return new Decision(verdict, null);
  }

  public static Decision error(String reason) {
    return new Decision(Verdict.ERROR, reason);
  }

  /** {@return whether the verdict is {@code allowed}} */
  public boolean allowed() {
    return verdict == Verdict.ALLOWED;
  }
}
