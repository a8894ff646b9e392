package mandala.server.review;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.List;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.job.Job;
import mandala.server.job.JobOrders;
import mandala.server.platform.Costly;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Review rounds: made and run by those who may, decided by those whom they ask. */
@RestController
@RequestMapping("/api/reviews")
class ReviewController {

  private final RequestContexts contexts;
  private final RoundDesk rounds;
  private final DecisionDesk decisions;
  private final FinishDesk finishing;
  private final DeputyDesk deputies;
  private final JobOrders jobs;

  ReviewController(
      RequestContexts contexts,
      RoundDesk rounds,
      DecisionDesk decisions,
      FinishDesk finishing,
      DeputyDesk deputies,
      JobOrders jobs) {
    this.contexts = contexts;
    this.rounds = rounds;
    this.decisions = decisions;
    this.finishing = finishing;
    this.deputies = deputies;
    this.jobs = jobs;
  }

  // ---- rounds -----------------------------------------------------------------------------------

  /**
   * Rounds.
   *
   * @param accounts keys of those in which the viewer may run reviews
   * @param mine open rounds in which something waits for the viewer
   * @param runs rounds that the viewer may run, the newest first
   * @param reads whether the viewer may read what rounds came to, in some account
   * @param audits open and closed rounds that the viewer may read and does not run
   * @param asked what reviewers ask the viewer
   */
  record RoundList(
      List<String> accounts,
      List<MyRound> mine,
      List<RoundView> runs,
      boolean reads,
      List<RoundView> audits,
      List<AskedView> asked) {}

  /** A round in which something waits for the viewer: how many items, how many are decided. */
  record MyRound(long number, String title, Instant ends, int items, int decided) {}

  /**
   * A round as whoever runs it sees it.
   *
   * @param cause what made it by itself; absent where a person did
   * @param reason why it was cancelled
   * @param heldUp why it waits for its owner
   * @param late whether its end is over, and it waits for decisions to take effect
   * @param finished items that are decided or gone
   */
  record RoundView(
      long number,
      String title,
      RoundOrder order,
      String ownerName,
      @Schema(allowableValues = {"planned", "making", "open", "closed", "cancelled"}) String state,
      Instant begins,
      Instant ends,
      @Nullable Long revision,
      @Nullable String cause,
      @Nullable String reason,
      @Nullable String heldUp,
      boolean late,
      int items,
      int finished) {}

  /** A question that a reviewer asks the viewer about something of theirs. */
  record AskedView(long round, int item, String byName, String what, String question, Instant at) {}

  /** The rounds that the viewer runs, and what waits for them in any. */
  @GetMapping
  RoundList rounds() {
    return rounds.list(contexts.context());
  }

  /**
   * What a round would be.
   *
   * @param subjects whose access it is: how many
   * @param loads how many items each reviewer gets, the most first; at most 500
   * @param reviewers how many there are
   * @param nobody items that nobody decides, {@code without} the first of them
   * @param conflicts items whose reviewer gave them, or that two decide about each other
   */
  record RoundPreview(
      int items,
      int subjects,
      List<ReviewerLoad> loads,
      int reviewers,
      int nobody,
      List<String> without,
      int conflicts) {}

  /** How many items a reviewer gets; {@code who} is absent where they may not be named. */
  record ReviewerLoad(@Nullable String who, String name, int items) {}

  /** Counts what a round would ask, and whom. */
  @Costly
  @PostMapping("/preview")
  RoundPreview preview(@Valid @RequestBody RoundOrder order) {
    return rounds.preview(order, contexts.context());
  }

  /** A round that was planned. */
  record RoundPlanned(long round) {}

  /** Begins to make a round that begins now. */
  @PostMapping
  Job make(@Valid @RequestBody RoundOrder order) {
    RequestContext context = contexts.context();
    RoundDesk.requireRun(order, context);
    return jobs.begin(RoundJob.NAME, "Make the review “" + order.title() + "”", order);
  }

  /** Plans a round that is made when it begins. */
  @PostMapping("/plans")
  RoundPlanned plan(@Valid @RequestBody RoundOrder order) {
    return new RoundPlanned(rounds.plan(order, contexts.context()));
  }

  /** A round with its reviewers. */
  record RoundDetail(RoundView round, List<ReviewerView> reviewers) {}

