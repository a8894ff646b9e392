package mandala.core.compliance;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;
import mandala.core.engine.Engine;
import mandala.core.model.About;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Expectation;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Permission;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.question.ExpectationViolation;
import mandala.core.question.WhoQuestion;
import mandala.core.rule.RoleContent;
import org.jspecify.annotations.Nullable;

/**
 * Proposes expectations from what is, for what is risky in an account. Each holds in the model that
 * it was proposed from, and is not stated yet.
 *
 * <ol>
 *   <li>{@link #only}: where all who can are of one group, that only this group can; else {@link
 *       #atMost}: where only a few can, that no more can.
 *   <li>{@link #signedOut}: that whoever is not signed in can do none of it.
 *   <li>{@link #staysAble}: that a group can go on doing what its role is for.
 * </ol>
 */
public final class Proposals {

  /** Of each form at most so many. */
  private static final int MOST = 12;

  private static final int MOST_ABLE = 4;

  /** So many at most are few. */
  private static final int FEW = 5;

  private final Engine engine;
  private final Catalogue catalogue;
  private final Account account;
  private final Instant at;
  private final List<Clause> scope;

  private Proposals(Engine engine, Account account, Instant at) {
    this.engine = engine;
    this.catalogue = engine.catalogue();
    this.account = account;
    this.at = at;
    this.scope = List.of(Clause.of(new Term.Tree(ResourceKey.of(account.key()))));
  }

  /**
   * {@return expectations that hold and are not stated yet}: of each form together, riskier
   * permissions first, then by key
   *
   * @param account in which account, its sub-accounts included; none where it is unknown
   */
  public static List<Expectation> of(Engine engine, AccountKey account, Instant at) {
    Account in = engine.catalogue().accounts().get(account);
    return in == null ? List.of() : new Proposals(engine, in, at).all();
  }

  private List<Expectation> all() {
    List<Permission> risky =
        catalogue.permissions().values().stream()
            .filter(it -> it.risk().compareTo(Permission.Risk.HIGH) >= 0)
            .filter(it -> !it.key().value().startsWith(Supplied.PREFIX))
            .sorted(
                Comparator.comparing(Permission::risk)
                    .reversed()
                    .thenComparing(it -> it.key().value()))
            .toList();
    List<Expectation> proposed = new ArrayList<>();
    risky.parallelStream().flatMap(it -> Stream.ofNullable(few(it))).toList().stream()
        .limit(MOST)
        .forEach(proposed::add);
    Expectation none = signedOut(risky);
    if (none != null) {
      proposed.add(none);
    }
    proposed.addAll(staysAble());
    return proposed;
  }

  private boolean holds(Expectation it) {
    return engine.breaches(it, at).isEmpty();
  }

  private boolean isStated(Expectation.Form form, List<PermissionKey> permissions) {
    return catalogue.model().expectations().stream()
        .anyMatch(it ->
            it.form() == form
                && it.permissions().containsAll(permissions)
                && it.scope().equals(scope));
  }

  private Expectation expects(
      Expectation.Form form,
      String key,
      String name,
      List<Subject> subjects,
      List<PermissionKey> permissions,
      @Nullable Integer max) {
    return new Expectation(
        new ExpectationKey(key + "." + account.key().value()),
        About.named(name + " in " + account.about().nameOr(account.key())),
        account.key(),
        form,
        subjects,
        permissions,
        scope,
        null,
        max);
  }

  /** That only one group, or no more than a few, can do something risky. */
  private @Nullable Expectation few(Permission permission) {
    WhoQuestion.Answer answer =
        engine.whoCan(
            new WhoQuestion(
                Set.of(permission.key()),
                new WhoQuestion.Where.Below(ResourceKey.of(account.key())),
                at,
                true));
    Set<PrincipalKey> who = new HashSet<>();
    answer.allowed().forEach(it -> who.add(it.principal()));
    if (who.isEmpty() || answer.anonymous()) {
      return null;
    }
    Group least = least(who);
    return least == null ? atMost(permission) : only(permission, least);
  }

