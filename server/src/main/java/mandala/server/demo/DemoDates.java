package mandala.server.demo;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mandala.core.change.Change;
import mandala.core.model.AccessModel;
import mandala.demo.DemoHistory;
import mandala.document.DocumentReader;
import mandala.document.DocumentWriter;
import mandala.document.ThingDocument;

/**
 * Shifts the demo's dates, so that its “today” is the day of its first start: what ends “next week”
 * there ends next week, in any month. Shifts by whole days, so that windows keep to days.
 */
public final class DemoDates {

  /** “Today” in the demo's data as it is written. */
  public static final LocalDate WRITTEN = LocalDate.of(2026, 11, 23);

  private static final Pattern INSTANT =
      Pattern.compile("\"(\\d{4}-\\d\\d-\\d\\dT\\d\\d:\\d\\d:\\d\\d(?:\\.\\d+)?Z)\"");

  private final Duration by;

  private DemoDates(Duration by) {
    this.by = by;
  }

  /** {@return dates for a demo that starts now} */
  public static DemoDates from(Clock clock) {
    LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
    return new DemoDates(Duration.ofDays(ChronoUnit.DAYS.between(WRITTEN, today)));
  }

  /** {@return a model with all its dates moved} */
  public AccessModel moved(AccessModel model) {
    return by.isZero() ? model : DocumentReader.read(moved(DocumentWriter.write(model))).orThrow();
  }

  /** {@return a past with all its dates moved}, those in its changes too */
  DemoHistory moved(DemoHistory past) {
    return new DemoHistory(
        moved(past.first()),
        past.began().plus(by),
        past.revisions().stream()
            .map(it ->
                new DemoHistory.Made(
                    it.at().plus(by), it.author(), it.title(), moved(it.changes())))
            .toList());
  }

  private List<Change> moved(List<Change> changes) {
    return by.isZero() ? changes : ThingDocument.changes(moved(ThingDocument.write(changes)));
  }

  private String moved(String json) {
    Matcher found = INSTANT.matcher(json);
    return found.replaceAll(it -> "\"" + Instant.parse(it.group(1)).plus(by) + "\"");
  }
}
