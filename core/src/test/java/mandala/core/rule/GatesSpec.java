package mandala.core.rule;

import static mandala.core.rule.Sketch.resource;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import mandala.core.model.Catalogue;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** A permission is usable where each of its gates is, on the gate's resource (section 6). */
class GatesSpec {

  /** Editing implies viewing; viewing an object requires entering its room, and that the house. */
  private static final Catalogue MODEL =
      new Sketch()
          .account("trust")
          .account("branch", "trust", false)
          .place("house", "house", "trust", "")
          .place("room", "room", "trust", "house")
          .place("chest", "object", "trust", "room")
          .place("coin", "object", "trust", "chest")
          .place("stray", "object", "branch", "")
          .permission("house.enter", "house", List.of(), List.of())
          .permission("room.enter", "room", List.of(), List.of("house.enter"))
          .permission("object.view", "object", List.of(), List.of("room.enter"))
          .permission("object.edit", "object", List.of("object.view"), List.of("account.sign"))
          .permission("account.sign", "account", List.of(), List.of())
          .catalogue();

  private static List<String> gatesOf(String permission) {
    return Gates.of(new PermissionKey(permission), MODEL).stream()
        .map(PermissionKey::value)
        .toList();
  }

  private static @Nullable String resourceOf(String gate, String place) {
    ResourceKey found = Gates.resourceOf(new PermissionKey(gate), resource(place), MODEL);
    return found == null ? null : found.value();
  }

  @Test
  void whatItRequiresIsAGate() {
    assertThat(gatesOf("object.view")).containsExactly("room.enter");
    assertThat(gatesOf("house.enter")).isEmpty();
  }

  @Test
  void whatAnImpliedPermissionRequiresIsAGateToo() {
    assertThat(gatesOf("object.edit")).containsExactlyInAnyOrder("account.sign", "room.enter");
  }

  @Test
  void theGatesOfAGateAreNotItsOwn() {
    assertThat(gatesOf("object.view")).doesNotContain("house.enter");
  }

  @Test
  void anUnknownPermissionHasNoGates() {
    assertThat(gatesOf("object.burn")).isEmpty();
    assertThat(resourceOf("object.burn", "coin")).isNull();
  }

  @Test
  void theResourceItselfIsTheGateResourceWhereTheTypeFits() {
    assertThat(resourceOf("object.view", "coin")).isEqualTo("coin");
  }

  @Test
  void elseTheNearestAboveIs() {
    assertThat(resourceOf("room.enter", "coin")).isEqualTo("room");
    assertThat(resourceOf("house.enter", "coin")).isEqualTo("house");
    assertThat(resourceOf("account.sign", "coin")).isEqualTo("account:trust");
  }

  @Test
  void itIsNotLookedForBeyondTheAccount() {
    assertThat(resourceOf("room.enter", "stray")).isNull();
    assertThat(resourceOf("account.sign", "stray")).isEqualTo("account:branch");
  }
}
