package mandala.server.authorization;

import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Pattern;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.ResourceType;
import mandala.core.model.Role;
import mandala.core.model.Supplied;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.present.Access;
import mandala.document.Naming;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;

/**
 * What one answer may name to its viewer: the one place that decides it (section 11, "who may read
 * what"). A thing of the model in force may be named where the viewer may read it, or where
 * somebody whom the answer is about holds it. A draft changes none of this; what is only in the
 * draft is named, since the draft says it. Of a past model, what is no more is judged by where it
 * was. Made for one call; not thread-safe.
 */
public final class Visibility implements Naming {

  private final RequestContext context;
  private final List<Holdings> holders;
  private final @Nullable Access answer;
  private final Map<Kind, Map<String, Boolean>> known = new EnumMap<>(Kind.class);

  /**
   * Decides for one answer.
   *
   * @param holders whom the answer is about, as far as the viewer may ask about them
   * @param answer an access of theirs in the model in force: of the places that it reaches may be
   *     told; null where there is none
   */
  Visibility(RequestContext context, List<Holdings> holders, @Nullable Access answer) {
    this.context = context;
    this.holders = List.copyOf(holders);
    this.answer = answer;
  }

  @Override
  public boolean tells(Kind kind, String key) {
    if (key.isBlank() || key.startsWith(Supplied.PREFIX)) {
      return true;
    }
    Map<String, Boolean> ofKind = known.computeIfAbsent(kind, _ -> new HashMap<>());
    Boolean before = ofKind.get(key);
    if (before == null) {
      before = decide(kind, key);
      ofKind.put(key, before);
    }
    return before;
  }

  private boolean decide(Kind kind, String key) {
    Catalogue live = context.state().engine().catalogue();
    Thing thing = find(live, kind, key);
    if (thing == null) {
      Catalogue asked = context.asked().engine().catalogue();
      Thing other = context.isPast() ? find(asked, kind, key) : null;
      return other == null || isShared(other) || context.readPolicy().mayRead(other, asked);
    }
    return isShared(thing)
        || context.readPolicy().mayRead(thing, live)
        || holders.stream().anyMatch(it -> it.tells(kind, key))
        || isReached(kind, key);
  }

  private boolean isReached(Kind kind, String key) {
    return answer != null
        && switch (kind) {
          case RESOURCES -> answer.reaches(new ResourceKey(key));
          case ACCOUNTS -> answer.reaches(new ResourceKey("account:" + key));
          case UNITS -> answer.reaches(new ResourceKey("unit:" + key));
          case GROUPS -> answer.reaches(new ResourceKey("group:" + key));
          default -> false;
        };
  }

  /** What is nobody's alone may be named to whoever is signed in; lists of it ask for more. */
  private static boolean isShared(Thing thing) {
    return switch (thing) {
      case Role it -> it.account() == null;
      case PermissionSet it -> it.account() == null;
      case Permission it -> it.account() == null;
      case ResourceType it -> it.account() == null;
      case Pattern it -> it.account() == null;
      default -> false;
    };
  }

  /** {@return a permission that a call names}; null where there is none or it may not be named */
  public static @Nullable Permission permission(String key, Catalogue in, Naming naming) {
    return key.isBlank() || !naming.tells(Kind.PERMISSIONS, key)
        ? null
        : in.permissions().get(new PermissionKey(key));
  }

  /**
   * {@return an account that a call names}
   *
   * @throws Problem if there is none or it may not be named: both read the same
   */
  public static AccountKey account(String key, Catalogue in, Naming naming) {
    if (!key.isBlank() && naming.tells(Kind.ACCOUNTS, key)) {
      AccountKey account = new AccountKey(key);
      if (in.accounts().containsKey(account)) {
        return account;
      }
    }
    throw Problem.notFound("There is no account '" + key + "'. Choose one from the list.");
  }

  /** {@return a thing of a kind}, supplied ones too; null where there is none, or it has no key */
  static @Nullable Thing find(Catalogue in, Kind kind, String key) {
    return switch (kind) {
      case ROLES -> in.roles().get(new RoleKey(key));
      case PERMISSIONS -> in.permissions().get(new PermissionKey(key));
      case PERMISSION_SETS -> in.sets().get(new PermissionSetKey(key));
      case GUESTS, ACTIVATIONS -> null;
      default -> in.find(kind, key).stream().findFirst().orElse(null);
    };
  }
}
