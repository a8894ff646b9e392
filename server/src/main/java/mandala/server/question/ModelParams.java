package mandala.server.question;

import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import org.jspecify.annotations.Nullable;

/**
 * Which model an address asks about: the model in force where both are absent.
 *
 * @param draft id of a draft to lay over the model in force, or {@code open} for one's own
 * @param revision number of a past revision
 */
record ModelParams(@Nullable String draft, @Nullable Long revision) {

  /**
   * {@return the context of the running call}
   *
   * @throws mandala.server.platform.Problem if there is no such draft or revision, or both are
   *     named
   */
  RequestContext context(RequestContexts contexts) {
    return contexts.context(draft, revision);
  }
}
