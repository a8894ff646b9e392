package mandala.server.question;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Figure;
import mandala.document.Naming;
import org.jspecify.annotations.Nullable;

/** The facts of a mandala as the API gives them. */
public record FigureView(long rights, List<Sector> sectors) {

  /** One area; {@code door}: in another account, {@code account}: is a sub-account. */
  public record Sector(
      String key, String name, boolean account, boolean door, int size, List<Petal> petals) {}

  /** One class in one area, counted in resources. */
  public record Petal(
      String accessClass,
      int applicable,
      int reached,
      int blocked,
      int denied,
      @Nullable String risk) {}

  /**
   * {@return a figure with names}; a sector that may not be named is told only where something in
   * it is reached in the model in force
   *
   * @param inForce whether the figure is of the model in force
   */
  public static FigureView of(Figure figure, Catalogue catalogue, Naming naming, boolean inForce) {
    List<Sector> sectors = new ArrayList<>();
    for (Figure.Sector sector : figure.sectors()) {
      boolean named =
          naming.tells(sector.organisation() ? ResourceKey.of(sector.account()) : sector.top());
      if (!named && !(inForce && isReached(sector))) {
        continue;
      }
      // of an account that may not be named, what is reached in it may be told all the same
      boolean told = named || naming.tells(Kind.ACCOUNTS, sector.account().value());
      sectors.add(
          new Sector(
              told
                  ? (sector.organisation() ? "organisation:" : "") + sector.top()
                  : "~" + sectors.size(),
              told ? name(sector, catalogue) : Naming.hidden(Kind.ACCOUNTS),
              !sector.organisation() && sector.top().equals(ResourceKey.of(sector.account())),
              sector.door(),
              sector.size(),
              sector.petals().stream().map(FigureView::petal).toList()));
    }
    return new FigureView(figure.rights(), sectors);
  }

  private static boolean isReached(Figure.Sector sector) {
    return sector.petals().stream().anyMatch(it -> it.reached() > 0);
  }

  private static String name(Figure.Sector sector, Catalogue catalogue) {
    String name = sector.organisation() ? "The account itself" : catalogue.nameOf(sector.top());
    return sector.door() ? catalogue.nameOf(ResourceKey.of(sector.account())) + " · " + name : name;
  }

  private static Petal petal(Figure.Petal petal) {
    return new Petal(
        word(petal.accessClass()),
        petal.applicable(),
        petal.reached(),
        petal.blocked(),
        petal.denied(),
        petal.risk() == null ? null : word(petal.risk()));
  }

  /** {@return a constant as the API writes it} */
  public static String word(Enum<?> constant) {
    return constant.name().toLowerCase(Locale.ROOT).replace('_', '-');
  }
}
