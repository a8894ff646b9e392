package mandala.server.schedule;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** When something recurs, over days whose clocks go forward or back and months that are short. */
class TimetableTest {

  private static final ZoneId BERLIN = ZoneId.of("Europe/Berlin");

  private static List<String> next(Timetable timetable, String from, int many) {
    List<String> found = new ArrayList<>();
    Instant at = Instant.parse(from);
    for (int i = 0; i < many; i++) {
      at = timetable.after(at);
      found.add(at.toString());
    }
    return found;
  }

  @Test
  void anHourThatDoesNotExistIsTheNextOneThatDoes() {
    Timetable daily = Timetable.daily(LocalTime.of(2, 30), BERLIN, Timetable.Missed.SKIP);
    assertThat(next(daily, "2026-03-28T12:00:00Z", 2))
        .containsExactly("2026-03-29T01:30:00Z", "2026-03-30T00:30:00Z");
  }

  @Test
  void anHourThatComesTwiceCountsOnce() {
    Timetable daily = Timetable.daily(LocalTime.of(2, 30), BERLIN, Timetable.Missed.SKIP);
    assertThat(next(daily, "2026-10-24T12:00:00Z", 2))
        .containsExactly("2026-10-25T00:30:00Z", "2026-10-26T01:30:00Z");
    assertThat(next(daily, "2026-10-25T00:30:00Z", 1))
        .as("between the first and the second half past two")
        .containsExactly("2026-10-26T01:30:00Z");
  }

  @Test
  void aDayThatAMonthLacksIsItsLast() {
    Timetable monthly =
        Timetable.monthly(31, LocalTime.of(6, 0), ZoneId.of("UTC"), Timetable.Missed.CATCH_UP);
    assertThat(next(monthly, "2027-01-31T06:00:00Z", 3))
        .containsExactly("2027-02-28T06:00:00Z", "2027-03-31T06:00:00Z", "2027-04-30T06:00:00Z");
  }

  @Test
  void aWeekHasOneOfEachDay() {
    Timetable weekly =
        Timetable.weekly(DayOfWeek.MONDAY, LocalTime.of(7, 0), BERLIN, Timetable.Missed.CATCH_UP);
    assertThat(next(weekly, "2026-11-29T00:00:00Z", 2))
        .containsExactly("2026-11-30T06:00:00Z", "2026-12-07T06:00:00Z");
  }

  @ParameterizedTest
  @EnumSource(Timetable.Missed.class)
  void whatIsMissedIsLeftOutOnlyWhereItsRuleSaysSo(Timetable.Missed missed) {
    Timetable daily = Timetable.daily(LocalTime.NOON, BERLIN, missed);
    Instant due = Instant.parse("2026-11-29T11:00:00Z");
    assertThat(daily.isLeftOut(due, due.plus(Timetable.LATE))).isFalse();
    assertThat(daily.isLeftOut(due, due.plus(Timetable.LATE).plusSeconds(1)))
        .isEqualTo(missed == Timetable.Missed.SKIP);
  }

  @Test
  void everySoOftenIsCountedFromTheLast() {
    assertThat(next(Timetable.every(Duration.ofMinutes(15)), "2026-11-29T08:00:00Z", 2))
        .containsExactly("2026-11-29T08:15:00Z", "2026-11-29T08:30:00Z");
  }

  @Test
  void theFirstRunComesAfterTheFirstTimeOrAtOnce() {
    Instant now = Instant.parse("2026-11-29T10:00:00Z");
    Duration hour = Duration.ofHours(1);
    assertThat(Timetable.every(hour).getInitialExecutionTime(now)).isEqualTo(now.plus(hour));
    assertThat(Timetable.everyFromNow(hour).getInitialExecutionTime(now)).isEqualTo(now);
    assertThat(Timetable.everyFromNow(hour).after(now)).isEqualTo(now.plus(hour));
  }
}
