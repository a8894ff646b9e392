package mandala.core.rule;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Subject;
import mandala.core.model.Window;
import org.junit.jupiter.api.Test;

/** An owner for good has the role by a standing assignment without an end (section 11). */
class OwnershipSpec {

  private static final Window UNTIL_MAY = new Window(null, Instant.parse("2026-05-01T00:00:00Z"));

  private static final Catalogue MODEL =
      new Sketch()
          .account("trust")
          .person("ada", "trust")
          .person("bas", "trust")
          .role("mandala.owner", false)
          .role("director", false, "mandala.owner")
          .role("former", true, "mandala.owner")
          .role("clerk", false)
          .catalogue();

  private static Assignment assignment(
      String key, String role, Assignment.Mode mode, Window window) {
    return Sketch.assignment(key, Sketch.person("ada"), role, mode, window);
  }

  private static boolean owns(String role, Assignment.Mode mode, Window window) {
    return Ownership.isGivenBy(assignment("it", role, mode, window), MODEL);
  }

  private static boolean owns(String role) {
    return owns(role, Assignment.Mode.STANDING, Window.ALWAYS);
  }

  @Test
  void byTheRoleOrOneThatInheritsIt() {
    assertThat(owns("mandala.owner")).isTrue();
    assertThat(owns("director")).isTrue();
  }

  @Test
  void notByOtherRoles() {
    assertThat(owns("clerk")).isFalse();
    assertThat(owns("gone")).isFalse();
  }

  @Test
  void notByARetiredRole() {
    assertThat(owns("former")).isFalse();
  }

  @Test
  void notWhereItEnds() {
    assertThat(owns("mandala.owner", Assignment.Mode.STANDING, UNTIL_MAY)).isFalse();
  }

  @Test
  void notWhereItMustBeActivated() {
    assertThat(owns("mandala.owner", Assignment.Mode.JUST_IN_TIME, Window.ALWAYS)).isFalse();
  }

  @Test
  void whoIsNamedComesIntoQuestion() {
    assertThat(possible("director", "clerk")).containsExactly("ada");
    assertThat(possible("clerk")).isEmpty();
  }

  @Test
  void aRoleThatMayBeTakenUpAgainCounts() {
    assertThat(possible("former")).containsExactly("ada");
  }

  @Test
  void everybodyDoesWhereAGroupIsGivenIt() {
    Assignment toAll =
        Sketch.assignment(
            "all", Subject.Public.SIGNED_IN, "director", Assignment.Mode.STANDING, Window.ALWAYS);
    assertThat(Ownership.possibleOwners(List.of(toAll), MODEL)).hasSize(2);
  }

  private static List<String> possible(String... roles) {
    List<Assignment> assignments =
        List.of(roles).stream()
            .map(it -> assignment(it, it, Assignment.Mode.STANDING, Window.ALWAYS))
            .toList();
    return Ownership.possibleOwners(assignments, MODEL).stream()
        .map(it -> it.key().value())
        .toList();
  }
}