  private @Nullable Expectation only(Permission permission, Group group) {
    List<PermissionKey> what = List.of(permission.key());
    Expectation it =
        expects(
            Expectation.Form.ONLY,
            "only." + permission.key().value(),
            "Only "
                + group.about().nameOr(group.key())
                + ": "
                + permission.about().nameOr(permission.key()),
            List.of(new Subject.OfGroup(group.key())),
            what,
            null);
    return isStated(Expectation.Form.ONLY, what) || !holds(it) ? null : it;
  }

  private @Nullable Expectation atMost(Permission permission) {
    List<PermissionKey> what = List.of(permission.key());
    if (isStated(Expectation.Form.COUNT, what)) {
      return null;
    }
    String name = permission.about().nameOr(permission.key());
    String key = "at-most." + permission.key().value();
    Expectation nobody = expects(Expectation.Form.COUNT, key, name, List.of(), what, 0);
    long most =
        engine.breaches(nobody, at).stream().mapToLong(ExpectationViolation::many).max().orElse(0);
    return most < 1 || most > FEW
        ? null
        : expects(
            Expectation.Form.COUNT,
            key,
            "At most " + most + ": " + name,
            List.of(),
            what,
            (int) most);
  }

  /** That nothing risky is open to whoever is not signed in. */
  private @Nullable Expectation signedOut(List<Permission> risky) {
    List<PermissionKey> what = risky.stream().map(Permission::key).toList();
    Expectation it =
        expects(
            Expectation.Form.CANNOT,
            "signed-out.nothing-risky",
            "Nothing risky without signing in",
            List.of(Subject.Public.ANONYMOUS),
            what,
            null);
    return what.isEmpty() || isStated(Expectation.Form.CANNOT, what) || !holds(it) ? null : it;
  }

  /** That the largest groups that hold a role on all of the account can do all it is for. */
  private List<Expectation> staysAble() {
    return catalogue.assignments().values().stream()
        .filter(it -> it.subject() instanceof Subject.OfGroup)
        .filter(it -> it.gives() instanceof Gives.OfRole && it.scope().equals(scope))
        .filter(it -> it.window().equals(Window.ALWAYS))
        .filter(it -> it.mode() == Assignment.Mode.STANDING)
        .sorted(
            Comparator.comparingInt((Assignment it) -> -size(it))
                .thenComparing(it -> it.key().value()))
        .map(this::ableBy)
        .filter(Objects::nonNull)
        .map(Objects::requireNonNull)
        .filter(this::holds)
        .limit(MOST_ABLE)
        .toList();
  }

  private int size(Assignment it) {
    Group group =
        it.subject() instanceof Subject.OfGroup(GroupKey key) ? catalogue.groups().get(key) : null;
    return group == null ? 0 : group.members().size();
  }

  private @Nullable Expectation ableBy(Assignment assignment) {
    if (!(assignment.subject() instanceof Subject.OfGroup(GroupKey key))
        || !(assignment.gives() instanceof Gives.OfRole(RoleKey role))) {
      return null;
    }
    Group group = catalogue.groups().get(key);
    List<PermissionKey> what =
        RoleContent.of(role, catalogue).lines().stream()
            .filter(it -> it.allowed() && !it.needsFactor())
            .map(RoleContent.Line::permission)
            .toList();
    return group == null || what.isEmpty() || isStated(Expectation.Form.CAN, what)
        ? null
        : expects(
            Expectation.Form.CAN,
            "can." + key.value() + "." + role.value(),
            group.about().nameOr(key) + " can go on",
            List.of(assignment.subject()),
            what,
            null);
  }

  /** The group of fewest listed that all of them are of; null where there is none. */
  private @Nullable Group least(Set<PrincipalKey> who) {
    return catalogue.groups().values().stream()
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
