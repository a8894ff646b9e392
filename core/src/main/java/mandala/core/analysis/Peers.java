package mandala.core.analysis;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import mandala.core.engine.Engine;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.core.present.Access;
import mandala.core.question.Session;
import org.jspecify.annotations.Nullable;

/**
 * Whom somebody's access is compared with: active people of the same home account and job.
 *
 * @param basis what makes them colleagues
 * @param people by key, without whom they are the colleagues of
 */
public record Peers(Basis basis, List<PrincipalKey> people) {

  /** The attribute that names somebody's job. */
  public static final String TITLE = "title";

  /** So many make a core that means something. */
  public static final int FEWEST = 2;

  /** Copies its people. */
  public Peers {
    people = List.copyOf(people);
  }

  /** What colleagues have in common, the closest first. */
  public enum Basis {
    /** They began from the same pattern. */
    PATTERN,
    /** They have the same title. */
    TITLE,
    /** They are of the same unit. */
    UNIT,
    /** There are too few of any. */
    NONE
  }

  /** {@return the colleagues of somebody}, by the closest basis that has at least two */
  public static Peers of(Engine engine, Principal whose, Instant at) {
    for (Basis basis : List.of(Basis.PATTERN, Basis.TITLE, Basis.UNIT)) {
      Object trait = trait(basis, whose);
      List<PrincipalKey> alike =
          engine.catalogue().principals().values().stream()
              .filter(it -> trait != null && trait.equals(trait(basis, it)))
              .filter(it -> it.kind() == whose.kind() && it.account().equals(whose.account()))
              .map(Principal::key)
              .filter(it -> !it.equals(whose.key()) && engine.isActive(it, at))
              .sorted(Comparator.comparing(PrincipalKey::value))
              .toList();
      if (alike.size() >= FEWEST) {
        return new Peers(basis, alike);
      }
    }
    return new Peers(Basis.NONE, List.of());
  }

  /** {@return what makes somebody a colleague of others by a basis}, null where they lack it */
  public static @Nullable Object trait(Basis basis, Principal it) {
    return switch (basis) {
      case PATTERN -> it.pattern();
      case TITLE -> it.attributes().get(TITLE);
      case UNIT -> it.unit();
      case NONE -> null;
    };
  }

  /** {@return how many of them must hold a right for it to be of the core}: three in four */
  public int least() {
    return Math.max(1, (3 * people.size() + 3) / 4);
  }

  /**
   * {@return what at least three in four of them hold}, each with the second factor where enrolled
   *
   * @throws IllegalStateException if there are none
   */
  public Access core(Engine engine, Instant at) {
    if (people.isEmpty()) {
      throw new IllegalStateException("There are no colleagues, and so no core");
    }
    List<Access> all = new ArrayList<>();
    people.forEach(it -> all.add(engine.access(new Session(it, at, true, null))));
    return Access.shared(all, least());
  }
}
