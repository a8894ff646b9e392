package mandala.server.finding;

import java.util.function.Function;
import mandala.core.detect.Trouble;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Expectation;
import mandala.core.model.Group;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import org.jspecify.annotations.Nullable;

/** To which account a finding belongs: that of what it is about. */
final class FindingAccount {

  private FindingAccount() {}

  /** {@return the account of a finding}: of a guest's, that into which they were let */
  static @Nullable AccountKey of(Trouble trouble, Catalogue in) {
    return switch (trouble) {
      case Trouble.GuestPastPurpose it -> of(it.account(), in);
      case Trouble.GuestWithoutEnd it -> of(it.account(), in);
      default -> of(trouble.about(), in);
    };
  }

  /** {@return the account of a thing}, null where it is shared by all or is gone */
  static @Nullable AccountKey of(Key about, Catalogue in) {
    return switch (about) {
      case AccountKey it -> of(in.accounts().get(it), Account::key);
      case PrincipalKey it -> of(in.principals().get(it), Principal::account);
      case GroupKey it -> of(in.groups().get(it), Group::account);
      case AssignmentKey it -> of(in.assignments().get(it), each -> in.homeOf(each.subject()));
      case RoleKey it -> of(in.roles().get(it), Role::account);
      case PermissionSetKey it -> of(in.sets().get(it), PermissionSet::account);
      case PermissionKey it -> of(in.permissions().get(it), Permission::account);
      case ResourceKey it -> in.has(it) ? in.accountOf(it) : null;
      case ExpectationKey it -> of(in.expectations().get(it), Expectation::account);
      default -> null;
    };
  }

  private static <T> @Nullable AccountKey of(
      @Nullable T thing, Function<T, @Nullable AccountKey> account) {
    return thing == null ? null : account.apply(thing);
  }
}