  /**
   * How a reviewer decides.
   *
   * @param who absent where nobody decides, or they may not be named
   * @param left items that are not decided
   * @param keeps share of keeps among their decisions, from 0 to 1; absent before the first
   * @param pace median seconds between one decision and the next; absent before the second
   * @param controls known wrong items that they decided, {@code controlsKept} how many they kept
   */
  record ReviewerView(
      @Nullable String who,
      String name,
      int items,
      int left,
      int kept,
      int reduced,
      int removed,
      @Nullable Double keeps,
      @Nullable Double pace,
      int controls,
      int controlsKept) {}

  /** How a round goes. */
  @GetMapping("/{round}")
  RoundDetail round(@PathVariable long round) {
    return rounds.detail(round, contexts.context());
  }

  /** Why a round is cancelled. */
  record CancelOrder(@NotBlank @Size(max = 500) String reason) {}

  /** Cancels a round. */
  @PostMapping("/{round}/cancel")
  RoundDetail cancel(@PathVariable long round, @Valid @RequestBody CancelOrder order) {
    return rounds.cancel(round, order.reason(), contexts.context());
  }

  /**
   * Whose items go to whom.
   *
   * @param from absent for those that nobody decides
   */
  record GiveOrder(@Nullable @Size(max = 200) String from, @NotBlank @Size(max = 200) String to) {}

  /** How many items changed. */
  record ItemsChanged(int changed) {}

  /** Gives the undecided items of a reviewer to somebody else. */
  @PostMapping("/{round}/give")
  ItemsChanged give(@PathVariable long round, @Valid @RequestBody GiveOrder order) {
    String from = order.from() == null ? "" : order.from();
    return new ItemsChanged(rounds.give(round, from, order.to(), contexts.context()));
  }

  // ---- deciding ---------------------------------------------------------------------------------

  /**
   * What the viewer decides in a round.
   *
   * @param stages how many there are
   * @param passTo to whom they can pass items on without a search: their manager, those about whom
   *     they decide, whoever runs it
   */
  record MyItems(
      long round,
      String title,
      @Schema(allowableValues = {"planned", "making", "open", "closed", "cancelled"}) String state,
      Instant ends,
      int stages,
      List<PassTarget> passTo,
      List<ItemView.ItemRow> items) {}

  /** Somebody to whom items can be passed on. */
  record PassTarget(String key, String name) {}

  /** What the viewer decides in a round. */
  @GetMapping("/{round}/items")
  MyItems items(@PathVariable long round) {
    return decisions.mine(round, contexts.context());
  }

  /** An item with the evidence for a decision. */
  @Costly
  @GetMapping("/{round}/items/{item}")
  ItemView item(@PathVariable long round, @PathVariable int item) {
    return decisions.item(round, item, contexts.context());
  }

  /**
   * A decision.
   *
   * @param facts as the item said them
   * @param reduction key of a way to reduce it, {@code until} where it needs a time
   * @param with marks of what goes with it, as the item said them
   */
  record DecisionOrder(
      @NotBlank @Schema(allowableValues = {"keep", "reduce", "remove"}) String verdict,
      @NotBlank @Size(max = 64) String facts,
      @Nullable @Size(max = 1000) String reason,
      @Nullable @Size(max = 40) String reduction,
      @Nullable Instant until,
      @Nullable @Size(max = 20) List<@NotBlank @Size(max = 1000) String> with) {}

  /** Decides an item. */
  @PutMapping("/{round}/items/{item}/decision")
  ItemView.ItemRow decide(
      @PathVariable long round, @PathVariable int item, @Valid @RequestBody DecisionOrder order) {
    return decisions.decide(round, item, order, contexts.context());
  }

  /** Undoes a decision that does not count yet. */
  @DeleteMapping("/{round}/items/{item}/decision")
  ItemView.ItemRow undo(@PathVariable long round, @PathVariable int item) {
    return decisions.undo(round, item, contexts.context());
  }

  /** Which items to keep at once. */
  record AlikeOrder(
      @NotEmpty @Size(max = 500) List<@NotNull Integer> items,
      @Nullable @Size(max = 1000) String reason) {}

  /** Keeps several items of low risk that are alike. */
  @PostMapping("/{round}/keep")
  ItemsChanged keep(@PathVariable long round, @Valid @RequestBody AlikeOrder order) {
    return new ItemsChanged(decisions.keepAlike(round, order, contexts.context()));
  }

