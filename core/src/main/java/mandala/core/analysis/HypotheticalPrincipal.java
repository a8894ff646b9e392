package mandala.core.analysis;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.model.About;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.UnitKey;
import mandala.core.present.Access;
import mandala.core.question.Session;
import org.jspecify.annotations.Nullable;

/**
 * What somebody would have who is nobody yet: a new person, active and enrolled, added to the model
 * beside all others, so that roles and patterns can be compared with people.
 */
public final class HypotheticalPrincipal {

  private HypotheticalPrincipal() {}

  /**
   * {@return the access of a new person of an account who holds just this role, on all of the
   * account}; what everybody of the account has comes with it
   *
   * @throws IllegalArgumentException if the role or the account is unknown
   */
  public static Access ofRole(Engine engine, RoleKey role, AccountKey in, Instant at) {
    Catalogue catalogue = engine.catalogue();
    if (!catalogue.roles().containsKey(role)) {
      throw new IllegalArgumentException("There is no role '" + role + "'");
    }
    Principal somebody = somebody(catalogue, in, null, null, Map.of(), null);
    AssignmentKey key = new AssignmentKey(somebody.key().value());
    for (int n = 2; catalogue.assignments().containsKey(key); n++) {
      key = new AssignmentKey(somebody.key().value() + "." + n);
    }
    Assignment assignment =
        new Assignment(
            key,
            About.NONE,
            new Subject.OfPrincipal(Principal.Kind.PERSON, somebody.key()),
            new Gives.OfRole(role),
            Assignment.Effect.ALLOW,
            List.of(Clause.of(new Term.Tree(ResourceKey.of(in)))),
            List.of(),
            Window.ALWAYS,
            Assignment.Mode.STANDING,
            false);
    return access(
        engine, somebody, List.of(new Change.Added(somebody), new Change.Added(assignment)), at);
  }

  /**
   * {@return the access of a new person of a pattern who is like another}: of the same account and
   * unit, under the same manager, with the same attributes, but in no list of any group
   *
   * @throws IllegalArgumentException if the pattern is unknown
   */
  public static Access ofPattern(Engine engine, PatternKey pattern, Principal like, Instant at) {
    Principal somebody =
        somebody(
            engine.catalogue(),
            like.account(),
            like.unit(),
            like.manager(),
            like.attributes(),
            pattern);
    return access(engine, somebody, List.of(new Change.Added(somebody)), at);
  }

  private static Access access(
      Engine engine, Principal somebody, List<Change> changes, Instant at) {
    return engine.after(changes).access(new Session(somebody.key(), at, true, null));
  }

  private static Principal somebody(
      Catalogue catalogue,
      AccountKey account,
      @Nullable UnitKey unit,
      @Nullable PrincipalKey manager,
      Map<String, String> attributes,
      @Nullable PatternKey pattern) {
    PrincipalKey key = new PrincipalKey("somebody");
    for (int n = 2; catalogue.principals().containsKey(key); n++) {
      key = new PrincipalKey("somebody." + n);
    }
    return new Principal(
        key,
        About.NONE,
        Principal.Kind.PERSON,
        account,
        unit,
        manager,
        Principal.Status.ACTIVE,
        Window.ALWAYS,
        true,
        attributes,
        pattern,
        List.of(),
        null,
        null,
        null);
  }
}
