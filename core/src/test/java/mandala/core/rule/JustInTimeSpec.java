package mandala.core.rule;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import mandala.core.model.About;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Window;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PrincipalKey;
import org.junit.jupiter.api.Test;

/** A just-in-time assignment gives something only while it is activated (section 2). */
class JustInTimeSpec {

  private static final Instant NOON = Instant.parse("2026-05-01T12:00:00Z");
  private static final Instant ONE = NOON.plusSeconds(3600);

  private static final Catalogue MODEL =
      new Sketch()
          .account("trust")
          .person("ada", "trust")
          .person("bas", "trust")
          .role("keeper", false)
          .with(justInTime("keys"))
          .with(justInTime("safe"))
          .with(
              new Activation(
                  About.NONE,
                  new PrincipalKey("ada"),
                  new AssignmentKey("keys"),
                  new Window(NOON, ONE)))
          .catalogue();

  private static Assignment justInTime(String key) {
    return Sketch.assignment(
        key, Sketch.person("ada"), "keeper", Assignment.Mode.JUST_IN_TIME, Window.ALWAYS);
  }

  private static boolean isActivated(String who, String assignment, Instant at) {
    return JustInTime.isActivated(new PrincipalKey(who), new AssignmentKey(assignment), at, MODEL);
  }

  @Test
  void fromItsBeginningUpToItsEnd() {
    assertThat(isActivated("ada", "keys", NOON.minusSeconds(1))).isFalse();
    assertThat(isActivated("ada", "keys", NOON)).isTrue();
    assertThat(isActivated("ada", "keys", ONE)).isFalse();
  }

  @Test
  void forWhoActivatedItOnly() {
    assertThat(isActivated("bas", "keys", NOON)).isFalse();
  }

  @Test
  void forThatAssignmentOnly() {
    assertThat(isActivated("ada", "safe", NOON)).isFalse();
  }
}
