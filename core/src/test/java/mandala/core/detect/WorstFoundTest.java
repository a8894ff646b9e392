package mandala.core.detect;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.EnumSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import mandala.core.model.Permission;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.RoleKey;
import org.junit.jupiter.api.Test;

/** Of what is found the worst stays, whatever the order in which it was found. */
class WorstFoundTest {

  private final Set<Detector> cut = EnumSet.noneOf(Detector.class);
  private final WorstFound found = new WorstFound(3, cut);

  private static Detection role(String key, Permission.Risk risk, long weight) {
    return Detection.ofModel(new Trouble.UnusedRole(new RoleKey(key)), risk, weight);
  }

  @Test
  void theWorstOfEachDetectorStays() {
    List<Detection> all = new ArrayList<>();
    IntStream.range(0, 9).forEach(n -> all.add(role("r" + n, Permission.Risk.LOW, n)));
    all.add(role("worst", Permission.Risk.HIGH, 1));
    Detection owners =
        Detection.ofModel(
            new Trouble.FewOwners(new AccountKey("harbour"), 1), Permission.Risk.LOW, 1);
    all.add(owners);
    Collections.shuffle(all, new Random(7));
    all.forEach(found);
    assertThat(found.inOrder())
        .containsExactlyInAnyOrder(
            role("worst", Permission.Risk.HIGH, 1),
            role("r8", Permission.Risk.LOW, 8),
            role("r7", Permission.Risk.LOW, 7),
            owners)
        .isSortedAccordingTo(Detectors.WORST_FIRST);
    assertThat(cut).containsExactly(Detector.UNUSED_ROLE);
  }

  @Test
  void equalOnesAreToldApartByTheirId() {
    List<Detection> all = new ArrayList<>();
    IntStream.range(0, 9).forEach(n -> all.add(role("r" + n, Permission.Risk.LOW, 1)));
    Collections.reverse(all);
    all.forEach(found);
    assertThat(found.inOrder()).containsExactlyElementsOf(all.reversed().subList(0, 3));
  }

  @Test
  void oneIdIsKeptOnceAsTheWorstOfIt() {
    found.accept(role("a", Permission.Risk.LOW, 2));
    found.accept(role("a", Permission.Risk.LOW, 5));
    found.accept(role("a", Permission.Risk.LOW, 1));
    found.accept(role("b", Permission.Risk.LOW, 1));
    found.accept(role("c", Permission.Risk.LOW, 1));
    assertThat(found.inOrder())
        .containsExactly(
            role("a", Permission.Risk.LOW, 5),
            role("b", Permission.Risk.LOW, 1),
            role("c", Permission.Risk.LOW, 1));
    assertThat(cut).isEmpty();
  }
}
