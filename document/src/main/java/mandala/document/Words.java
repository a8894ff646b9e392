package mandala.document;

import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import org.jspecify.annotations.Nullable;

/** References as a document writes them, {@code role:K} (section 1), both ways. */
public final class Words {

  static final String GIVES = "role:K, set:K, permission:K";
  static final String SUBJECTS =
      "person:K, service:K, group:K, pattern:K, account:K, signed-in, anyone, anonymous";
  static final String MEMBERS = "person:K, service:K, group:K";

  private Words() {}

  /** {@return what is given, as a document writes it} */
  public static String of(Gives gives) {
    return switch (gives) {
      case Gives.OfRole(RoleKey key) -> "role:" + key;
      case Gives.OfSet(PermissionSetKey key) -> "set:" + key;
      case Gives.OfPermission(PermissionKey key) -> "permission:" + key;
    };
  }

  /** {@return a subject as a document writes it} */
  public static String of(Subject subject) {
    return switch (subject) {
      case Subject.OfPrincipal(Principal.Kind kind, PrincipalKey key) ->
          Node.word(kind) + ":" + key;
      case Subject.OfGroup(GroupKey key) -> "group:" + key;
      case Subject.OfPattern(PatternKey key) -> "pattern:" + key;
      case Subject.OfAccount(AccountKey key) -> "account:" + key;
      case Subject.Public who -> Node.word(who);
    };
  }

  /** {@return a member as a document writes it} */
  public static String of(Group.Member member) {
    return switch (member) {
      case Group.Member.OfPrincipal(Principal.Kind kind, PrincipalKey key) ->
          Node.word(kind) + ":" + key;
      case Group.Member.OfGroup(GroupKey key) -> "group:" + key;
    };
  }

  /** {@return what a reference gives}, null where its kind is unknown */
  public static @Nullable Gives gives(String kind, String key) {
    return switch (kind) {
      case "role" -> key.isEmpty() ? null : new Gives.OfRole(new RoleKey(key));
      case "set" -> key.isEmpty() ? null : new Gives.OfSet(new PermissionSetKey(key));
      case "permission" -> key.isEmpty() ? null : new Gives.OfPermission(new PermissionKey(key));
      default -> null;
    };
  }

  /** {@return the subject that a reference names}, null where its kind is unknown */
  public static @Nullable Subject subject(String kind, String key) {
    if (key.isEmpty()) {
      return switch (kind) {
        case "signed-in" -> Subject.Public.SIGNED_IN;
        case "anyone" -> Subject.Public.ANYONE;
        case "anonymous" -> Subject.Public.ANONYMOUS;
        default -> null;
      };
    }
    return switch (kind) {
      case "person" -> new Subject.OfPrincipal(Principal.Kind.PERSON, new PrincipalKey(key));
      case "service" -> new Subject.OfPrincipal(Principal.Kind.SERVICE, new PrincipalKey(key));
      case "group" -> new Subject.OfGroup(new GroupKey(key));
      case "pattern" -> new Subject.OfPattern(new PatternKey(key));
      case "account" -> new Subject.OfAccount(new AccountKey(key));
      default -> null;
    };
  }

  static Group.@Nullable Member member(String kind, String key) {
    return switch (subject(kind, key)) {
      case Subject.OfPrincipal(Principal.Kind of, PrincipalKey who) ->
          new Group.Member.OfPrincipal(of, who);
      case Subject.OfGroup(GroupKey group) -> new Group.Member.OfGroup(group);
      case Subject.OfPattern _, Subject.OfAccount _, Subject.Public _ -> null;
      case null -> null;
    };
  }

  /**
   * {@return what a reference gives}
   *
   * @throws IllegalArgumentException if it names nothing that can be given
   */
  public static Gives gives(String reference) {
    return parse(reference, GIVES, Words::gives);
  }

  /**
   * {@return the subject that a reference names}
   *
   * @throws IllegalArgumentException if it names no subject
   */
  public static Subject subject(String reference) {
    return parse(reference, SUBJECTS, Words::subject);
  }

  /**
   * {@return the member that a reference names}
   *
   * @throws IllegalArgumentException if it names no member
   */
  public static Group.Member member(String reference) {
    return parse(reference, MEMBERS, Words::member);
  }

  private static <T> T parse(String reference, String kinds, Node.Reference<T> make) {
    int colon = reference.indexOf(':');
    T made =
        colon < 0
            ? make.from(reference, "")
            : make.from(reference.substring(0, colon), reference.substring(colon + 1));
    if (made == null) {
      throw new IllegalArgumentException("'" + reference + "' is not one of " + kinds);
    }
    return made;
  }
}
