package mandala.server.finding;

import java.time.Instant;
import java.util.Objects;
import java.util.Set;
import mandala.core.compliance.Finding;
import mandala.core.detect.Detection;
import mandala.core.detect.Harm;
import mandala.core.detect.Trouble;
import mandala.core.model.Permission;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.document.TroubleText;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import org.jspecify.annotations.Nullable;

/**
 * A finding that a viewer may be told of: of a detector, or a broken rule.
 *
 * @param kind key of the detector, or what kind of rule it is
 * @param account to which it belongs, null where to none
 * @param since when it began, as far as is known
 * @param people whose access it tells of, each of which the viewer may see
 * @param within accounts in which alone it tells of that, none where it may be anywhere
 * @param trouble what the detector found; null of a rule
 * @param rule the finding of a rule, cut to what may be told; null of a detector
 */
record SeenFinding(
    String id,
    String kind,
    Harm harm,
    Permission.Risk risk,
    long weight,
    Key about,
    @Nullable AccountKey account,
    @Nullable Instant since,
    @Nullable Long revision,
    @Nullable Instant resolvedAt,
    Set<PrincipalKey> people,
    Set<AccountKey> within,
    @Nullable Trouble trouble,
    @Nullable Finding rule,
    FindingState state) {

  /** Copies its people. */
  SeenFinding {
    people = Set.copyOf(people);
    within = Set.copyOf(within);
  }

  /** {@return whether somebody accepts it until later, and it is no worse than it was then} */
  boolean isAccepted(Instant now) {
    FindingState.Acceptance it = state.acceptance();
    return it != null && it.until().isAfter(now) && !isWorseThan(it);
  }

  /** {@return whether it is worse than when somebody accepted it} */
  boolean isWorseThan(FindingState.Acceptance it) {
    return Detection.isWorse(risk, weight, it.risk(), it.weight());
  }

  /** {@return whether a viewer may read the keys of all that it names} */
  boolean isPlain(RequestContext context) {
    return trouble == null
        || trouble.names().stream()
            .allMatch(key ->
                (key instanceof PrincipalKey who && people.contains(who))
                    || context.naming().tells(TroubleText.kind(key), key.value()));
  }

  /** {@return its id for a viewer}: a mark where it has keys that they may not read */
  String idFor(RequestContext context) {
    return isPlain(context) ? id : context.mark("finding " + id);
  }

  /** {@return what kind of finding it is, in words} */
  String title() {
    return switch (kind) {
      case "exclusion" -> "Exclusion broken";
      case "expectation" -> "Expectation fails";
      case "prerequisite" -> "Prerequisite missing";
      case "holders" -> "Too few or too many holders";
      default -> TroubleText.title(Objects.requireNonNull(trouble).detector());
    };
  }

  /**
   * {@return whether a viewer may decide about it}: assign access in its account, or define rights
   */
  boolean isUpTo(RequestContext context) {
    ReadPolicy policy = context.readPolicy();
    return account != null
        ? policy.may(Supplied.ACCESS_ASSIGN, ResourceKey.of(account))
        : context.state().engine().catalogue().accounts().values().stream()
            .filter(each -> each.parent() == null)
            .anyMatch(each -> policy.may(Supplied.RIGHTS_DEFINE, ResourceKey.of(each.key())));
  }
}
