package mandala.server.catalog;

import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import mandala.core.model.Catalogue;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.server.authorization.RequestContext;
import mandala.server.figure.ExposureFigures;
import mandala.server.platform.Problem;
import mandala.server.session.SeenTimes;
import mandala.server.session.SignInFacts;
import org.springframework.stereotype.Component;

/** Finds the people whom a filter asks for; nobody passes whom the viewer may not read. */
@Component
class PeopleSearch {

  private final ExposureFigures exposures;
  private final SignInFacts signIns;
  private final SeenTimes seen;

  PeopleSearch(ExposureFigures exposures, SignInFacts signIns, SeenTimes seen) {
    this.exposures = exposures;
    this.seen = seen;
    this.signIns = signIns;
  }

  /**
   * What was found.
   *
   * @param readable all whom the viewer may read in the account
   * @param fitting those who fit, in order
   * @param newest exposure as it was counted last
   */
  record Found(List<Principal> readable, List<Principal> fitting, ExposureFigures.Newest newest) {}

  /**
   * {@return those who fit and whom the viewer may read}
   *
   * @throws Problem if there is no such account, unit, group, role, manager, or order
   */
  Found found(PeopleFilter filter, RequestContext context) {
    seen.refresh();
    ExposureFigures.Newest newest = exposures.newest();
    Set<AccountKey> below = below(filter, context);
    Set<PrincipalKey> guests = filter.asksForGuests() ? guests(below, context) : Set.of();
    List<Principal> readable =
        context.state().people().all().stream()
            .filter(it -> below.contains(it.account()) || guests.contains(it.key()))
            .filter(context.readPolicy()::mayRead)
            .toList();
    PeopleOrder order = PeopleOrder.of(filter, context, seen, newest);
    Stream<Principal> fitting = readable.stream();
    for (Predicate<Principal> test :
        new PeopleTests(filter, context, guests, seen, signIns, newest).all()) {
      fitting = fitting.filter(test);
    }
    return new Found(readable, order.sorted(fitting), newest);
  }

  /**
   * {@return those who fit, by what they have in common}
   *
   * @throws Problem if there is no such grouping, and as {@link #found}
   */
  List<PeopleGrouping.PeopleGroup> grouped(PeopleFilter filter, RequestContext context) {
    return PeopleGrouping.of(filter.by()).groups(found(filter, context).fitting(), context);
  }

  private static Set<AccountKey> below(PeopleFilter filter, RequestContext context) {
    Catalogue in = context.state().engine().catalogue();
    String account = PeopleFilter.given(filter.account());
    AccountKey top = account == null ? null : new AccountKey(context.known(Kind.ACCOUNTS, account));
    return in.accounts().keySet().stream()
        .filter(it -> top == null || in.isAtOrBelow(it, top))
        .collect(Collectors.toSet());
  }

  /** Who is a guest of one of the accounts looked at, from elsewhere. */
  private static Set<PrincipalKey> guests(Set<AccountKey> below, RequestContext context) {
    Catalogue in = context.state().engine().catalogue();
    return in.guests().stream()
        .filter(it -> below.contains(it.account()) && context.readPolicy().mayRead(it, in))
        .map(Guest::principal)
        .collect(Collectors.toSet());
  }
}
