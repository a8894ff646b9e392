package mandala.core.detect;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import mandala.core.model.Assignment;
import mandala.core.model.Principal;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.ScopeReach;
import mandala.core.question.Verdict;

/**
 * What becomes of what an assignment gives: asked for its holders, one right after the other, until
 * one is allowed.
 *
 * @param allowed whether one is
 * @param others the verdicts of all, where none is
 * @param whole whether all rights of all holders were asked about
 */
record Verdicts(boolean allowed, Set<Verdict> others, boolean whole) {

  /** So many places are asked about for each permission. */
  private static final int MOST_PLACES = 1_000;

  /** So many rights are asked about in all. */
  private static final int MOST_QUESTIONS = 20_000;

  private record Rights(PermissionKey permission, ScopeReach where) {}

  static Verdicts of(Assignment it, List<Principal> holders, Basis basis) {
    List<Rights> rights = new ArrayList<>();
    Set<Verdict> others = EnumSet.noneOf(Verdict.class);
    int questions = 0;
    boolean whole = true;
    for (Principal who : holders) {
      List<PermissionKey> permissions = basis.sorted(basis.allowed(it));
      for (int i = 0; i < permissions.size(); i++) {
        if (i == rights.size()) {
          ScopeReach where =
              basis.engine.reach(Basis.scopes(it), Set.of(permissions.get(i)), null, MOST_PLACES);
          rights.add(new Rights(permissions.get(i), where));
        }
        Rights some = rights.get(i);
        whole &= some.where().places() <= some.where().first().size();
        for (ResourceKey place : some.where().first()) {
          Verdict verdict =
              basis
                  .engine
                  .decide(basis.session(who.key()).asks(some.permission(), place))
                  .verdict();
          if (verdict == Verdict.ALLOWED) {
            return new Verdicts(true, Set.of(), true);
          }
          others.add(verdict);
          if (++questions == MOST_QUESTIONS) {
            return new Verdicts(false, others, false);
          }
        }
      }
    }
    return new Verdicts(false, others, whole);
  }
}
