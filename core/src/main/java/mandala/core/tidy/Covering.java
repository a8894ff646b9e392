package mandala.core.tidy;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.AssignmentKey;
import mandala.core.rule.Ownership;
import org.jspecify.annotations.Nullable;

/**
 * Tells whether one assignment to a subject makes another one to the same subject needless, from an
 * instant on.
 */
final class Covering {

  private final Catalogue catalogue;
  private final GivenContents contents;
  private final Instant at;

  Covering(Catalogue catalogue, GivenContents contents, Instant at) {
    this.catalogue = catalogue;
    this.contents = contents;
    this.at = at;
  }

  /**
   * {@return the standing assignments of some that can go, each with the one that covers it}, none
   * where it is over; no two stand in for each other
   */
  Map<Assignment, Optional<Assignment>> needless(Collection<Assignment> all, Tidier.Bounds bounds) {
    Map<Subject, List<Assignment>> bySubject = new LinkedHashMap<>();
    for (Assignment it : all) {
      bySubject.computeIfAbsent(it.subject(), _ -> new ArrayList<>()).add(it);
    }
    Map<Assignment, Optional<Assignment>> needless = new LinkedHashMap<>();
    for (List<Assignment> same : bySubject.values()) {
      Set<AssignmentKey> gone = new HashSet<>();
      for (Assignment it : same) {
        if (it.mode() != Assignment.Mode.STANDING || !bounds.touches().test(it)) {
          continue;
        }
        boolean over = isOver(it);
        Optional<Assignment> by = over ? Optional.empty() : covering(it, same, gone, bounds);
        if (over || by.isPresent()) {
          needless.put(it, by);
          gone.add(it.key());
        }
      }
    }
    return needless;
  }

  private Optional<Assignment> covering(
      Assignment it, List<Assignment> same, Set<AssignmentKey> gone, Tidier.Bounds bounds) {
    for (Assignment other : same) {
      if (covers(other, it)
          && !other.key().equals(it.key())
          && !gone.contains(other.key())
          && bounds.names().test(other)) {
        return Optional.of(other);
      }
    }
    return Optional.empty();
  }

  /** {@return whether an assignment is over, so that it never gives anything again} */
  boolean isOver(Assignment it) {
    Instant until = it.window().until();
    return until != null && !until.isAfter(at);
  }

  /**
   * {@return whether an assignment gives as much as another to the same subject, wherever and
   * whenever that one does}
   */
  boolean covers(Assignment wide, Assignment narrow) {
    return wide.mode() == Assignment.Mode.STANDING
        && wide.subject().equals(narrow.subject())
        && lasts(wide.window(), narrow.window())
        && (wide.crossesSeals() || !narrow.crossesSeals())
        && everywhere(narrow.scope(), wide.scope(), List.of(), wide.crossesSeals())
        && everywhere(narrow.viewScope(), wide.scope(), wide.viewScope(), wide.crossesSeals())
        && contents.of(wide).covers(contents.of(narrow))
        && contents.watched(wide.gives()).containsAll(contents.watched(narrow.gives()))
        && (!Ownership.isGivenBy(narrow, catalogue) || Ownership.isGivenBy(wide, catalogue));
  }

  /** Whether a window holds whenever another does, of what is still to come. */
  private boolean lasts(Window wide, Window narrow) {
    return (isBy(wide.from(), at) || isBy(wide.from(), narrow.from()))
        && (wide.until() == null
            || (narrow.until() != null && !narrow.until().isAfter(wide.until())));
  }

  private static boolean isBy(@Nullable Instant from, @Nullable Instant instant) {
    return from == null || (instant != null && !from.isAfter(instant));
  }

  // asked of every pair of a subject's assignments, in a city millions of times: no streams
  private static boolean everywhere(
      List<Clause> narrow, List<Clause> wide, List<Clause> alsoWide, boolean throughSeals) {
    for (Clause clause : narrow) {
      if (!isCovered(clause, wide, throughSeals) && !isCovered(clause, alsoWide, throughSeals)) {
        return false;
      }
    }
    return true;
  }

  private static boolean isCovered(Clause narrow, List<Clause> wide, boolean throughSeals) {
    for (Clause it : wide) {
      if (covers(it, narrow, throughSeals)) {
        return true;
      }
    }
    return false;
  }

  /**
   * Whether a clause covers what another does: its terms are among the other's. A further term that
   * names a place, or asks for one's own, may pass a seal that the clause without it does not pass.
   */
  private static boolean covers(Clause wide, Clause narrow, boolean throughSeals) {
    for (Term term : wide.terms()) {
      if (!(term instanceof Term.Everything) && !narrow.terms().contains(term)) {
        return false;
      }
    }
    for (Term term : narrow.terms()) {
      if (!throughSeals && !onlyNarrows(term) && !wide.terms().contains(term)) {
        return false;
      }
    }
    return true;
  }

  private static boolean onlyNarrows(Term term) {
    return switch (term) {
      case Term.OfType _, Term.Labelled _, Term.Everything _ -> true;
      case Term.OwnedBy(Term.Owner owner) -> owner == Term.Owner.NONE;
      case Term.InAccount _,
          Term.OwnAccount _,
          Term.Tree _,
          Term.Only _,
          Term.InCollection _,
          Term.InUnit _,
          Term.OwnUnit _ ->
          false;
    };
  }
}
