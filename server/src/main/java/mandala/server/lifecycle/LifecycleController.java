package mandala.server.lifecycle;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Costly;
import mandala.server.question.FigureView;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Guided acts on people: each goes into the caller's open draft, or is planned for a date. */
@RestController
@RequestMapping("/api/people/{key}")
class LifecycleController {

  private final LifecycleDesk desk;
  private final WaitingWork work;
  private final PlannedActs planned;
  private final RequestContexts contexts;

  LifecycleController(
      LifecycleDesk desk, WaitingWork work, PlannedActs planned, RequestContexts contexts) {
    this.desk = desk;
    this.work = work;
    this.planned = planned;
    this.contexts = contexts;
  }

  /**
   * What an act came to.
   *
   * @param draft id of the open draft that has it; absent where it was planned
   * @param person key of whom it is about: of the new one, where somebody came
   * @param planned number of what happens at a date, absent where nothing does
   */
  record ActView(@Nullable String draft, String person, @Nullable Long planned) {}

  /** Somebody new who begins with what a colleague has; {@code ties} by their names. */
  record CopyOrder(
      @NotNull @Valid Newcomer newcomer, @NotNull @Size(max = 5000) List<@NotBlank String> ties) {}

  /** Brings somebody in as a copy of a colleague. */
  @Costly
  @PostMapping("/copies")
  ActView copy(@PathVariable String key, @Valid @RequestBody CopyOrder order) {
    return desk.copy(key, order.newcomer(), order.ties(), contexts.context());
  }

  /**
   * What a copy would be able to do.
   *
   * @param newcomer of the new one, once active; absent where the viewer may not ask about the
   *     colleague
   * @param colleague of the colleague in the same account
   */
  record CopyPreview(@Nullable FigureView newcomer, @Nullable FigureView colleague) {}

  /** What somebody new would be able to do; nothing is changed. */
  @Costly
  @PostMapping("/copies/preview")
  CopyPreview preview(@PathVariable String key, @Valid @RequestBody CopyOrder order) {
    return desk.preview(key, order.newcomer(), order.ties(), contexts.context());
  }

  /** Moves somebody to another post. */
  @Costly
  @PostMapping("/moves")
  ActView move(@PathVariable String key, @Valid @RequestBody MoveOrder order) {
    return desk.move(key, order, contexts.context());
  }

  /** Lends somebody to another account for a time. */
  @Costly
  @PostMapping("/loans")
  ActView lend(@PathVariable String key, @Valid @RequestBody LoanOrder order) {
    return desk.lend(key, order, contexts.context());
  }

  /** Parts with somebody. */
  @Costly
  @PostMapping("/parting")
  ActView part(@PathVariable String key, @Valid @RequestBody PartOrder order) {
    return desk.part(key, order, contexts.context());
  }

  /**
   * What somebody has that is not of the model.
   *
   * @param sessions open ones
   * @param tokens that hold
   * @param drafts neither applied nor discarded
   * @param rounds review rounds that they own and that run
   * @param items review items that wait for their decision
   * @param planned what happens to them at a date
   * @param soleHolder names of roles that nobody else holds, of those whom the viewer may read
   */
  record StandingView(
      int sessions,
      int tokens,
      int drafts,
      int rounds,
      int items,
      List<PlannedView> planned,
      List<String> soleHolder) {}

  /**
   * Something that happens to somebody at a date.
   *
   * @param said what, in a sentence
   * @param owner name of with whose rights it happens
   * @param heldUp why it waits, absent where it does not
   */
  record PlannedView(
      long number, String said, Instant due, String owner, @Nullable String heldUp) {}

  /** What somebody has that is not of the model, and what is planned. */
  @Costly
  @GetMapping("/standing")
  StandingView standing(@PathVariable String key) {
    return work.of(key, contexts.context());
  }

  /**
   * Who takes over what waits for somebody.
   *
   * @param to their key
   */
  record WorkOrder(@NotBlank @Size(max = 200) String to) {}

