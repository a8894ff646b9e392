package mandala.core.rule;

import java.util.HashSet;
import java.util.Set;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Key;
import mandala.core.model.Term;
import org.jspecify.annotations.Nullable;

/**
 * Which seal keeps access out (section 4, seals). A sealed resource cuts itself and all below it
 * off from allows that come from above. Denies ignore seals, and so does an assignment that crosses
 * them; neither is asked here.
 */
public final class Seals {

  private Seals() {}

  /**
   * {@return the nearest sealed resource at or above a resource}, null where there is none
   *
   * @throws IllegalArgumentException if there is no such resource
   */
  public static Key.@Nullable Resource over(Key.Resource resource, Catalogue catalogue) {
    return firstSealed(resource, null, catalogue);
  }

  /**
   * {@return the seal that keeps an allow of a clause out of a resource}, null where none does
   *
   * @param clause one that covers the resource
   * @throws IllegalArgumentException if there is no such resource
   */
  public static Key.@Nullable Resource against(
      Clause clause, Key.Resource resource, Catalogue catalogue) {
    return clause.terms().contains(new Term.OwnedBy(Term.Owner.SELF))
        ? null
        : firstSealed(resource, named(clause, resource, catalogue), catalogue);
  }

  /**
   * {@return the deepest resource at or above a resource that a clause names}, null where it names
   * none: into it, and down from it to the next seal, the clause reaches
   *
   * @throws IllegalArgumentException if there is no such resource
   */
  public static Key.@Nullable Resource named(
      Clause clause, Key.Resource resource, Catalogue catalogue) {
    Set<Key.Resource> named = new HashSet<>();
    for (Term term : clause.terms()) {
      Key.Resource it = named(term, resource, catalogue);
      if (it != null) {
        named.add(it);
      }
    }
    Key.Resource at = resource;
    while (at != null && !named.contains(at)) {
      at = catalogue.parentOf(at);
    }
    return at;
  }

  private static Key.@Nullable Resource named(
      Term term, Key.Resource resource, Catalogue catalogue) {
    return switch (term) {
      case Term.Tree(Key.Resource key) -> key;
      case Term.Only(Key.Resource key) -> key;
      case Term.InAccount(Key.Account key) -> Key.Resource.of(key);
      case Term.OwnAccount _, Term.InUnit _, Term.OwnUnit _ -> {
        Key.Account account = catalogue.accountOf(resource);
        yield account == null ? null : Key.Resource.of(account);
      }
      case Term.Everything _, Term.InCollection _, Term.OfType _ -> null;
      case Term.OwnedBy _, Term.Labelled _ -> null;
    };
  }

  private static Key.@Nullable Resource firstSealed(
      Key.Resource resource, Key.@Nullable Resource end, Catalogue catalogue) {
    for (Key.Resource at = resource; at != null && !at.equals(end); at = catalogue.parentOf(at)) {
      if (catalogue.isSealed(at)) {
        return at;
      }
    }
    return null;
  }
}
