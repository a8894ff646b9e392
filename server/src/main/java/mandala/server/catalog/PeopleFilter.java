package mandala.server.catalog;

import java.time.Instant;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.function.ToDoubleFunction;
import java.util.stream.Collectors;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.document.ChangeText;
import mandala.server.authorization.RequestContext;
import mandala.server.figure.ExposureFigures;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;

/**
 * Which people and services a list shows, and in which order.
 *
 * @param account this account and all below it; all where absent
 * @param text in name, key or title
 * @param state any of these words, between commas; {@code kind} and {@code title} likewise
 * @param sort {@code name}, {@code title}, {@code state}, {@code unit}, {@code account}, {@code
 *     seen}, {@code exposure}, {@code unused} or {@code share}, of which who has no figure comes
 *     last; a minus before it turns the order round; by name where absent
 */
record PeopleFilter(
    @Nullable String account,
    @Nullable String text,
    @Nullable String state,
    @Nullable String kind,
    @Nullable String title,
    @Nullable String sort) {

  private static final Map<String, ToDoubleFunction<ExposureFigures.Figure>> FIGURES =
      Map.of(
          "exposure", ExposureFigures.Figure::exposure,
          "unused", ExposureFigures.Figure::unused,
          "share", ExposureFigures.Figure::share);

  /**
   * What was found.
   *
   * @param readable all whom the viewer may read in the account
   * @param fitting those who fit, in order
   */
  record Found(List<Principal> readable, List<Principal> fitting) {}

  /** {@return the account looked at}, null for all */
  @Nullable AccountKey in() {
    return account == null || account.isBlank() ? null : new AccountKey(account);
  }

  /**
   * {@return those who fit and whom the viewer may read}
   *
   * @param exposures the newest, by which some orders go
   * @throws Problem if there is no such account or order
   */
  Found found(RequestContext context, Map<PrincipalKey, ExposureFigures.Figure> exposures) {
    Catalogue catalogue = context.state().engine().catalogue();
    AccountKey in = in();
    if (in != null
        && (!catalogue.accounts().containsKey(in)
            || !context.naming().tells(Kind.ACCOUNTS, in.value()))) {
      throw Problem.notFound("There is no account '" + in + "'. Choose one from the list.");
    }
    Set<AccountKey> below =
        catalogue.accounts().keySet().stream()
            .filter(it -> in == null || catalogue.isAtOrBelow(it, in))
            .collect(Collectors.toSet());
    List<Principal> readable =
        context.state().people().all().stream()
            .filter(it -> in == null || below.contains(it.account()))
            .filter(context.readPolicy()::mayRead)
            .toList();
    Comparator<Principal> order = order(context, exposures);
    List<Principal> fitting = readable.stream().filter(this::fits).toList();
    return new Found(readable, order == null ? fitting : fitting.stream().sorted(order).toList());
  }

  private boolean fits(Principal it) {
    return fits(state, word(it.status()))
        && fits(kind, word(it.kind()))
        && fits(title, it.attributes().get("title"))
        && matches(it, text);
  }

  static String word(Enum<?> constant) {
    return constant.name().toLowerCase(Locale.ROOT);
  }

  private static boolean fits(@Nullable String wanted, @Nullable String found) {
    if (wanted == null || wanted.isBlank()) {
      return true;
    }
    return found != null && List.of(wanted.split(",", -1)).contains(found);
  }

  private static boolean matches(Principal it, @Nullable String text) {
    if (text == null || text.isBlank()) {
      return true;
    }
    String wanted = text.strip().toLowerCase(Locale.ROOT);
    return it.key().value().contains(wanted)
        || it.about().nameOr(it.key()).toLowerCase(Locale.ROOT).contains(wanted)
        || it.attributes().getOrDefault("title", "").toLowerCase(Locale.ROOT).contains(wanted);
  }

  /** {@return the order asked for}, null for that of names, in which people are kept */
  private @Nullable Comparator<Principal> order(
      RequestContext context, Map<PrincipalKey, ExposureFigures.Figure> exposures) {
    if (sort == null || sort.isBlank()) {
      return null;
    }
    boolean turned = sort.startsWith("-");
    String by = turned ? sort.substring(1) : sort;
    ToDoubleFunction<ExposureFigures.Figure> figure = FIGURES.get(by);
    if (figure != null) {
      return byFigure(
          it -> context.readPolicy().maySeeAllOf(it.key()) ? exposures.get(it.key()) : null,
          figure,
          turned);
    }
    ChangeText text = context.text();
    Comparator<Principal> order =
        switch (by) {
          case "name" -> by(it -> it.about().nameOr(it.key()).toLowerCase(Locale.ROOT));
          case "title" -> by(it -> it.attributes().getOrDefault("title", ""));
          case "state" -> by(it -> word(it.status()));
          case "account" -> by(it -> text.name(Kind.ACCOUNTS, it.account().value()));
          case "unit" ->
              by(it -> it.unit() == null ? "" : text.name(Kind.UNITS, it.unit().value()));
          case "seen" -> Comparator.comparing(PeopleFilter::seen);
          default ->
              throw Problem.badRequest(
                  "People can't be sorted by '" + sort + "'",
                  "Choose name, title, state, unit, account, seen, exposure, unused or share, with a"
                      + " minus before it to turn the order round.");
        };
    return turned ? order.reversed() : order;
  }

  /** Who has no figure comes last, whichever way. */
  private static Comparator<Principal> byFigure(
      Function<Principal, ExposureFigures.@Nullable Figure> of,
      ToDoubleFunction<ExposureFigures.Figure> figure,
      boolean turned) {
    Map<PrincipalKey, Double> known = new HashMap<>();
    Function<Principal, Double> value =
        it ->
            known.computeIfAbsent(
                it.key(),
                _ -> {
                  ExposureFigures.Figure its = of.apply(it);
                  double plain = its == null ? Double.MAX_VALUE : figure.applyAsDouble(its);
                  return turned && its != null ? -plain : plain;
                });
    return Comparator.comparing(value);
  }

  private static Comparator<Principal> by(Function<Principal, String> words) {
    return Comparator.comparing(words);
  }

  private static Instant seen(Principal it) {
    Instant seen = it.lastSeen();
    return seen == null ? Instant.EPOCH : seen;
  }
}