  /** To whom an item goes. */
  record PassOrder(@NotBlank @Size(max = 200) String to, @Nullable @Size(max = 1000) String said) {}

  /** Passes an item on. */
  @PostMapping("/{round}/items/{item}/pass")
  ItemsChanged pass(
      @PathVariable long round, @PathVariable int item, @Valid @RequestBody PassOrder order) {
    decisions.pass(round, item, order, contexts.context());
    return new ItemsChanged(1);
  }

  /** Something that is said of an item. */
  record SaidOrder(@NotBlank @Size(max = 1000) String said) {}

  /** Asks whoever has an item about it. */
  @PostMapping("/{round}/items/{item}/ask")
  ItemsChanged ask(
      @PathVariable long round, @PathVariable int item, @Valid @RequestBody SaidOrder order) {
    decisions.ask(round, item, order.said(), contexts.context());
    return new ItemsChanged(1);
  }

  /** Answers what the viewer is asked about an item of theirs. */
  @PostMapping("/{round}/items/{item}/answer")
  ItemsChanged answer(
      @PathVariable long round, @PathVariable int item, @Valid @RequestBody SaidOrder order) {
    decisions.answer(round, item, order.said(), contexts.context());
    return new ItemsChanged(1);
  }

  /** Says something of an item. */
  @PostMapping("/{round}/items/{item}/comment")
  ItemsChanged comment(
      @PathVariable long round, @PathVariable int item, @Valid @RequestBody SaidOrder order) {
    decisions.comment(round, item, order.said(), contexts.context());
    return new ItemsChanged(1);
  }

  /**
   * What the viewer's decisions do together.
   *
   * @param decided how many do not count yet, {@code changes} of the model that they come to
   * @param people who gains or loses anything, in rights {@code lost} and {@code gained}
   * @param faulty whether they do not fit together
   * @param others whether some concern others, too, whom the viewer may not see
   * @param broken expectations that hold now and would not
   */
  record DecisionEffect(
      int decided,
      int changes,
      int people,
      long lost,
      long gained,
      boolean faulty,
      boolean others,
      List<BrokenExpectation> broken) {}

  /** An expectation that would break; {@code answer} what the viewer answers for it. */
  record BrokenExpectation(
      String key, String name, @Nullable String said, @Nullable String answer) {}

  /** What the viewer's decisions do together. */
  @Costly
  @GetMapping("/{round}/effect")
  DecisionEffect effect(@PathVariable long round) {
    return finishing.effect(round, contexts.context());
  }

  /** What somebody answers for an expectation that breaks. */
  record ExpectationAnswer(
      @NotBlank @Size(max = 200) String expectation, @NotBlank @Size(max = 1000) String said) {}

  /** Answers for an expectation that the viewer's decisions break. */
  @PostMapping("/{round}/answers")
  DecisionEffect answerFor(@PathVariable long round, @Valid @RequestBody ExpectationAnswer order) {
    return finishing.answerFor(round, order, contexts.context());
  }

  /** Makes the viewer's decisions count. */
  @PostMapping("/{round}/finish")
  ItemsChanged finish(@PathVariable long round) {
    return new ItemsChanged(finishing.finish(round, contexts.context()));
  }

  // ---- deputies ---------------------------------------------------------------------------------

  /**
   * Who decides for the viewer.
   *
   * @param deputy absent where nobody does
   * @param known whom they can name without a search
   */
  record MyDeputy(@Nullable DeputyView deputy, List<PassTarget> known) {}

  /** A deputy for decisions. */
  record DeputyView(String who, String name, Instant begins, Instant ends) {}

  /** Who decides for the viewer while they are absent. */
  @GetMapping("/deputy")
  MyDeputy deputy() {
    return deputies.mine(contexts.context());
  }

  /** Who is to decide, from when until when. */
  record DeputyOrder(
      @NotBlank @Size(max = 200) String who, @NotNull Instant begins, @NotNull Instant ends) {}

  /** Names who decides for the viewer while they are absent. */
  @PutMapping("/deputy")
  MyDeputy name(@Valid @RequestBody DeputyOrder order) {
    return deputies.name(order, contexts.context());
  }

  /** Ends that. */
  @DeleteMapping("/deputy")
  MyDeputy endDeputy() {
    return deputies.end(contexts.context());
  }
}
