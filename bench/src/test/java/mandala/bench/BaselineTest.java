package mandala.bench;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.entry;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What got worse is said, in whatever unit it was measured. */
class BaselineTest {

  @TempDir Path folder;

  @Test
  void figuresBecomeRatiosToTheYardstickAndHeapStaysAsItIs() {
    List<Results.Row> rows =
        List.of(
            new Results.Row("sweep", "s", 2, Double.NaN),
            new Results.Row("build", "ms", 50, 80),
            new Results.Row("point", "µs", 5, 9),
            new Results.Row("heap: all", "MB", 12, Double.NaN));
    assertThat(Baseline.ratios(rows, 100))
        .containsOnly(
            entry("sweep", 20.0),
            entry("build", 0.5),
            entry("point", 5e-5),
            entry("heap: all", 12.0));
  }

  @Test
  void onlyWhatIsBeyondTheToleranceIsWorse() throws IOException {
    Path file = folder.resolve("kept.tsv");
    Baseline.write(file, Map.of("a", 1.0, "b", 1.0, "c", 1.0, "heap: x", 100.0, "gone", 1.0));
    List<Baseline.Compared> all =
        Baseline.compare(file, Map.of("a", 1.4, "b", 2.1, "c", 0.4, "heap: x", 106.0, "new", 9.0));
    assertThat(all.stream().filter(Baseline.Compared::worse).map(Baseline.Compared::what))
        .containsExactlyInAnyOrder("b", "heap: x");
    assertThat(all).extracting(Baseline.Compared::what).doesNotContain("gone", "new");
    assertThat(Baseline.table(all))
        .contains("WORSE     2.10 times as before: b")
        .contains("better    0.40 times as before: c");
  }

  @Test
  void measuredInTurnsEachIsTheBestOfItsFilesAndLessIsTakenForNoise() throws IOException {
    List<Path> older = List.of(folder.resolve("old-1.tsv"), folder.resolve("old-2.tsv"));
    List<Path> newer = List.of(folder.resolve("new-1.tsv"), folder.resolve("new-2.tsv"));
    Baseline.write(older.get(0), Map.of("a", 1.0, "b", 1.3, "c", 1.0, "gone", 1.0));
    Baseline.write(older.get(1), Map.of("a", 1.2, "b", 1.0, "c", 1.0));
    Baseline.write(newer.get(0), Map.of("a", 1.9, "b", 1.3, "c", 0.7));
    Baseline.write(newer.get(1), Map.of("a", 1.2, "b", 1.4, "c", 0.9));
    List<Baseline.Compared> all = Baseline.inTurns(older, newer);
    assertThat(all).extracting(Baseline.Compared::what).containsExactly("a", "b", "c");
    assertThat(all).extracting(Baseline.Compared::worse).containsExactly(false, true, false);
    assertThat(all).extracting(Baseline.Compared::better).containsExactly(false, false, true);
    assertThat(all.getFirst().factor()).isEqualTo(1.2);
  }

  @Test
  void aBrokenLineIsNamed() throws IOException {
    Path file = Files.writeString(folder.resolve("kept.tsv"), "a\t1.0\nb one\n");
    assertThatThrownBy(() -> Baseline.compare(file, Map.of("a", 1.0)))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("line 2")
        .hasMessageContaining("--keep");
  }

  @Test
  void theYardstickTakesSomeTime() {
    assertThat(new Calibration().millis()).isPositive();
  }
}
