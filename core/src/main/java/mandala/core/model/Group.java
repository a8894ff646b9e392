package mandala.core.model;

import java.util.List;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import org.jspecify.annotations.Nullable;

/** A set of principals and groups, listed or by rule. */
public record Group(
    GroupKey key,
    About about,
    AccountKey account,
    boolean retired,
    List<Member> members,
    @Nullable Rule rule,
    List<PrincipalKey> owners)
    implements Thing {

  /** Copies its lists. */
  public Group {
    members = List.copyOf(members);
    owners = List.copyOf(owners);
  }

  /** {@return whether a principal is listed itself}, whatever rule and nested groups add */
  public boolean lists(Principal principal) {
    return members.contains(new Member.OfPrincipal(principal.kind(), principal.key()));
  }

  /** Who is listed in a group. */
  public sealed interface Member {

    /** A principal of the named kind. */
    record OfPrincipal(Principal.Kind kind, PrincipalKey key) implements Member {}

    /** A group, with all that it contains. */
    record OfGroup(GroupKey key) implements Member {}
  }
}
