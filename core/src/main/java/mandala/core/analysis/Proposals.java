package mandala.core.analysis;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import mandala.core.engine.Engine;
import mandala.core.engine.WhoQuestion;
import mandala.core.model.About;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Expectation;
import mandala.core.model.Group;
import mandala.core.model.Key;
import mandala.core.model.Permission;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Term;

/**
 * Proposes expectations from what is: where all who can do something risky in an account are of one
 * group, that only this group can. Each holds in the model that it was proposed from.
 */
public final class Proposals {

  private static final int MOST = 12;

  private Proposals() {}

  /**
   * {@return expectations that hold and are not stated yet}, riskier permissions first, then by key
   *
   * @param account in which account, its sub-accounts included
   */
  public static List<Expectation> of(Engine engine, Key.Account account, Instant at) {
    Catalogue catalogue = engine.catalogue();
    List<Permission> risky =
        catalogue.permissions().values().stream()
            .filter(it -> it.risk().compareTo(Permission.Risk.HIGH) >= 0)
            .filter(it -> !it.key().value().startsWith(Supplied.PREFIX))
            .filter(it -> !isStated(it.key(), account, catalogue))
            .sorted(
                Comparator.comparing(Permission::risk)
                    .reversed()
                    .thenComparing(it -> it.key().value()))
            .toList();
    List<Expectation> proposed = new ArrayList<>();
    for (Permission permission : risky) {
      Expectation it = proposed.size() < MOST ? only(engine, permission, account, at) : null;
      if (it != null && engine.breaches(it, at).isEmpty()) {
        proposed.add(it);
      }
    }
    return proposed;
  }

  private static boolean isStated(
      Key.Permission permission, Key.Account account, Catalogue catalogue) {
    Term.Tree tree = new Term.Tree(Key.Resource.of(account));
    return catalogue.model().expectations().stream()
        .anyMatch(it ->
            it.form() == Expectation.Form.ONLY
                && it.permissions().contains(permission)
                && it.scope().contains(Clause.of(tree)));
  }

  private static @org.jspecify.annotations.Nullable Expectation only(
      Engine engine, Permission permission, Key.Account account, Instant at) {
    WhoQuestion.Answer answer =
        engine.whoCan(
            new WhoQuestion(
                Set.of(permission.key()),
                new WhoQuestion.Where.Below(Key.Resource.of(account)),
                at,
                true));
    Set<Key.Principal> who = new HashSet<>();
    answer.allowed().forEach(it -> who.add(it.principal()));
    if (who.isEmpty() || answer.anonymous()) {
      return null;
    }
    Group least = least(engine, who, at);
    Account in = engine.catalogue().accounts().get(account);
    if (least == null || in == null) {
      return null;
    }
    String key = "only." + permission.key().value() + "." + account.value();
    return new Expectation(
        new Key.Expectation(key),
        About.named(
            "Only "
                + least.about().nameOr(least.key())
                + ": "
                + permission.about().nameOr(permission.key())
                + " in "
                + in.about().nameOr(account)),
        account,
        Expectation.Form.ONLY,
        List.of(new Subject.OfGroup(least.key())),
        List.of(permission.key()),
        List.of(Clause.of(new Term.Tree(Key.Resource.of(account)))),
        null,
        null);
  }

  /** The group of fewest listed that all of them are of; null where there is none. */
  private static @org.jspecify.annotations.Nullable Group least(
      Engine engine, Set<Key.Principal> who, Instant at) {
    return engine.catalogue().model().groups().stream()
        .filter(it -> !it.retired())
        .sorted(
            Comparator.comparingInt((Group it) -> it.members().size())
                .thenComparing(it -> it.key().value()))
        .filter(it -> {
          Subject subject = new Subject.OfGroup(it.key());
          return who.stream().allMatch(each -> engine.hasSubject(each, subject, at));
        })
        .findFirst()
        .orElse(null);
  }
}
