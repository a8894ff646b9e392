package mandala.server.review;

import com.fasterxml.jackson.annotation.JsonIgnore;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import mandala.core.review.ReviewScope;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;

/**
 * What makes a small round by itself, and whom it asks.
 *
 * @param event {@code moved}: somebody has another unit, manager, account or title, and all that
 *     they have is asked about; {@code widened}: a role allows more; {@code ending}: a guest
 *     membership ends soon; {@code given}: somebody or something was given access
 * @param accounts keys, with all below them; empty for all
 * @param risk at least
 * @param within days before the end of a guest membership; of no account for other events
 * @param stages who decides, as in a round
 * @param days that reviewers have
 * @param passOn as in a round
 */
record EventRule(
    @NotBlank @Size(max = 100) String title,
    @NotBlank @Schema(allowableValues = {"moved", "widened", "ending", "given"}) String event,
    @NotNull @Size(max = 200) List<@NotBlank @Size(max = 200) String> accounts,
    @NotBlank @Schema(allowableValues = {"low", "moderate", "high", "critical"}) String risk,
    @Min(1) @Max(90) int within,
    @NotEmpty @Size(max = 4) List<RoundOrder.@Valid RoundStage> stages,
    @Min(1) @Max(90) int days,
    boolean passOn) {

  /** By event: what its items are about, and why there is a round, in words. */
  private record Words(String why, List<ReviewScope.Content> contents) {}

  private static final Map<String, Words> EVENTS =
      Map.of(
          "moved", new Words("somebody moved", List.of(ReviewScope.Content.PEOPLE)),
          "widened", new Words("a role was widened", List.of(ReviewScope.Content.ROLES)),
          "ending", new Words("a guest's end is near", List.of(ReviewScope.Content.GUESTS)),
          "given",
              new Words(
                  "access was given",
                  List.of(
                      ReviewScope.Content.PEOPLE,
                      ReviewScope.Content.GUESTS,
                      ReviewScope.Content.SERVICES,
                      ReviewScope.Content.GROUPS,
                      ReviewScope.Content.PATTERNS,
                      ReviewScope.Content.EVERYBODY,
                      ReviewScope.Content.BRIDGES,
                      ReviewScope.Content.DELEGATIONS)));

  /**
   * {@return the round that it makes at an instant}
   *
   * @throws Problem if there is no such event
   */
  @JsonIgnore
  RoundOrder order(String about, Instant now) {
    return new RoundOrder(
        about.isEmpty() ? title : title + ", " + about,
        words().contents().stream().map(it -> it.name().toLowerCase(Locale.ROOT)).toList(),
        accounts,
        null,
        risk,
        "all",
        List.of(),
        stages,
        now,
        now.plus(Duration.ofDays(days)),
        passOn,
        0,
        "never",
        RoundOrder.RoundEffect.AT_ONCE);
  }

  private Words words() {
    Words words = EVENTS.get(event);
    if (words == null) {
      throw Problem.badRequest(
          "'" + event + "' is no event", "Choose moved, widened, ending or given.");
    }
    return words;
  }

  /** {@return why its rounds are made}, in words that name nobody */
  @JsonIgnore
  String why() {
    return words().why();
  }

  /** {@return the same as a viewer may know it}: with marks for people whom they may not read */
  EventRule seen(RequestContext context) {
    return new EventRule(
        title,
        event,
        accounts,
        risk,
        within,
        order("", Instant.EPOCH).seen(context).stages(),
        days,
        passOn);
  }
}
