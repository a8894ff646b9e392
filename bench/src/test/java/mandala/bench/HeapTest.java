package mandala.bench;

import static org.assertj.core.api.Assertions.assertThat;

import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import org.junit.jupiter.api.Test;

/** Each part of a compiled model is found and has a size. */
class HeapTest {

  @Test
  void everyPartOfACompiledModelHasASize() {
    AccessModel village = Settlement.of(Size.VILLAGE, 3);
    Results results = new Results();
    Heap.measure(village, Engine.of(village), results);
    assertThat(results.rows())
        .hasSizeGreaterThan(6)
        .allSatisfy(it -> assertThat(it.typical()).as(it.what()).isPositive());
  }
}
