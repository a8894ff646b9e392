package mandala.core.model.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** Finding what leads back to itself. */
class CyclesTest {

  private static List<List<String>> cycles(Map<String, List<String>> edges) {
    return Cycles.of(
        edges.keySet().stream().sorted().toList(), it -> edges.getOrDefault(it, List.of()));
  }

  @Test
  void aTreeHasNone() {
    assertThat(cycles(Map.of("a", List.of("b", "c"), "b", List.of("c"), "c", List.of()))).isEmpty();
  }

  @Test
  void aCycleIsToldFromItsFirstNodeBackToIt() {
    assertThat(cycles(Map.of("a", List.of("b"), "b", List.of("c"), "c", List.of("b"))))
        .containsExactly(List.of("b", "c", "b"));
  }

  @Test
  void aNodeCanLeadToItself() {
    assertThat(cycles(Map.of("a", List.of("a")))).containsExactly(List.of("a", "a"));
  }

  @Test
  void eachOfSeveralIsTold() {
    assertThat(
            cycles(
                Map.of("a", List.of("b"), "b", List.of("a"), "x", List.of("y"), "y", List.of("x"))))
        .hasSize(2);
  }

  @Test
  void aLongChainNeedsNoDeepStack() {
    int length = 300_000;
    List<List<Integer>> found =
        Cycles.of(IntStream.range(0, length).boxed().toList(), i -> List.of((i + 1) % length));
    assertThat(found).hasSize(1);
    assertThat(found.getFirst()).hasSize(length + 1);
  }
}
