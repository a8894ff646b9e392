package mandala.core;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import mandala.core.engine.Engine;
import mandala.core.excess.UseCoverage;
import mandala.core.excess.UseRecord;
import mandala.core.excess.UseWindow;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Expectation;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Question;

/** Random use of random models, always the same for a seed, and expectations that demand some. */
final class RandomUse {

  private final Random random;
  private final List<PrincipalKey> people = new ArrayList<>();
  private final List<PermissionKey> permissions = new ArrayList<>();

  /** Those that have gates: their use brings most with it. */
  private final List<PermissionKey> gated = new ArrayList<>();

  private final List<ResourceKey> places;

  RandomUse(AccessModel model, long seed) {
    random = new Random(seed * 31 + 7);
    model.principals().forEach(it -> people.add(it.key()));
    people.add(PrincipalKey.ANONYMOUS);
    new Catalogue(model)
        .permissions().values().stream()
            .map(Permission::key)
            .filter(it -> !it.value().startsWith("unused"))
            .forEach(permissions::add);
    model.permissions().stream()
        .filter(it -> !it.requires().isEmpty())
        .map(Permission::key)
        .forEach(gated::add);
    places = AllPlaces.of(model);
  }

  private <T> T any(List<T> from) {
    return from.get(random.nextInt(from.size()));
  }

  UseWindow window() {
    return new UseWindow(
        RandomModels.anyTime(random), any(List.of(1, 2, 30, 45, 46, 47, 90, 120, 365)));
  }

  /** What up to three sources report, about the first day of a window since. */
  UseCoverage coverage(UseWindow window) {
    List<UseCoverage.Part> parts = new ArrayList<>();
    for (int i = random.nextInt(4); i > 0; i--) {
      parts.add(
          new UseCoverage.Part(
              random.nextInt(3) == 0 ? null : Set.of(any(permissions), new PermissionKey("gone")),
              random.nextInt(3) == 0 ? null : Set.of(any(places), new ResourceKey("gone")),
              random.nextBoolean() ? null : window.first().plusDays(random.nextInt(3) - 1)));
    }
    return new UseCoverage(parts);
  }

  /** Demands something of some, on some tree or everywhere. */
  Expectation demand(String key, AccessModel model) {
    Subject subject =
        switch (random.nextInt(4)) {
          case 0 -> any(List.of(Subject.Public.values()));
          case 1 -> new Subject.OfGroup(any(model.groups()).key());
          case 2 -> new Subject.OfAccount(any(model.accounts()).key());
          default -> {
            Principal it = any(model.principals());
            yield new Subject.OfPrincipal(it.kind(), it.key());
          }
        };
    return new Expectation(
        new ExpectationKey(key),
        About.NONE,
        null,
        random.nextInt(5) == 0 ? Expectation.Form.CANNOT : Expectation.Form.CAN,
        List.of(subject),
        List.of(any(permissions), any(permissions)),
        List.of(
            Clause.of(random.nextBoolean() ? new Term.Everything() : new Term.Tree(any(places)))),
        null,
        null);
  }

  /** Records of which some name what is allowed, some what is not, and some strangers. */
  List<UseRecord> records(Engine engine, UseWindow window, int most) {
    List<UseRecord> records = new ArrayList<>();
    for (int i = 0; i < most; i++) {
      PrincipalKey who = any(people);
      List<PermissionKey> from = i % 2 == 0 || gated.isEmpty() ? permissions : gated;
      PermissionKey what = any(from);
      ResourceKey where = any(places);
      for (int tries = 0; tries < 40 && !isAllowed(engine, who, what, where, window); tries++) {
        what = any(from);
        where = any(places);
      }
      LocalDate day = window.last().minusDays(random.nextInt(window.days() + 3) - 1);
      PrincipalKey actor = random.nextInt(5) == 0 ? any(people) : who;
      boolean acts =
          !actor.equals(who)
              && !actor.equals(PrincipalKey.ANONYMOUS)
              && !who.equals(PrincipalKey.ANONYMOUS);
      records.add(
          new UseRecord(
              random.nextInt(20) == 0 ? new PrincipalKey("stranger") : acts ? actor : who,
              random.nextInt(30) == 0 ? new PermissionKey("strange") : what,
              random.nextInt(30) == 0 ? new ResourceKey("strange") : where,
              day,
              1 + random.nextInt(4),
              acts ? who : null));
    }
    return records;
  }

  private static boolean isAllowed(
      Engine engine, PrincipalKey who, PermissionKey what, ResourceKey where, UseWindow window) {
    return engine.decide(new Question(who, what, where, window.at(), true, null)).allowed();
  }
}
