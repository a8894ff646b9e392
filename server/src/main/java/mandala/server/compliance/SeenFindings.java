package mandala.server.compliance;

import java.util.ArrayList;
import java.util.List;
import mandala.core.compliance.Finding;
import mandala.core.model.Kind;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.question.ExpectationViolation;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import org.jspecify.annotations.Nullable;

/**
 * Findings as far as their viewer may know (section 11): of people whose whole access they may ask
 * about, and of places on which they may ask who can. What lies beyond is only said to be
 * elsewhere, without a number.
 *
 * @param told what may be told
 * @param elsewhere whether there is more of which nothing is told
 */
public record SeenFindings(List<Seen> told, boolean elsewhere) {

  /** Copies its findings. */
  public SeenFindings {
    told = List.copyOf(told);
  }

  /**
   * A finding cut to what may be told.
   *
   * @param whole the finding as it is, to be compared with others
   * @param elsewhere whether the rule is broken elsewhere, too
   */
  public record Seen(Finding finding, Finding whole, boolean elsewhere) {}

  /** {@return findings as a viewer may know them}, in their order */
  public static SeenFindings of(List<Finding> findings, RequestContext context) {
    List<Seen> told = new ArrayList<>();
    boolean elsewhere = false;
    for (Finding finding : findings) {
      Seen seen = cut(finding, context);
      if (seen == null) {
        elsewhere = true;
      } else {
        told.add(seen);
      }
    }
    return new SeenFindings(told, elsewhere);
  }

  private static @Nullable Seen cut(Finding finding, RequestContext context) {
    ReadPolicy readPolicy = context.readPolicy();
    return switch (finding) {
      case Finding.ExclusionBroken(ExclusionKey key, var conflict) ->
          named(context, Kind.EXCLUSIONS, key)
                  && isToldOf(conflict.principal(), conflict.where(), context)
              ? new Seen(finding, finding, false)
              : null;
      case Finding.ExpectationFails(ExpectationKey key, List<ExpectationViolation> breaches) -> {
        List<ExpectationViolation> cut =
            named(context, Kind.EXPECTATIONS, key)
                ? breaches.stream().filter(it -> isTold(it, context)).toList()
                : List.of();
        yield cut.isEmpty()
            ? null
            : new Seen(
                new Finding.ExpectationFails(key, cut), finding, cut.size() < breaches.size());
      }
      case Finding.PrerequisiteMissing(PrincipalKey who, RoleKey role, RoleKey missing) ->
          isToldOf(who, null, context)
                  && named(context, Kind.ROLES, role)
                  && named(context, Kind.ROLES, missing)
              ? new Seen(finding, finding, false)
              : null;
      case Finding.HolderLimit(RoleKey role, int holders, boolean few) ->
          !named(context, Kind.ROLES, role)
              ? null
              : new Seen(
                  new Finding.HolderLimit(
                      role, readPolicy.readsAll() ? holders : Finding.HolderLimit.UNTOLD, few),
                  finding,
                  false);
    };
  }

  private static boolean named(RequestContext context, Kind kind, Key key) {
    return context.naming().tells(kind, key.value());
  }

  /** Of one whom only a draft has, the draft itself tells. */
  private static boolean isToldOf(
      PrincipalKey who, @Nullable ResourceKey where, RequestContext context) {
    return context.readPolicy().mayBeTold(who, where)
        || (!who.equals(PrincipalKey.ANONYMOUS) && context.readPolicy().known(who) == null);
  }

  private static boolean isTold(ExpectationViolation breach, RequestContext context) {
    PrincipalKey who = breach.principal();
    return who == null
        ? context.readPolicy().mayAskWhoCan(breach.resource())
        : isToldOf(who, breach.resource(), context);
  }
}
