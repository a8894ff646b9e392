package mandala.core.excess;

import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;

/**
 * How much of a principal's access is needed, young, not observed and none of these (section 12),
 * in rights: pairs of permission and resource.
 *
 * @param rights all that is effective
 * @param needed what was used or is demanded, and what comes with it
 * @param young what was not yet held when the window began, and what comes with it
 * @param unobserved what no source of use reports over the whole window, and what comes with it
 * @param excess the rest
 * @param exposure of all that is effective, in the weights of {@link mandala.core.rule.Exposure}
 * @param excessExposure of the excess alone
 */
public record Excess(
    PrincipalKey principal,
    long rights,
    long needed,
    long young,
    long unobserved,
    long excess,
    long exposure,
    long excessExposure) {

  /** A right that is held. */
  public record Right(PermissionKey permission, ResourceKey resource) {}

  /** {@return the share of the exposure that is excess}, from 0 to 1; 0 where there is none */
  public double excessShare() {
    return exposure == 0 ? 0 : (double) excessExposure / exposure;
  }
}
