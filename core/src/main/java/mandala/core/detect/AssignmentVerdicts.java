package mandala.core.detect;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import mandala.core.evaluate.PermissionReach;
import mandala.core.model.Assignment;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.present.Access;
import mandala.core.question.Verdict;
import org.jspecify.annotations.Nullable;

/**
 * What becomes of what standing assignments give, for those who hold them. Read person by person,
 * from any thread: an assignment is asked about until somebody is allowed something of it.
 */
final class AssignmentVerdicts {

  private static final int ALLOWED = 1 << Verdict.ALLOWED.ordinal();

  /** Once it is among the verdicts, no other one but that something is allowed matters. */
  private static final int NONE = 1 << Verdict.NONE.ordinal();

  private final Basis basis;
  private final Map<AssignmentKey, Asked> all = new HashMap<>();

  /** By holder: those of each subject that they have. */
  private final Map<PrincipalKey, List<List<Asked>>> byHolder = new HashMap<>();

  private static final class Asked {
    final Assignment it;

    /** Bits by the ordinal of a verdict. */
    final AtomicInteger verdicts = new AtomicInteger();

    final Given given;

    /** What it covers: from when somebody asks to when somebody is allowed something. */
    PermissionReach.@Nullable Places places;

    Asked(Assignment it, Given given) {
      this.it = it;
      this.given = given;
    }

    boolean allowed() {
      return (verdicts.getPlain() & ALLOWED) != 0;
    }
  }

  AssignmentVerdicts(Basis basis) {
    this.basis = basis;
  }

  /** Gathers the assignments to ask about, before anybody is read. */
  void begin() {
    Map<Subject, List<Asked>> bySubject = new HashMap<>();
    for (Assignment it : basis.catalogue.assignments().values()) {
      if (basis.stands(it)) {
        Asked asked = new Asked(it, basis.given(it));
        all.put(it.key(), asked);
        bySubject.computeIfAbsent(it.subject(), _ -> new ArrayList<>()).add(asked);
      }
    }
    for (List<Asked> same : bySubject.values()) {
      for (Principal who : basis.holders(same.getFirst().it)) {
        byHolder.computeIfAbsent(who.key(), _ -> new ArrayList<>()).add(same);
      }
    }
  }

  /** Reads what somebody holds. */
  void read(PrincipalKey who, Access held) {
    for (List<Asked> same : byHolder.getOrDefault(who, List.of())) {
      for (Asked asked : same) {
        if (!asked.allowed()) {
          read(asked, held);
        }
      }
    }
  }

  private void read(Asked asked, Access held) {
    PermissionReach reach = asked.given.reach;
    PermissionReach.Places places = asked.places;
    if (places == null) {
      places = reach.places(Basis.scopes(asked.it));
      asked.places = places;
    }
    if (held.allows(reach, places)) {
      asked.verdicts.updateAndGet(known -> known | ALLOWED);
      asked.places = null;
    } else if ((asked.verdicts.getPlain() & NONE) == 0) {
      for (Verdict verdict : held.verdicts(reach, places)) {
        asked.verdicts.updateAndGet(known -> known | 1 << verdict.ordinal());
      }
    }
  }

  /** {@return whether somebody is allowed something that an assignment gives} */
  boolean allowed(Assignment it) {
    Asked asked = all.get(it.key());
    return asked != null && asked.allowed();
  }

  /**
   * {@return the verdicts on all that an assignment gives to all who hold it}; where {@link
   * Verdict#NONE} is one of them, others but {@link Verdict#ALLOWED} may lack
   */
  Set<Verdict> of(Assignment it) {
    Asked asked = all.get(it.key());
    Set<Verdict> verdicts = EnumSet.noneOf(Verdict.class);
    for (Verdict verdict : Verdict.values()) {
      if (asked != null && (asked.verdicts.get() & 1 << verdict.ordinal()) != 0) {
        verdicts.add(verdict);
      }
    }
    return verdicts;
  }
}
