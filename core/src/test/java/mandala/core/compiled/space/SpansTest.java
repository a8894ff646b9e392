package mandala.core.compiled.space;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Arrays;
import java.util.Random;
import mandala.core.table.PreOrder;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The structures that everything rests on: spans and pre-orders. */
class SpansTest {

  private static final int SIZE = 60;

  /** By position: the floor, or -9 where nothing covers it. */
  private static int[] read(Spans spans) {
    int[] floors = new int[SIZE];
    Arrays.fill(floors, -9);
    for (int i = 0; i < spans.size(); i++) {
      Arrays.fill(floors, spans.start[i], spans.end[i], spans.floor[i]);
    }
    return floors;
  }

  private static Spans random(Random random) {
    Spans.Builder spans = new Spans.Builder();
    for (int at = random.nextInt(5); at < SIZE - 8; ) {
      int end = at + 1 + random.nextInt(7);
      spans.add(at, end, random.nextInt(3) - 1);
      at = end + random.nextInt(4);
    }
    return spans.build();
  }

  @ParameterizedTest(name = "seed {0}")
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
  void whatBothCoverHasTheDeeperFloor(long seed) {
    Random random = new Random(seed);
    Spans a = random(random);
    Spans b = random(random);
    int[] left = read(a);
    int[] right = read(b);
    int[] both = read(a.and(b));
    for (int at = 0; at < SIZE; at++) {
      boolean covered = left[at] != -9 && right[at] != -9;
      assertThat(both[at]).isEqualTo(covered ? Math.max(left[at], right[at]) : -9);
      assertThat(a.contains(at)).isEqualTo(left[at] != -9);
    }
    assertThat(a.and(b).length()).isEqualTo(b.and(a).length());
  }

  @Test
  void spansThatTouchAndShareAFloorAreOne() {
    Spans spans = new Spans.Builder().add(1, 3, 0).add(3, 5, 0).add(5, 6, 2).add(8, 9, 2).build();
    assertThat(spans.size()).isEqualTo(3);
    assertThat(spans.length()).isEqualTo(6);
  }

  @Test
  void throughSealsKeepsThePlaces() {
    Spans spans = new Spans.Builder().add(1, 3, 0).add(5, 6, 2).build();
    assertThat(spans.through().floor).containsOnly(Spans.THROUGH);
    assertThat(spans.through().start).isEqualTo(spans.start);
  }

  @Test
  void anEmptySpanIsNothing() {
    assertThat(Spans.of(4, 4, 0)).isSameAs(Spans.EMPTY);
    assertThat(Spans.EMPTY.and(Spans.of(0, 9, 0)).size()).isZero();
    assertThat(Spans.EMPTY.contains(0)).isFalse();
  }

  @Nested
  class APreOrder {

    @Test
    void putsEachTreeIntoOneSpan() {
      // 0 has 1 and 3; 1 has 2; 4 is a root of its own
      PreOrder order = PreOrder.of(new int[] {-1, 0, 1, 0, -1});
      assertThat(order.node).containsExactly(0, 1, 2, 3, 4);
      assertThat(order.end).containsExactly(4, 3, 3, 4, 5);
    }

    @Test
    void takesChildrenInTheOrderOfTheirNumbers() {
      PreOrder order = PreOrder.of(new int[] {3, 3, 3, -1});
      assertThat(order.node).containsExactly(3, 0, 1, 2);
      assertThat(order.rank).containsExactly(1, 2, 3, 0);
    }

    @Test
    void goesAsDeepAsAChainIsLong() {
      int[] parent = new int[200_000];
      for (int i = 0; i < parent.length; i++) {
        parent[i] = i - 1;
      }
      PreOrder order = PreOrder.of(parent);
      assertThat(order.end[0]).isEqualTo(parent.length);
      assertThat(order.rank[parent.length - 1]).isEqualTo(parent.length - 1);
    }

    @Test
    void refusesWhatIsNoForest() {
      assertThatThrownBy(() -> PreOrder.of(new int[] {1, 0}))
          .isInstanceOf(IllegalStateException.class)
          .hasMessageStartingWith("Impossible state");
    }
  }
}
