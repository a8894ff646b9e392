package mandala.core.rule;

import java.util.HashSet;
import java.util.Set;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Term;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ResourceKey;
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
  public static @Nullable ResourceKey over(ResourceKey resource, Catalogue catalogue) {
    return firstSealed(resource, null, catalogue);
  }

  /**
   * {@return the seal that keeps an allow of a clause out of a resource}, null where none does
   *
   * @param clause one that covers the resource
   * @throws IllegalArgumentException if there is no such resource
   */
  public static @Nullable ResourceKey against(
      Clause clause, ResourceKey resource, Catalogue catalogue) {
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
  public static @Nullable ResourceKey named(
      Clause clause, ResourceKey resource, Catalogue catalogue) {
    Set<ResourceKey> named = new HashSet<>();
    for (Term term : clause.terms()) {
      ResourceKey it = named(term, resource, catalogue);
      if (it != null) {
        named.add(it);
      }
    }
    ResourceKey at = resource;
    while (at != null && !named.contains(at)) {
      at = catalogue.parentOf(at);
    }
    return at;
  }

  private static @Nullable ResourceKey named(Term term, ResourceKey resource, Catalogue catalogue) {
    return switch (term) {
      case Term.Tree(ResourceKey key) -> key;
      case Term.Only(ResourceKey key) -> key;
      case Term.InAccount(AccountKey key) -> ResourceKey.of(key);
      case Term.OwnAccount _, Term.InUnit _, Term.OwnUnit _ -> {
        AccountKey account = catalogue.accountOf(resource);
        yield account == null ? null : ResourceKey.of(account);
      }
      case Term.Everything _, Term.InCollection _, Term.OfType _ -> null;
      case Term.OwnedBy _, Term.Labelled _ -> null;
    };
  }

  private static @Nullable ResourceKey firstSealed(
      ResourceKey resource, @Nullable ResourceKey end, Catalogue catalogue) {
    for (ResourceKey at = resource; at != null && !at.equals(end); at = catalogue.parentOf(at)) {
      if (catalogue.isSealed(at)) {
        return at;
      }
    }
    return null;
  }
}
