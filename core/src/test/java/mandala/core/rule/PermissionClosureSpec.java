package mandala.core.rule;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Set;
import mandala.core.model.Catalogue;
import mandala.core.model.key.PermissionKey;
import org.junit.jupiter.api.Test;

/** Allows go down implications, denies go up (section 3). */
class PermissionClosureSpec {

  /** Approving implies editing, that implies viewing; exporting implies viewing too. */
  private static final Catalogue MODEL =
      new Sketch()
          .account("trust")
          .permission("view", "loan", List.of(), List.of("enter"))
          .permission("edit", "loan", List.of("view"), List.of())
          .permission("approve", "loan", List.of("edit"), List.of())
          .permission("export", "loan", List.of("view"), List.of())
          .permission("enter", "room", List.of(), List.of())
          .catalogue();

  private static Set<PermissionKey> keys(String... keys) {
    return Set.copyOf(List.of(keys).stream().map(PermissionKey::new).toList());
  }

  private static Set<PermissionKey> implied(String key) {
    return PermissionClosure.implied(new PermissionKey(key), MODEL);
  }

  private static Set<PermissionKey> implying(String key) {
    return PermissionClosure.implying(new PermissionKey(key), MODEL);
  }

  @Test
  void anAllowAllowsWhatItImpliesHoweverFar() {
    assertThat(implied("approve")).isEqualTo(keys("approve", "edit", "view"));
  }

  @Test
  void theNearestComesFirst() {
    assertThat(implied("approve")).first().isEqualTo(new PermissionKey("approve"));
    assertThat(implied("approve")).last().isEqualTo(new PermissionKey("view"));
  }

  @Test
  void anAllowAllowsNothingThatImpliesIt() {
    assertThat(implied("edit")).doesNotContain(new PermissionKey("approve"));
  }

  @Test
  void aDenyDeniesAllThatImplyIt() {
    assertThat(implying("view")).isEqualTo(keys("view", "edit", "approve", "export"));
  }

  @Test
  void aDenyLeavesWhatItImplies() {
    assertThat(implying("approve")).isEqualTo(keys("approve"));
  }

  @Test
  void aRequirementIsNoImplication() {
    assertThat(implied("view")).isEqualTo(keys("view"));
    assertThat(implying("enter")).isEqualTo(keys("enter"));
  }

  @Test
  void anUnknownPermissionComesToNothing() {
    assertThat(implied("gone")).isEmpty();
    assertThat(implying("gone")).isEmpty();
  }
}
