package mandala.server.question;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;

/** Regions that would make an answer too large are folded from below; what is folded says so. */
class RegionViewTest {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private static RegionView region(String name, int cells, List<RegionView> below) {
    List<RegionView.CellView> all =
        IntStream.range(0, cells)
            .mapToObj(
                i -> new RegionView.CellView("permission-" + i, 400, 300, 50, 50, name + "-sample"))
            .toList();
    return new RegionView(
        "tree", name, name, "branch", "12 × room", 400, false, false, List.of(), all, below, false);
  }

  /** A tree of so many levels, with so many regions below each. */
  private static List<RegionView> tree(String name, int levels, int wide) {
    return IntStream.range(0, wide)
        .mapToObj(i -> name + "-" + i)
        .map(each -> region(each, 10, levels == 1 ? List.of() : tree(each, levels - 1, wide)))
        .toList();
  }

  private static List<RegionView> flat(List<RegionView> regions) {
    List<RegionView> all = new ArrayList<>();
    for (RegionView it : regions) {
      all.add(it);
      all.addAll(flat(it.below()));
    }
    return all;
  }

  private static int sizeOf(List<RegionView> regions) {
    return JSON.writeValueAsString(regions).getBytes(StandardCharsets.UTF_8).length;
  }

  @Test
  void whatFitsStaysWhole() {
    List<RegionView> regions = tree("hall", 3, 4);
    assertThat(sizeOf(regions)).isLessThan(RegionView.MOST_SIZE);
    assertThat(RegionView.fitting(regions, RegionView.MOST_SIZE)).isEqualTo(regions);
  }

  @Test
  void whatIsTooLargeIsFoldedLevelByLevel() {
    List<RegionView> regions = tree("hall", 5, 5);
    assertThat(sizeOf(regions)).isGreaterThan(1_000_000);

    List<RegionView> folded = RegionView.fitting(regions, RegionView.MOST_SIZE);

    assertThat(sizeOf(folded)).isBetween(RegionView.MOST_SIZE / 3, 300_000);
    assertThat(folded).hasSameSizeAs(regions);
    assertThat(folded).allSatisfy(it -> assertThat(it.below()).as("near the top").hasSize(5));
    for (RegionView it : flat(folded)) {
      boolean leaf = it.name().chars().filter(c -> c == '-').count() == 5;
      assertThat(it.more()).as(it.name()).isEqualTo(!leaf && it.below().isEmpty());
      assertThat(it.cells()).as("what it holds is told all the same").hasSize(10);
    }
  }

  @Test
  void theTopIsToldHoweverLargeItIs() {
    List<RegionView> regions = List.of(region("hall", 40, tree("room", 1, 3)));
    List<RegionView> folded = RegionView.fitting(regions, 10);
    assertThat(folded).hasSize(1);
    assertThat(folded.getFirst().cells()).hasSize(40);
    assertThat(folded.getFirst().below()).isEmpty();
    assertThat(folded.getFirst().more()).isTrue();
  }

  @Test
  void aRegionThatHadMoreAlreadyStillHas() {
    RegionView far =
        new RegionView(
            "account",
            "far",
            "Far",
            "far",
            "",
            9,
            true,
            true,
            List.of("Far"),
            List.of(),
            List.of(),
            true);
    assertThat(RegionView.fitting(List.of(far), RegionView.MOST_SIZE)).containsExactly(far);
  }
}
