package mandala.core.detect;

import java.util.Set;
import mandala.core.model.Permission;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;

/**
 * A finding of a detector.
 *
 * @param risk the highest of what it concerns
 * @param weight how much of it there is: exposure where it is about access, else a count; a finding
 *     worsens where its risk or its weight grows
 * @param people whose access it tells of
 * @param within accounts in which alone it tells of that; none where it may be anywhere
 * @param homes accounts where it tells of the access of several people at home there
 */
public record Detection(
    Trouble trouble,
    Permission.Risk risk,
    long weight,
    Set<PrincipalKey> people,
    Set<AccountKey> within,
    Set<AccountKey> homes) {

  /** Copies its sets. */
  public Detection {
    people = Set.copyOf(people);
    within = Set.copyOf(within);
    homes = Set.copyOf(homes);
  }

  /** A finding that tells of the model alone, not of what anybody may do. */
  static Detection ofModel(Trouble trouble, Permission.Risk risk, long weight) {
    return new Detection(trouble, risk, weight, Set.of(), Set.of(), Set.of());
  }

  /** A finding about one principal. */
  static Detection of(PrincipalKey who, Trouble trouble, Permission.Risk risk, long weight) {
    return of(Set.of(who), trouble, risk, weight);
  }

  /** A finding about some principals. */
  static Detection of(
      Set<PrincipalKey> people, Trouble trouble, Permission.Risk risk, long weight) {
    return new Detection(trouble, risk, weight, people, Set.of(), Set.of());
  }

  /** A finding about a guest, in the accounts that they were let into. */
  static Detection ofGuest(
      PrincipalKey who,
      Set<AccountKey> within,
      Trouble trouble,
      Permission.Risk risk,
      long weight) {
    return new Detection(trouble, risk, weight, Set.of(who), within, Set.of());
  }

  /** A finding about several who are at home in some accounts. */
  static Detection ofHomes(
      Set<AccountKey> homes, Trouble trouble, Permission.Risk risk, long weight) {
    return new Detection(trouble, risk, weight, Set.of(), Set.of(), homes);
  }

  /** {@return what it is known by as long as it is the same finding} */
  public String id() {
    String which = trouble.which();
    return trouble.detector().key() + " " + trouble.about() + (which.isEmpty() ? "" : " " + which);
  }

  /** {@return whether a finding of some risk and weight is worse than it was with others} */
  public static boolean isWorse(
      Permission.Risk risk, long weight, Permission.Risk before, long weightBefore) {
    int risks = risk.compareTo(before);
    return risks > 0 || (risks == 0 && weight > weightBefore);
  }
}
