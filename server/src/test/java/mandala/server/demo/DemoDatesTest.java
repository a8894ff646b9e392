package mandala.server.demo;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Objects;
import mandala.core.change.Draft;
import mandala.core.model.AccessModel;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.key.BridgeKey;
import mandala.demo.DemoHistory;
import mandala.demo.Larkmoor;
import org.junit.jupiter.api.Test;

/** Dates of the demo count from the day of its first start. */
class DemoDatesTest {

  private static DemoDates on(String day) {
    return DemoDates.from(Clock.fixed(Instant.parse(day + "T17:00:00Z"), ZoneOffset.UTC));
  }

  private static Instant end(AccessModel model) {
    Bridge bridge = new Catalogue(model).bridges().get(new BridgeKey("couriers-to-quay"));
    return Objects.requireNonNull(Objects.requireNonNull(bridge).window().until());
  }

  @Test
  void onTheDayOfTheStoryNothingMoves() {
    AccessModel told = Larkmoor.model();
    assertThat(on("2026-11-23").moved(told)).isSameAs(told);
  }

  @Test
  void inAnyOtherMonthEverythingMovesByWholeDays() {
    AccessModel told = Larkmoor.model();
    AccessModel moved = on("2027-06-30").moved(told);
    Duration by = Duration.between(end(told), end(moved));
    assertThat(by).isEqualTo(Duration.ofDays(219));
    assertThat(moved.size()).isEqualTo(told.size());
    assertThat(end(moved)).isAfter(Instant.parse("2027-06-30T17:00:00Z"));
  }

  @Test
  void thePastStillLeadsToThePresent() {
    AccessModel told = Larkmoor.model();
    DemoDates dates = on("2028-02-29");
    DemoHistory past = dates.moved(DemoHistory.of(told));
    Catalogue at = new Catalogue(past.first());
    for (DemoHistory.Made made : past.revisions()) {
      at = Draft.of(made.changes()).appliedUnchecked(at);
    }
    assertThat(at.model().sorted()).isEqualTo(dates.moved(told).sorted());
    assertThat(past.revisions().getLast().at()).isBefore(Instant.parse("2028-02-29T00:00:00Z"));
  }
}
