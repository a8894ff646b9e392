package mandala.core.excess;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import org.junit.jupiter.api.Test;

/** What was used is kept by principal, can be replaced for some, and says what is observed. */
class UseSpec {

  private static final PrincipalKey ADA = new PrincipalKey("ada");
  private static final PrincipalKey BEN = new PrincipalKey("ben");
  private static final PrincipalKey COR = new PrincipalKey("cor");
  private static final PermissionKey VIEW = new PermissionKey("view");
  private static final LocalDate DAY = LocalDate.parse("2026-05-10");

  private static Use.Used used(String place, int days) {
    return new Use.Used(VIEW, new ResourceKey(place), DAY, days);
  }

  private static void add(Use.Builder builder, PrincipalKey who, String place, int days) {
    builder.add(who, VIEW, new ResourceKey(place), DAY, days);
  }

  private static Use use() {
    Use.Builder builder = new Use.Builder();
    add(builder, ADA, "coin", 3);
    add(builder, ADA, "ring", 1);
    add(builder, BEN, "coin", 2);
    return builder.build(UseCoverage.COMPLETE);
  }

  @Test
  void isToldByPrincipal() {
    assertThat(use().of(ADA)).containsExactly(used("coin", 3), used("ring", 1));
    assertThat(use().of(BEN)).containsExactly(used("coin", 2));
    assertThat(use().of(COR)).isEmpty();
    assertThat(use().size()).isEqualTo(3);
  }

  @Test
  void theRightsOfOneComeTogether() {
    Use.Builder builder = new Use.Builder();
    add(builder, ADA, "coin", 1);
    add(builder, BEN, "coin", 1);
    assertThatIllegalArgumentException().isThrownBy(() -> add(builder, ADA, "ring", 1));
  }

  @Test
  void someAreReplacedAndOthersStay() {
    Use.Builder builder = new Use.Builder();
    add(builder, ADA, "crown", 5);
    add(builder, COR, "coin", 9);
    Use other = builder.build(UseCoverage.NOTHING);
    Use both = use().with(other, List.of(ADA));
    assertThat(both.of(ADA)).containsExactly(used("crown", 5));
    assertThat(both.of(BEN)).containsExactly(used("coin", 2));
    assertThat(both.of(COR)).as("not among those replaced").isEmpty();
    assertThat(both.coverage()).isEqualTo(UseCoverage.COMPLETE);
    assertThat(use().with(other, List.of(BEN)).of(BEN)).as("none in the other").isEmpty();
  }

  @Test
  void aPartReportsAWindowOnlyFromItsFirstWholeDay() {
    UseWindow window = new UseWindow(Instant.parse("2026-05-10T12:00:00Z"), 10);
    UseCoverage.Part since =
        new UseCoverage.Part(Set.of(VIEW), null, LocalDate.parse("2026-05-01"));
    UseCoverage.Part later =
        new UseCoverage.Part(Set.of(VIEW), null, LocalDate.parse("2026-05-02"));
    assertThat(new UseCoverage(List.of(since, later)).over(window)).containsExactly(since);
    assertThat(UseCoverage.COMPLETE.isComplete()).isTrue();
    assertThat(new UseCoverage(List.of(since)).isComplete()).isFalse();
    assertThat(use().observing(UseCoverage.NOTHING).of(ADA)).isEqualTo(use().of(ADA));
  }
}
