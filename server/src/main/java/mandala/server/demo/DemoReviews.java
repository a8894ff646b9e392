package mandala.server.demo;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import mandala.server.model.LiveModel;
import mandala.server.review.ReviewSetup;
import org.springframework.stereotype.Component;

/**
 * Three rounds for a demo that has none, one that is over, one that runs, one to come, and a rule
 * that asks about those who move.
 */
@Component
class DemoReviews {

  /** Who runs them. */
  private static final String RUNS = "anselm.reeve";

  private final ReviewSetup reviews;
  private final Clock clock;

  DemoReviews(ReviewSetup reviews, Clock clock) {
    this.reviews = reviews;
    this.clock = clock;
  }

  void load(LiveModel.State state) {
    if (!reviews.isEmpty()) {
      return;
    }
    Instant today = clock.instant().truncatedTo(ChronoUnit.DAYS);
    Instant now = clock.instant();
    List<String> managers = List.of("manager", "place-owner", "person:" + RUNS);
    long guests =
        reviews.begin(
            new ReviewSetup.Plan(
                "Guests, autumn",
                List.of("guests"),
                List.of("fernwick", "quillhaven"),
                "low",
                List.of("sponsor", "manager", "person:" + RUNS),
                today.minus(Duration.ofDays(60)),
                today.minus(Duration.ofDays(46)),
                0,
                RUNS),
            state,
            now);
    reviews.close(
        guests,
        "It ends with the loan; asked about again in the next quarter",
        state,
        today.minus(Duration.ofDays(46)));
    long quarter =
        reviews.begin(
            new ReviewSetup.Plan(
                "Quarterly, high and critical",
                List.of("people", "guests"),
                List.of("quillhaven", "fernwick"),
                "high",
                managers,
                today.minus(Duration.ofDays(10)),
                today.plus(Duration.ofDays(4)),
                0,
                RUNS),
            state,
            now);
    reviews.decide(quarter, "tomas.brandt", 2, today.minus(Duration.ofDays(2)));
    reviews.decide(quarter, "samir.dalca", 7, today.minus(Duration.ofDays(5)));
    reviews.plan(
        new ReviewSetup.Plan(
            "Services",
            List.of("services"),
            List.of("larkmoor"),
            "low",
            List.of("sponsor", "person:" + RUNS),
            today.plus(Duration.ofDays(20)),
            today.plus(Duration.ofDays(34)),
            1,
            RUNS),
        now);
    reviews.watchMoves(
        "Movers",
        List.of("quillhaven", "fernwick"),
        List.of("manager", "person:" + RUNS),
        RUNS,
        state);
  }
}
