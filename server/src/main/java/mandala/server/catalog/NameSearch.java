package mandala.server.catalog;

import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Stream;

/**
 * A part of a name that somebody types to find a thing: exact names come first, then names that
 * begin with it, then those of which a word begins with it, then all others that contain it.
 */
public final class NameSearch {

  private static final int NONE = 4;

  private final String text;

  /** Looks for a text, whatever its case; a blank one fits everything. */
  public NameSearch(String text) {
    this.text = text.strip().toLowerCase(Locale.ROOT);
  }

  /**
   * {@return how well something fits}, 0 best, 4 not at all
   *
   * @param also what it may be found by too, such as a title
   */
  public int rank(String key, String name, String also) {
    if (text.isEmpty()) {
      return 0;
    }
    String lower = name.toLowerCase(Locale.ROOT);
    if (lower.equals(text) || key.equals(text)) {
      return 0;
    }
    if (lower.startsWith(text)) {
      return 1;
    }
    int at = lower.indexOf(text);
    if (at >= 0) {
      return lower.contains(" " + text) ? 2 : 3;
    }
    return key.contains(text) || also.toLowerCase(Locale.ROOT).contains(text) ? 3 : NONE;
  }

  /**
   * {@return the first of what fits}, best first; of those that fit alike the near ones, then in
   * the order given
   *
   * @param also what each may be found by too
   * @param visible asked only of what fits
   */
  public <T> List<T> best(
      Stream<T> things,
      Function<T, String> key,
      Function<T, String> name,
      Function<T, String> also,
      Predicate<T> visible,
      Predicate<T> near,
      int most) {
    return things
        .map(it -> new Ranked<>(it, rank(key.apply(it), name.apply(it), also.apply(it))))
        .filter(it -> it.rank() < NONE)
        .sorted(
            Comparator.comparingInt((Ranked<T> it) -> it.rank())
                .thenComparing(it -> !near.test(it.thing())))
        .map(Ranked::thing)
        .filter(visible)
        .limit(most)
        .toList();
  }

  private record Ranked<T>(T thing, int rank) {}
}
