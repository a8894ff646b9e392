package mandala.server.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.model.About;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Kind;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.RoleKey;
import mandala.server.ApiTest;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.io.ClassPathResource;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;

/** What was ever given is known, however long it is gone. */
@ApiTest
@DirtiesContext
class GivenOnceTest {

  private static final List<Clause> EVERYWHERE = List.of(Clause.of(new Term.Everything()));

  @Autowired private LiveModel model;
  @Autowired private History history;
  @Autowired private JdbcTemplate database;

  private Role role(String key) {
    return new Role(
        new RoleKey(key),
        About.named(key),
        null,
        null,
        null,
        false,
        List.of(),
        List.of(),
        false,
        List.of(),
        null,
        null,
        List.of());
  }

  private Group group(String key) {
    AccountKey home = new AccountKey("quillhaven");
    return new Group(new GroupKey(key), About.named(key), home, false, List.of(), null, List.of());
  }

  private Assignment assignment(Role role, Group group) {
    return new Assignment(
        new AssignmentKey(role.key() + "-" + group.key()),
        About.NONE,
        new Subject.OfGroup(group.key()),
        new Gives.OfRole(role.key()),
        Assignment.Effect.ALLOW,
        EVERYWHERE,
        List.of(),
        Window.ALWAYS,
        Assignment.Mode.STANDING,
        false);
  }

  private void came(Change... changes) {
    model.change(List.of(changes));
  }

  @Test
  void anAssignmentThatIsGoneIsRemembered() {
    Role role = role("porter");
    Group group = group("porters");
    came(new Change.Added(role), new Change.Added(group));
    assertThat(history.everGiven(Kind.ROLES, "porter")).isFalse();
    assertThat(history.everGiven(Kind.GROUPS, "porters")).isFalse();
    came(new Change.Added(assignment(role, group)));
    came(new Change.Removed(assignment(role, group)));
    assertThat(history.everGiven(Kind.ROLES, "porter")).isTrue();
    assertThat(history.everGiven(Kind.GROUPS, "porters")).isTrue();
  }

  @Test
  void aBridgeIsRememberedTooAndOneKindIsNotTheOther() {
    Role role = role("carrier");
    Group group = group("carriers");
    came(new Change.Added(role), new Change.Added(group));
    came(
        new Change.Added(
            new Bridge(
                new BridgeKey("carrying"),
                About.NONE,
                new AccountKey("fernwick"),
                group.key(),
                new Gives.OfRole(role.key()),
                EVERYWHERE,
                Window.ALWAYS,
                Bridge.Status.OFFERED)));
    assertThat(history.everGiven(Kind.GROUPS, "carriers")).isTrue();
    assertThat(history.everGiven(Kind.ROLES, "carrier")).isTrue();
    assertThat(history.everGiven(Kind.GROUPS, "carrier")).isFalse();
  }

  @Test
  void aNameThatIsPartOfAnotherIsNotTakenForIt() {
    Role role = role("keeper-of-keys");
    Group group = group("keepers-of-keys");
    came(new Change.Added(role), new Change.Added(group));
    came(new Change.Added(assignment(role, group)));
    assertThat(history.everGiven(Kind.ROLES, "keeper-of-key")).isFalse();
    assertThat(history.everGiven(Kind.ROLES, "keeper_of_keys")).isFalse();
  }

  @Test
  void whatEarlierVersionsWroteIsReadFromTheirRevisions() throws IOException {
    List<String> before = references();
    Catalogue now = model.engine().catalogue();
    assertThat(now.assignments().values()).isNotEmpty();
    database.update("drop table given_once");
    database.execute(
        new ClassPathResource("db/migration/V15__given_once.sql")
            .getContentAsString(StandardCharsets.UTF_8));
    assertThat(references()).containsExactlyElementsOf(before);
  }

  private List<String> references() {
    return database.queryForList(
        "select reference from given_once order by reference", String.class);
  }
}
