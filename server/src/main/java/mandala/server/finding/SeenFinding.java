package mandala.server.finding;

import java.time.Instant;
import java.util.Set;
import mandala.core.compliance.Finding;
import mandala.core.detect.Harm;
import mandala.core.detect.Trouble;
import mandala.core.model.Permission;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.document.TroubleText;
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
    int risks = risk.compareTo(it.risk());
    return risks > 0 || (risks == 0 && weight > it.weight());
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
}
