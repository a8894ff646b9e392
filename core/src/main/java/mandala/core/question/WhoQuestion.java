package mandala.core.question;

import java.time.Instant;
import java.util.List;
import java.util.Set;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;

/**
 * Who may do this there, at this instant?
 *
 * @param permissions any of these; at least one
 * @param where on any resource of this
 * @param at the instant; parts of a second do not count
 * @param mfa whether sessions have a second factor
 */
public record WhoQuestion(Set<PermissionKey> permissions, Where where, Instant at, boolean mfa) {

  /** Copies the permissions; refuses none. */
  public WhoQuestion {
    permissions = Set.copyOf(permissions);
    if (permissions.isEmpty()) {
      throw new IllegalArgumentException("Nobody can do nothing: name at least one permission");
    }
  }

  /** {@return the question about one permission on one resource} */
  public static WhoQuestion of(
      PermissionKey permission, ResourceKey resource, Instant at, boolean mfa) {
    return new WhoQuestion(Set.of(permission), new Where.On(resource), at, mfa);
  }

  /** Resources to ask about. */
  public sealed interface Where {
    /** One resource. */
    record On(ResourceKey resource) implements Where {}

    /** A resource and all below it. */
    record Below(ResourceKey top) implements Where {}

    /** Each member of a collection and all below it. */
    record Within(CollectionKey collection) implements Where {}
  }

  /**
   * Somebody who may, and how much of what was asked.
   *
   * @param rights pairs of permission and resource that are allowed, at least one
   */
  public record Holder(PrincipalKey principal, long rights) {}

  /**
   * Somebody who may, acting for another.
   *
   * @param actor who acts
   * @param actedFor whose rights are used
   */
  public record Delegate(PrincipalKey actor, PrincipalKey actedFor) {}

  /**
   * The answer.
   *
   * @param pairs how many pairs of permission and resource were asked about: to how many resources
   *     the permissions apply
   * @param allowed who may for themselves, by number of rights, then by key
   * @param blocked who is granted some of it and lacks a gate for all of that, by key
   * @param denied who is denied some of it and may do none, by key; only active principals
   * @param anonymous whether anybody may without signing in
   * @param delegates who may for another, by keys
   */
  public record Answer(
      long pairs,
      List<Holder> allowed,
      List<PrincipalKey> blocked,
      List<PrincipalKey> denied,
      boolean anonymous,
      List<Delegate> delegates) {

    /** Copies its lists. */
    public Answer {
      allowed = List.copyOf(allowed);
      blocked = List.copyOf(blocked);
      denied = List.copyOf(denied);
      delegates = List.copyOf(delegates);
    }
  }
}
