package mandala.core.review;

import java.time.Instant;
import java.util.List;
import java.util.Objects;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;

/**
 * Whether an assignment that changed may give what it did not give before. Where it is hard to tell
 * it may, so that a review asks once too often rather than not at all.
 */
final class WiderGrant {

  private final Catalogue catalogue;

  WiderGrant(Catalogue catalogue) {
    this.catalogue = catalogue;
  }

  /** {@return whether it may give more} than it did */
  boolean is(Assignment was, Assignment is) {
    return !was.subject().equals(is.subject())
        || !was.gives().equals(is.gives())
        || was.effect() != is.effect()
        || (was.mode() != is.mode() && is.mode() == Assignment.Mode.STANDING)
        || (is.crossesSeals() && !was.crossesSeals())
        || isLonger(was.window(), is.window())
        || isWider(was.scope(), is.scope())
        || isWider(was.viewScope(), is.viewScope());
  }

  private static boolean isLonger(Window was, Window is) {
    Instant from = was.from();
    Instant until = was.until();
    return (from != null && (is.from() == null || is.from().isBefore(from)))
        || (until != null && (is.until() == null || is.until().isAfter(until)));
  }

  private boolean isWider(List<Clause> was, List<Clause> is) {
    return is.stream().anyMatch(each -> was.stream().noneMatch(old -> isWithin(each, old)));
  }

  /**
   * Whether each term of the old clause still limits the new one, and none reaches behind seals.
   */
  private boolean isWithin(Clause is, Clause old) {
    return old.terms().stream()
            .allMatch(limit -> is.terms().stream().anyMatch(each -> isWithin(each, limit)))
        && is.terms().stream().allMatch(each -> old.terms().contains(each) || isHarmless(each));
  }

  private boolean isWithin(Term is, Term limit) {
    return is.equals(limit)
        || switch (limit) {
          case Term.Everything _ -> true;
          case Term.Tree(ResourceKey top) -> isBelow(placeOf(is), top);
          case Term.InAccount(AccountKey account) -> {
            ResourceKey all = ResourceKey.of(account);
            ResourceKey place = placeOf(is);
            yield !all.equals(place) // below it are other accounts, too
                && isBelow(place, all)
                && account.equals(catalogue.accountOf(Objects.requireNonNull(place)));
          }
          default -> false;
        };
  }

  /** Whether a term names no place behind a seal (section 4, "Seals"). */
  private boolean isHarmless(Term it) {
    return switch (it) {
      case Term.Everything _, Term.OfType _, Term.Labelled _, Term.InCollection _ -> true;
      case Term.Tree _, Term.Only _ -> {
        ResourceKey each = placeOf(it);
        while (each != null && catalogue.has(each) && !catalogue.isSealed(each)) {
          each = catalogue.parentOf(each);
        }
        yield each == null;
      }
      default -> false;
    };
  }

  private static @Nullable ResourceKey placeOf(Term it) {
    return switch (it) {
      case Term.Tree(ResourceKey key) -> key;
      case Term.Only(ResourceKey key) -> key;
      default -> null;
    };
  }

  private boolean isBelow(@Nullable ResourceKey place, ResourceKey top) {
    ResourceKey each = place;
    while (each != null && catalogue.has(each) && !each.equals(top)) {
      each = catalogue.parentOf(each);
    }
    return top.equals(each);
  }
}
