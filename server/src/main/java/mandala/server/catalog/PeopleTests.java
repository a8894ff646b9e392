package mandala.server.catalog;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.UnitKey;
import mandala.server.authorization.RequestContext;
import mandala.server.figure.ExposureFigures;
import mandala.server.platform.Problem;
import mandala.server.session.SeenTimes;
import mandala.server.session.SignInFacts;
import org.jspecify.annotations.Nullable;

/**
 * The tests of one filter, by one viewer: what a test needs is looked up once, and the cheap tests
 * come first.
 */
final class PeopleTests {

  private static final Duration DAY = Duration.ofDays(1);

  /** The longest span that a filter takes: ten years. */
  private static final int MOST_DAYS = 3_660;

  private final PeopleFilter filter;
  private final RequestContext context;
  private final Set<PrincipalKey> guests;
  private final SeenTimes seen;
  private final SignInFacts signIns;
  private final ExposureFigures.Newest newest;
  private final Catalogue in;
  private final Instant now;
  private final List<Predicate<Principal>> tests = new ArrayList<>();

  /**
   * Made for one call.
   *
   * @param guests who is a guest of an account looked at, where the filter asks for them
   */
  PeopleTests(
      PeopleFilter filter,
      RequestContext context,
      Set<PrincipalKey> guests,
      SeenTimes seen,
      SignInFacts signIns,
      ExposureFigures.Newest newest) {
    this.filter = filter;
    this.context = context;
    this.guests = guests;
    this.seen = seen;
    this.signIns = signIns;
    this.newest = newest;
    in = context.state().engine().catalogue();
    now = context.readPolicy().now();
  }

  /**
   * {@return the tests, all of which somebody passes who fits}
   *
   * @throws Problem if the filter names what is not there to the viewer's eyes, or can't be read
   */
  List<Predicate<Principal>> all() {
    addFacts();
    addTimes();
    addPlace();
    addAccess();
    return tests;
  }

  private void addFacts() {
    List<String> states = PeopleFilter.words(filter.state());
    if (states != null) {
      tests.add(it -> states.contains(PeopleFilter.word(it.status())));
    }
    List<String> kinds = PeopleFilter.words(filter.kind());
    if (kinds != null) {
      tests.add(it -> kinds.contains(PeopleFilter.word(it.kind())) || guests.contains(it.key()));
    }
    List<String> titles = PeopleFilter.words(filter.title());
    if (titles != null) {
      tests.add(it -> titles.contains(it.attributes().getOrDefault("title", "")));
    }
    tests.add(filter::names);
    Boolean factor = either("factor", filter.factor(), "yes", "no");
    if (factor != null) {
      tests.add(it -> it.mfa() == factor);
    }
  }

  private void addTimes() {
    Duration unseen = days("unseen", filter.unseen());
    if (unseen != null) {
      Instant last = now.minus(unseen);
      tests.add(it -> {
        Instant at = seen.of(it);
        return at == null || at.isBefore(last);
      });
    }
    Duration ends = days("ends", filter.ends());
    if (ends != null) {
      Instant last = now.plus(ends);
      tests.add(it -> {
        Instant until = it.window().until();
        return until != null && until.isAfter(now) && !until.isAfter(last);
      });
    }
  }

  private void addPlace() {
    String unit = PeopleFilter.given(filter.unit());
    if (unit != null && !unit.equals(PeopleFilter.NONE)) {
      UnitKey top = new UnitKey(context.known(Kind.UNITS, unit));
      tests.add(it -> it.unit() != null && in.isAtOrBelow(it.unit(), top));
    } else if (unit != null) {
      tests.add(PeopleGrouping.UNIT.test(unit, context));
    }
    String manager = PeopleFilter.given(filter.manager());
    if (manager != null) {
      tests.add(it -> it.kind() == Principal.Kind.PERSON || it.manager() != null);
      tests.add(PeopleGrouping.MANAGER.test(manager, context));
    }
  }

  private void addAccess() {
    String group = PeopleFilter.given(filter.group());
    if (group != null) {
      tests.add(PeopleGrouping.GROUP.test(group, context));
    }
    String role = PeopleFilter.given(filter.role());
    if (role != null) {
      tests.add(PeopleGrouping.ROLE.test(role, context));
    }
    String of = PeopleFilter.given(filter.of());
    if (of != null) {
      tests.add(PeopleGrouping.of(filter.by()).test(of, context));
    }
    Long exposed = filter.exposed();
    if (exposed != null) {
      tests.add(it -> {
        ExposureFigures.Figure figure =
            context.readPolicy().maySeeAllOf(it.key()) ? newest.people().get(it.key()) : null;
        return figure != null && figure.exposure() >= exposed;
      });
    }
    Boolean password = either("signIn", filter.signIn(), "password", "none");
    if (password != null) {
      Set<PrincipalKey> have = signIns.withPassword();
      tests.add(it ->
          have.contains(it.key()) == password
              && it.kind() == Principal.Kind.PERSON
              && (context.readPolicy().isViewer(it.key()) || context.cannotChange(it) == null));
    }
  }

  private static @Nullable Duration days(String name, @Nullable Integer days) {
    if (days != null && (days < 0 || days > MOST_DAYS)) {
      throw Problem.badRequest(
          "'" + name + "' can't be " + days, "Give a number of days from 0 to " + MOST_DAYS + ".");
    }
    return days == null ? null : DAY.multipliedBy(days);
  }

  private static @Nullable Boolean either(
      String name, @Nullable String word, String yes, String no) {
    String given = PeopleFilter.given(word);
    if (given != null && !given.equals(yes) && !given.equals(no)) {
      throw Problem.badRequest(
          "'" + name + "' can't be '" + given + "'", "Write " + yes + " or " + no + ".");
    }
    return given == null ? null : given.equals(yes);
  }
}
