package mandala.server.access;

import java.util.HashSet;
import java.util.Set;
import mandala.core.model.Key;
import mandala.core.model.Principal;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;

/**
 * Whom a question is about, as far as the viewer may ask (section 11), judged in the model in
 * force: no draft makes anybody askable. Whom only a draft or a past revision knows is asked about
 * by those who may ask in the account where they are then.
 *
 * @param only the accounts that may be told of, or null for all
 */
record Asked(Principal principal, @Nullable Principal actingFor, @Nullable Set<Key.Account> only) {

  /**
   * {@return whom a question is about}
   *
   * @throws Problem if either is unknown, or the viewer may not ask about them: both read the same,
   *     so that nobody learns who exists
   */
  static Asked of(Look look, String principal, @Nullable String actingFor) {
    Sight sight = look.sight();
    Principal who = require(look, principal);
    if (actingFor == null || actingFor.isBlank()) {
      return new Asked(who, null, only(sight, who));
    }
    if (actingFor.equals(principal)) {
      throw Problem.badRequest(
          "A person can't act for themselves", "Choose somebody else, or 'themselves'.");
    }
    Principal whom = known(look, actingFor);
    boolean own = whom != null && isOwnDelegation(sight, who, whom);
    if (whom == null || (!own && sight.cutFor(whom) instanceof Sight.Cut.Nothing)) {
      throw unknown(actingFor);
    }
    Set<Key.Account> only = only(sight, who);
    return new Asked(who, whom, only == null && !own ? only(sight, whom) : only);
  }

  /** Whether the viewer asks about acting for somebody who has delegated to the viewer. */
  private static boolean isOwnDelegation(Sight sight, Principal who, Principal whom) {
    return who.key().equals(sight.viewer()) && sight.hasDelegated(whom.key(), who.key());
  }

  /** {@return whether all may be told that somebody may do acting for another} */
  static boolean mayAskFor(Sight sight, Principal who, Principal whom) {
    return isOwnDelegation(sight, who, whom) || sight.cutFor(whom) instanceof Sight.Cut.Whole;
  }

  private static Principal require(Look look, String key) {
    Principal principal = known(look, key);
    if (principal == null || look.sight().cutFor(principal) instanceof Sight.Cut.Nothing) {
      throw unknown(key);
    }
    return principal;
  }

  /** Somebody of the model in force; else of the one that is asked about. */
  private static @Nullable Principal known(Look look, String key) {
    if (key.isBlank()) {
      return null;
    }
    Principal now = look.sight().known(new Key.Principal(key));
    return now == null
        ? look.asked().engine().catalogue().principals().get(new Key.Principal(key))
        : now;
  }

  private static Problem unknown(String key) {
    return Problem.notFound(
        "There is nobody called '"
            + key
            + "' whose access you can ask about. Choose from the list.");
  }

  private static @Nullable Set<Key.Account> only(Sight sight, Principal principal) {
    return switch (sight.cutFor(principal)) {
      case Sight.Cut.Within(var accounts) -> accounts;
      case Sight.Cut.Whole _ -> null;
      case Sight.Cut.Nothing _ -> Set.of();
    };
  }

  /** {@return the same, told of these accounts at most} */
  Asked within(Set<Key.Account> accounts) {
    Set<Key.Account> both = new HashSet<>(accounts);
    if (only != null) {
      both.retainAll(only);
    }
    return new Asked(principal, actingFor, both);
  }

  Key.@Nullable Principal actingForKey() {
    return actingFor == null ? null : actingFor.key();
  }
}
