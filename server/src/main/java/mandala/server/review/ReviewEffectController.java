package mandala.server.review;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.util.List;
import mandala.server.authorization.RequestContexts;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What becomes of the decisions of review rounds. */
@RestController
@RequestMapping("/api/reviews/{round}")
class ReviewEffectController {

  private final RequestContexts contexts;
  private final SettlingDesk settling;

  ReviewEffectController(RequestContexts contexts, SettlingDesk settling) {
    this.contexts = contexts;
    this.settling = settling;
  }

  /**
   * What becomes of a round's decisions.
   *
   * @param late whether its end is over, and something keeps it from closing
   * @param left items that do: undecided, or without effect so far
   * @param due decisions that are to change the model, and are in no draft yet
   * @param waiting decisions in drafts that are not applied
   * @param returned items that came back, undecided again
   * @param unsettled the first of what is left, once the end is over
   * @param others whether somebody else owns the round
   * @param before exposure of those whose access it asks about, when it was made; absent before it
   *     closes
   */
  record RoundEffects(
      boolean late,
      int left,
      int due,
      int waiting,
      int inForce,
      int answered,
      int returned,
      List<CarryingDraft> drafts,
      List<UnsettledItem> unsettled,
      boolean others,
      @Nullable Long before,
      @Nullable Long after) {}

  /** A draft that carries out decisions; {@code id} is absent where it is somebody else's. */
  record CarryingDraft(@Nullable String id, int items) {}

  /**
   * An item that keeps a round from closing.
   *
   * @param why it came back
   * @param draft that carries it out
   */
  record UnsettledItem(
      int number,
      String text,
      String deciderName,
      @Schema(allowableValues = {"undecided", "due", "waiting"}) String state,
      @Nullable String why,
      @Nullable String draft) {}

  /** What becomes of a round's decisions. */
  @GetMapping("/effects")
  RoundEffects effects(@PathVariable long round) {
    return settling.effects(round, contexts.context());
  }

  /** Makes the viewer the owner of a round: its decisions take effect with their rights. */
  @PostMapping("/owner")
  RoundEffects takeOver(@PathVariable long round) {
    return settling.takeOver(round, contexts.context());
  }

  /** How somebody answers for a decision that can't take effect. */
  record EffectAnswer(@NotBlank @Size(max = 1000) String said) {}

  /** Answers for an item that has no decision in force. */
  @PostMapping("/items/{item}/effect/answer")
  RoundEffects answerFor(
      @PathVariable long round, @PathVariable int item, @Valid @RequestBody EffectAnswer order) {
    return settling.answerFor(round, item, order.said(), contexts.context());
  }

  /** Takes back the viewer's own decision that counts and is not in force. */
  @DeleteMapping("/items/{item}/effect")
  ReviewController.ItemsChanged takeBack(@PathVariable long round, @PathVariable int item) {
    return new ReviewController.ItemsChanged(settling.takeBack(round, item, contexts.context()));
  }
}
