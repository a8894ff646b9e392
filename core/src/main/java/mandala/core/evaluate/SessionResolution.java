package mandala.core.evaluate;

import java.util.ArrayList;
import java.util.List;
import mandala.core.compiled.CompiledDelegation;
import mandala.core.compiled.Snapshot;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.core.question.Verdict;

/**
 * Where a session stands before any permission is asked for (sections 6 and 7): it is in error,
 * refused, or somebody's rights count.
 */
public sealed interface SessionResolution {

  /** Somebody is unknown, or nobody could act so. */
  record Unknown(String reason) implements SessionResolution {}

  /** Nothing is allowed. */
  record Refused(Verdict verdict) implements SessionResolution {}

  /** A principal for itself. */
  record Oneself(PrincipalAtInstant who, boolean mfa) implements SessionResolution {}

  /**
   * One principal for another.
   *
   * @param who whose rights count
   * @param covers the delegations in force between them, not none
   */
  record For(
      PrincipalAtInstant actor,
      PrincipalAtInstant who,
      List<CompiledDelegation> covers,
      boolean mfa)
      implements SessionResolution {}

  /** {@return where a session stands} */
  static SessionResolution of(Snapshot it, Session session) {
    int actor = it.principal(session.principal());
    if (actor < -1) {
      return unknown(session.principal());
    }
    long at = session.at().getEpochSecond();
    if (session.actingFor() != null) {
      return standFor(it, session, actor, session.actingFor(), at);
    }
    PrincipalAtInstant who = PrincipalAtInstant.of(it, actor, at);
    return who.active
        ? new Oneself(who, session.mfa() && who.hasFactor())
        : new Refused(Verdict.INACTIVE);
  }

  private static SessionResolution unknown(PrincipalKey key) {
    return new Unknown("there is no principal '" + key + "'");
  }

  private static SessionResolution standFor(
      Snapshot it, Session session, int actor, PrincipalKey whom, long at) {
    int actedFor = it.principal(whom);
    if (actedFor < -1) {
      return unknown(whom);
    }
    if (actor < 0 || actedFor < 0) {
      return new Unknown("nobody acts for, or as, 'anonymous'");
    }
    if (actor == actedFor) {
      return new Unknown("a person can't act for themselves");
    }
    PrincipalAtInstant delegate = PrincipalAtInstant.of(it, actor, at);
    PrincipalAtInstant who = PrincipalAtInstant.of(it, actedFor, at);
    if (!delegate.active || !who.active) {
      return new Refused(Verdict.INACTIVE);
    }
    List<CompiledDelegation> covers = new ArrayList<>();
    for (CompiledDelegation cover : it.covers.getOr(actedFor, List.of())) {
      if (cover.delegate == actor && who.inForce(cover.times)) {
        covers.add(cover);
      }
    }
    int home = it.directory.profiles.require(actedFor).home;
    if (covers.isEmpty() || !delegate.belongsTo(home)) {
      return new Refused(Verdict.NO_DELEGATION);
    }
    return new For(delegate, who, covers, session.mfa() && delegate.hasFactor() && who.hasFactor());
  }

  /** {@return the access map of one principal acting for another} */
  static AccessMap accessMap(For standing) {
    Snapshot it = standing.who().it;
    Segments pieces = new Segments();
    SegmentCollector gathering = new SegmentCollector(standing.who(), pieces);
    gathering.allows(standing.mfa(), false);
    gathering.denies();
    new SegmentCollector(standing.actor(), pieces).denies();
    Sweep sweep = new Sweep(it);
    sweep.run(pieces);
    Segments let = new Segments();
    SegmentCollector covering = new SegmentCollector(standing.who(), let);
    for (CompiledDelegation cover : standing.covers()) {
      long[] row = cover.row(it);
      for (int ground : cover.grounds) {
        covering.covered(it.grounds.require(ground), row);
      }
    }
    Sweep covered = new Sweep(it);
    covered.run(let);
    return new AccessMap(it, sweep.runs, covered.runs);
  }

  /** {@return the verdict on a permission where it applies, one principal acting for another} */
  static Verdict verdict(For standing, int permission, int at) {
    SingleDecision point = new SingleDecision(standing.who(), standing.actor(), standing.mfa());
    if (point.denied(permission, at)) {
      return Verdict.DENIED;
    }
    Snapshot it = standing.who().it;
    int bit = it.rights.bit[it.places.type[at]][permission];
    int lane = it.rights.offset[it.places.type[at]] + (bit >> 6);
    boolean covered = false;
    for (CompiledDelegation cover : standing.covers()) {
      if ((cover.row(it)[lane] & 1L << bit) != 0) {
        for (int ground : cover.grounds) {
          covered |= point.covers(it.grounds.require(ground), at);
        }
      }
    }
    return covered ? point.verdict(permission, at) : Verdict.NONE;
  }
}