  /**
   * What became of what waited for somebody.
   *
   * @param drafts handed over
   * @param draftsLeft drafts that the other may not read, or has no room for
   * @param items review items given
   * @param itemsLeft those of rounds that the viewer does not run, or about the other
   * @param rounds offered: the other gets a notice and takes them over, or not
   * @param roundsLeft those which the other may not run
   */
  record HandedWork(
      int drafts, int draftsLeft, int items, int itemsLeft, int rounds, int roundsLeft) {}

  /** Hands over what waits for somebody, at once. */
  @Costly
  @PostMapping("/work")
  HandedWork hand(@PathVariable String key, @Valid @RequestBody WorkOrder order) {
    return work.hand(key, order.to(), contexts.context());
  }

  /** Takes back what was planned. */
  @DeleteMapping("/planned/{number}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void takeBack(@PathVariable String key, @PathVariable long number) {
    planned.takeBack(key, number, contexts.context());
  }

  /**
   * What somebody who left had.
   *
   * @param left when they left; absent where that is not known
   * @param fits whether all of it can be given again; what can't be is left out
   */
  record HadList(@Nullable Instant left, List<HadView> had, boolean fits) {}

  /** Something that somebody had. */
  record HadView(String id, String text, @Nullable String accountName) {}

  /** What somebody had when they left. */
  @Costly
  @GetMapping("/had")
  HadList had(@PathVariable String key) {
    return desk.had(key, contexts.context());
  }

  /**
   * Somebody who left comes back.
   *
   * @param title as before where absent; {@code unit} and {@code manager} likewise
   * @param ties of what they had, by name: nothing is given by itself
   */
  record ReturnOrder(
      @Nullable @Size(max = 200) String title,
      @Nullable @Size(max = 100) String unit,
      @Nullable @Size(max = 100) String manager,
      @NotNull @Size(max = 5000) List<@NotBlank String> ties) {}

  /** Invites somebody who left again. */
  @Costly
  @PostMapping("/return")
  ActView comeBack(@PathVariable String key, @Valid @RequestBody ReturnOrder order) {
    return desk.comeBack(key, order, contexts.context());
  }

  /** Into whose record another one is merged. */
  record PersonMergeOrder(@NotBlank @Size(max = 100) String into) {}

  /** Merges the record into another of the same person. */
  @Costly
  @PostMapping("/merge")
  ActView merge(@PathVariable String key, @Valid @RequestBody PersonMergeOrder order) {
    return desk.merge(key, order.into(), contexts.context());
  }

  /** One of those who shared a sign-in, and what they have from now on. */
  record SplitPart(
      @NotNull @Valid Newcomer newcomer, @NotNull @Size(max = 5000) List<@NotBlank String> ties) {}

  /**
   * Who shared a sign-in.
   *
   * @param duties which of them, counted from 0, takes over what the shared one answers for
   */
  record SplitOrder(
      @NotEmpty @Size(min = 2, max = 20) List<@NotNull @Valid SplitPart> parts,
      @NotNull @Size(max = 5000) Map<String, @NotNull Integer> duties) {}

  /** Gives each of those who shared a sign-in their own, and ends the shared one. */
  @Costly
  @PostMapping("/split")
  ActView split(@PathVariable String key, @Valid @RequestBody SplitOrder order) {
    return desk.split(key, order, contexts.context());
  }

  /**
   * Everything ends now.
   *
   * @param proof the current code of the caller's second factor, or their password where they have
   *     none
   */
  record EndNowOrder(
      @NotBlank @Size(max = 500) String proof, @NotBlank @Size(max = 2000) String reason) {}

  /**
   * What ended.
   *
   * @param revision that suspended them
   * @param sessions that were open, and {@code tokens} that held
   */
  record EndedView(long revision, int sessions, int tokens) {}

  /** Ends all that somebody can do at once: in force when this answers. */
  @Costly
  @PostMapping("/end-now")
  EndedView endNow(@PathVariable String key, @Valid @RequestBody EndNowOrder order) {
    return desk.endNow(key, order.proof(), order.reason(), contexts.context());
  }
}
