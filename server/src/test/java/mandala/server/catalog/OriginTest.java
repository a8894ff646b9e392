package mandala.server.catalog;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Objects;
import mandala.core.authority.Authority;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.Rewritten;
import mandala.core.engine.Engine;
import mandala.core.model.About;
import mandala.core.model.Role;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import mandala.core.question.Session;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.audit.Trail;
import mandala.server.draft.ChangeLines;
import mandala.server.model.LiveModel;
import mandala.server.model.RevisionCause;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** What changes at a role after a copy was made of it is offered to the copy, and nothing else. */
@ApiTest
@DirtiesContext
class OriginTest {

  private static final RoleKey ORIGIN = new RoleKey("courier");

  @Autowired private Environment environment;
  @Autowired private JdbcTemplate database;
  @Autowired private LiveModel model;
  @Autowired private Trail trail;

  private long apply(Change change) {
    Engine before = model.engine();
    Session author =
        new Session(new PrincipalKey("marten.holloway"), java.time.Instant.now(), true, null);
    return model
        .change(
            _ -> List.of(change),
            new RevisionCause("marten.holloway", "A test", null, null),
            (state, revision) ->
                trail.write(
                    ChangeLines.of(
                        List.of(change),
                        Authority.of(before, Draft.of(List.of(change)), author),
                        state.engine().catalogue(),
                        before.after(List.of(change)).catalogue(),
                        revision,
                        null)))
        .revision();
  }

  private Role role(RoleKey key) {
    return Objects.requireNonNull(model.engine().catalogue().roles().get(key));
  }

  @Test
  void whatChangesAtTheOriginLaterIsOfferedToTheCopy() {
    Role origin = role(ORIGIN);
    assertThat(origin.sets()).isNotEmpty();
    Role copy =
        new Role(
            new RoleKey("my-courier"),
            About.named("My courier"),
            null,
            null,
            ORIGIN,
            false,
            origin.sets().subList(0, origin.sets().size() - 1), // what it leaves out, on purpose
            origin.inherits(),
            false,
            List.of(),
            null,
            null,
            List.of());
    long copied = apply(new Change.Added(copy));
    database.update("update credential set totp_last_step = -1");
    Caller ilse = Caller.as("ilse.varga", environment);
    JsonNode at = ilse.get("/api/rights/roles/my-courier").json().get("originSince");
    assertThat(at.get("revision").longValue()).isEqualTo(copied);
    assertThat(at.get("added")).as("what was left out is not offered").isEmpty();
    assertThat(at.get("gone")).isEmpty();
    PermissionSetKey more =
        model.engine().catalogue().sets().values().stream()
            .map(it -> it.key())
            .filter(it -> !origin.sets().contains(it) && !it.value().startsWith("mandala."))
            .findFirst()
            .orElseThrow();
    apply(new Change.Altered(origin, Rewritten.with(origin, more)));
    PermissionSetKey first = origin.sets().getFirst();
    apply(new Change.Altered(role(ORIGIN), Rewritten.without(role(ORIGIN), first)));
    JsonNode then = ilse.get("/api/rights/roles/my-courier").json().get("originSince");
    assertThat(then.at("/added/0/key").stringValue()).isEqualTo(more.value());
    assertThat(then.at("/gone/0/key").stringValue()).isEqualTo(first.value());
    assertThat(ilse.get("/api/rights/roles/" + ORIGIN).json().has("originSince")).isFalse();
  }
}
