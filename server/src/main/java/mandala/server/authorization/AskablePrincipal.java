package mandala.server.authorization;

import java.util.HashSet;
import java.util.Set;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.document.Naming;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;

/**
 * Whom a question is about, as far as the viewer may ask (section 11), judged in the model in
 * force: no draft makes anybody askable. Whom only a draft or a past revision knows is asked about
 * by those who may ask in the account where they are then.
 *
 * @param only the accounts that may be told of, or null for all
 */
public record AskablePrincipal(
    Principal principal, @Nullable Principal actingFor, @Nullable Set<AccountKey> only) {

  /**
   * {@return the account of a resource that may be asked about}, null where there is no such
   * resource to the viewer's eyes
   */
  public @Nullable AccountKey askableAccount(
      ResourceKey resource, Catalogue catalogue, Naming naming) {
    AccountKey account = naming.tells(resource) ? catalogue.accountOf(resource) : null;
    return account == null || (only != null && !only.contains(account)) ? null : account;
  }

  /**
   * {@return whom a question is about}
   *
   * @throws Problem if either is unknown, or the viewer may not ask about them: both read the same,
   *     so that nobody learns who exists
   */
  public static AskablePrincipal of(
      RequestContext context, String principal, @Nullable String actingFor) {
    ReadPolicy readPolicy = context.readPolicy();
    Principal who = require(context, principal);
    if (actingFor == null || actingFor.isBlank()) {
      return new AskablePrincipal(who, null, only(readPolicy, who));
    }
    if (actingFor.equals(principal)) {
      throw Problem.badRequest(
          "A person can't act for themselves", "Choose somebody else, or 'themselves'.");
    }
    Principal whom = known(context, actingFor);
    boolean own = whom != null && isOwnDelegation(readPolicy, who, whom);
    if (whom == null || (!own && readPolicy.cutFor(whom) instanceof ReadPolicy.Cut.Nothing)) {
      throw unknown(actingFor);
    }
    Set<AccountKey> only = only(readPolicy, who);
    return new AskablePrincipal(who, whom, only == null && !own ? only(readPolicy, whom) : only);
  }

  /** Whether the viewer asks about acting for somebody who has delegated to the viewer. */
  private static boolean isOwnDelegation(ReadPolicy readPolicy, Principal who, Principal whom) {
    return readPolicy.isViewer(who.key()) && readPolicy.hasDelegated(whom.key(), who.key());
  }

  /** {@return whether all may be told that somebody may do acting for another} */
  public static boolean mayAskFor(ReadPolicy readPolicy, Principal who, Principal whom) {
    return isOwnDelegation(readPolicy, who, whom)
        || readPolicy.cutFor(whom) instanceof ReadPolicy.Cut.Whole;
  }

  private static Principal require(RequestContext context, String key) {
    Principal principal = known(context, key);
    if (principal == null
        || context.readPolicy().cutFor(principal) instanceof ReadPolicy.Cut.Nothing) {
      throw unknown(key);
    }
    return principal;
  }

  /** Somebody of the model in force; else of the one that is asked about. */
  private static @Nullable Principal known(RequestContext context, String key) {
    if (key.isBlank()) {
      return null;
    }
    Principal now = context.readPolicy().known(new PrincipalKey(key));
    return now == null
        ? context.asked().engine().catalogue().principals().get(new PrincipalKey(key))
        : now;
  }

  private static Problem unknown(String key) {
    return Problem.notFound(
        "There is nobody called '"
            + key
            + "' whose access you can ask about. Choose from the list.");
  }

  private static @Nullable Set<AccountKey> only(ReadPolicy readPolicy, Principal principal) {
    return switch (readPolicy.cutFor(principal)) {
      case ReadPolicy.Cut.Within(var accounts) -> accounts;
      case ReadPolicy.Cut.Whole _ -> null;
      case ReadPolicy.Cut.Nothing _ -> Set.of();
    };
  }

  /** {@return the same, told of these accounts at most} */
  public AskablePrincipal within(Set<AccountKey> accounts) {
    Set<AccountKey> both = new HashSet<>(accounts);
    if (only != null) {
      both.retainAll(only);
    }
    return new AskablePrincipal(principal, actingFor, both);
  }

  public @Nullable PrincipalKey actingForKey() {
    return actingFor == null ? null : actingFor.key();
  }
}
