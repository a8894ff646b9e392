package mandala.core.review;

import java.util.Set;
import mandala.core.model.Permission;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;

/**
 * What a review round asks about.
 *
 * @param accounts with all below them; empty for all
 * @param place only what gives something on it, above it or below it; null for everywhere
 * @param least only what may give a permission of at least this risk; what gives no permission,
 *     such as ownership, is in whatever its risk
 */
public record ReviewScope(
    Set<Content> contents,
    Set<AccountKey> accounts,
    @Nullable ResourceKey place,
    Permission.Risk least) {

  /** Copies its sets. */
  public ReviewScope {
    contents = Set.copyOf(contents);
    accounts = Set.copyOf(accounts);
  }

  /** Whose access, or what else. */
  public enum Content {
    /** What people at home in an account have, by themselves. */
    PEOPLE,
    /** What guests have in an account. */
    GUESTS,
    /** What services have, by themselves. */
    SERVICES,
    /** What groups of an account have, and their rules. */
    GROUPS,
    /** Permissions in roles. */
    ROLES,
    /** What patterns give. */
    PATTERNS,
    /** What everybody of an account has, or of all accounts. */
    EVERYBODY,
    /** Cross-account access, from either side. */
    BRIDGES,
    /** Who may act for whom. */
    DELEGATIONS,
    /** Who is spared by exclusions. */
    EXEMPTIONS,
    /** Who owns groups, roles and resources. */
    OWNERS
  }
}
