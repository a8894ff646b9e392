package mandala.server.question;

import java.util.List;
import mandala.core.model.Catalogue;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Difference;
import mandala.document.Naming;

/**
 * What differs in one area of an account, with names.
 *
 * @param key its topmost resource; {@code organisation:} before it for the account itself with its
 *     units and groups, as figures have it
 */
public record DifferingArea(
    String key, String name, String account, String accountName, long gained, long lost) {

  /**
   * {@return the areas of a difference that may be named}, by the names of the model after, else
   * before
   */
  public static List<DifferingArea> of(
      Difference difference, Catalogue before, Catalogue after, Naming naming) {
    return difference.areas().stream()
        .filter(it -> naming.tells(it.organisation() ? ResourceKey.of(it.account()) : it.top()))
        .map(it -> view(it, before, after))
        .toList();
  }

  private static DifferingArea view(Difference.Area it, Catalogue before, Catalogue after) {
    ResourceKey account = ResourceKey.of(it.account());
    return new DifferingArea(
        (it.organisation() ? "organisation:" : "") + it.top(),
        it.organisation() ? "The account itself" : name(it.top(), before, after),
        it.account().value(),
        name(account, before, after),
        it.gained(),
        it.lost());
  }

  private static String name(ResourceKey key, Catalogue before, Catalogue after) {
    return after.has(key) ? after.nameOf(key) : before.has(key) ? before.nameOf(key) : key.value();
  }
}
