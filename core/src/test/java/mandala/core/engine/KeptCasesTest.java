package mandala.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import mandala.core.Somebody;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceType;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.TypeKey;
import mandala.core.question.Session;
import mandala.core.question.Verdict;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** Models, reduced, on which the engine once went wrong. */
class KeptCasesTest {

  private static final Instant AT = Instant.parse("2026-04-15T12:00:00Z");
  private static final TypeKey FOLDER = new TypeKey("folder");
  private static final PermissionKey OPEN = new PermissionKey("open");
  private static final PrincipalKey ANN = new PrincipalKey("ann");

  private static Account account(String key, @Nullable String parent) {
    return new Account(
        new AccountKey(key),
        About.NONE,
        parent == null ? null : new AccountKey(parent),
        false,
        false);
  }

  private static Resource folder(String key, @Nullable String parent) {
    return new Resource(
        new ResourceKey(key),
        About.NONE,
        FOLDER,
        new AccountKey("house"),
        parent == null ? null : new ResourceKey(parent),
        null,
        null,
        Map.of(),
        false);
  }

  private static Assignment toAnn(String key, Clause... scope) {
    return new Assignment(
        new AssignmentKey(key),
        About.NONE,
        new Subject.OfPrincipal(Principal.Kind.PERSON, ANN),
        new Gives.OfPermission(OPEN),
        Assignment.Effect.ALLOW,
        List.of(scope),
        List.of(),
        Window.ALWAYS,
        Assignment.Mode.STANDING,
        false);
  }

  private static Engine engine(Assignment... assignments) {
    return Engine.of(
        AccessModel.builder()
            .add(account("house", null), account("annex", "house"), account("shed", "house"))
            .add(Somebody.at(new AccountKey("house"), ANN))
            .add(new ResourceType(FOLDER, About.NONE, null))
            .add(
                new Permission(
                    OPEN,
                    About.NONE,
                    null,
                    List.of(FOLDER),
                    Permission.AccessClass.VIEW,
                    Permission.Risk.LOW,
                    List.of(),
                    List.of(),
                    null))
            .add(folder("cellar", null), folder("attic", null), folder("chest", "attic"))
            .add(assignments)
            .build());
  }

  /** A line of no positions at the front kept the sweep from seeing what begins there. */
  @Test
  void aClauseThatCoversNothingDoesNotHideOthers() {
    Clause nothing =
        Clause.of(
            new Term.InAccount(new AccountKey("annex")),
            new Term.Tree(ResourceKey.of(new AccountKey("shed"))));
    Engine engine =
        engine(
            toAnn("all", Clause.of(new Term.Tree(ResourceKey.of(new AccountKey("house"))))),
            toAnn("nothing", nothing));
    Session session = new Session(ANN, AT, false, null);
    assertThat(engine.access(session).rights()).isEqualTo(3);
    assertThat(engine.access(session).verdict(OPEN, new ResourceKey("chest")))
        .isEqualTo(Verdict.ALLOWED);
  }

  /** An empty folder has a gap for what may come; counting took all kinds of its surroundings. */
  @Test
  void anEmptyFolderCountsAsOne() {
    Engine engine = engine(toAnn("one", Clause.of(new Term.Tree(new ResourceKey("cellar")))));
    Session session = new Session(ANN, AT, false, null);
    assertThat(engine.rights(session)).isEqualTo(1);
    assertThat(engine.access(session).rights()).isEqualTo(1);
  }
}
