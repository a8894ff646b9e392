package mandala.server.catalog;

import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;
import java.util.stream.Stream;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.document.ChangeText;
import mandala.server.authorization.RequestContext;
import mandala.server.figure.ExposureFigures;
import mandala.server.platform.Problem;
import mandala.server.session.SeenTimes;
import org.jspecify.annotations.Nullable;

/**
 * The order of a list of people; each value is found once.
 *
 * @param by what they are sorted by; null leaves the order of names, in which people are kept
 * @param turned whether the order is turned round
 */
record PeopleOrder(@Nullable Function<Principal, @Nullable Comparable<?>> by, boolean turned) {

  /** Somebody with what they are sorted by; who has nothing comes last, whichever way. */
  private record Keyed(Principal of, boolean last, Comparable<Object> by) {

    @SuppressWarnings("unchecked") // one column has values of one type
    static Keyed of(Principal it, @Nullable Comparable<?> by) {
      return new Keyed(it, by == null, (Comparable<Object>) (by == null ? "" : by));
    }
  }

  /**
   * {@return the order that a filter asks for}
   *
   * @throws Problem if there is none
   */
  static PeopleOrder of(
      PeopleFilter filter, RequestContext context, SeenTimes seen, ExposureFigures.Newest newest) {
    String sort = PeopleFilter.given(filter.sort());
    if (sort == null) {
      return new PeopleOrder(null, false);
    }
    boolean turned = sort.startsWith("-");
    Function<Principal, ExposureFigures.@Nullable Figure> figures =
        it -> context.readPolicy().maySeeAllOf(it.key()) ? newest.people().get(it.key()) : null;
    ChangeText text = context.text();
    Function<Principal, @Nullable Comparable<?>> by =
        switch (turned ? sort.substring(1) : sort) {
          case "name" -> it -> it.about().nameOr(it.key()).toLowerCase(Locale.ROOT);
          case "title" -> it -> it.attributes().getOrDefault("title", "");
          case "state" -> it -> PeopleFilter.word(it.status());
          case "account" -> it -> text.name(Kind.ACCOUNTS, it.account().value());
          case "unit" -> it -> it.unit() == null ? "" : text.name(Kind.UNITS, it.unit().value());
          case "seen" ->
              it -> {
                Instant at = seen.of(it);
                return at == null ? Instant.EPOCH : at; // never: for longest
              };
          case "ends" -> it -> it.window().until();
          case "exposure" -> of(figures, ExposureFigures.Figure::exposure);
          case "unused" -> of(figures, ExposureFigures.Figure::unused);
          case "share" -> of(figures, ExposureFigures.Figure::share);
          default ->
              throw Problem.badRequest(
                  "People can't be sorted by '" + sort + "'",
                  "Choose name, title, state, unit, account, seen, ends, exposure, unused or"
                      + " share, with a minus before it to turn the order round.");
        };
    return new PeopleOrder(by, turned);
  }

  private static Function<Principal, @Nullable Comparable<?>> of(
      Function<Principal, ExposureFigures.@Nullable Figure> figures,
      Function<ExposureFigures.Figure, Comparable<?>> value) {
    return it -> {
      ExposureFigures.Figure figure = figures.apply(it);
      return figure == null ? null : value.apply(figure);
    };
  }

  /** {@return people in this order}; those of whom it tells nothing apart stay as they come */
  List<Principal> sorted(Stream<Principal> people) {
    Function<Principal, @Nullable Comparable<?>> column = by;
    if (column == null) {
      return people.toList();
    }
    Comparator<Keyed> plain = (one, other) -> one.by().compareTo(other.by());
    return people
        .map(it -> Keyed.of(it, column.apply(it)))
        .sorted(Comparator.comparing(Keyed::last).thenComparing(turned ? plain.reversed() : plain))
        .map(Keyed::of)
        .toList();
  }
}
