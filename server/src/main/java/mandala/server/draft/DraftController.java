package mandala.server.draft;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import mandala.core.analysis.Consequences;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.Rebase;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Thing;
import mandala.document.ThingDocument;
import mandala.server.access.Sights;
import mandala.server.model.Entry;
import mandala.server.model.History;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PatchMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;

/** Drafts: what one wants to change, before it is changed. */
@RestController
@RequestMapping("/api/drafts")
class DraftController {

  private final Drafts drafts;
  private final Impacts impacts;
  private final SeenDrafts seen;
  private final Sights sights;
  private final History history;

  DraftController(Drafts drafts, Impacts impacts, SeenDrafts seen, Sights sights, History history) {
    this.drafts = drafts;
    this.impacts = impacts;
    this.seen = seen;
    this.sights = sights;
    this.history = history;
  }

  /**
   * Drafts in lists.
   *
   * @param mine one's own; the open one first, then those set aside, then what was applied
   * @param waiting those of others that wait for a second person, and that one may approve
   */
  record DraftList(List<DraftView.Summary> mine, List<DraftView.Summary> waiting) {}

  @GetMapping
  DraftList list() {
    Sights.Look look = sights.look();
    String viewer = look.sight().viewer().value();
    Catalogue catalogue = look.state().engine().catalogue();
    List<DraftView.Summary> waiting = new ArrayList<>();
    for (DraftRow row : drafts.ofOthers(viewer)) {
      if (!row.draft().isEmpty()) {
        Judged judged = seen.judged(row, look);
        if (!judged.reasons().isEmpty() && judged.authority().mayApprove(look.sight().session())) {
          waiting.add(DraftView.summary(row, viewer, catalogue));
        }
      }
    }
    return new DraftList(
        drafts.of(viewer).stream().map(row -> DraftView.summary(row, viewer, catalogue)).toList(),
        waiting);
  }

  /**
   * The open draft, for the frame that shows it on every page.
   *
   * @param draft null where there is none
   * @param impact in one sentence, where it is known
   */
  record OpenDraft(
      DraftView.@Nullable Summary draft, int faults, int clashes, @Nullable String impact) {}

  @GetMapping("/open/summary")
  OpenDraft open() {
    Sights.Look look = sights.look();
    String viewer = look.sight().viewer().value();
    DraftRow row = drafts.open(viewer).orElse(null);
    if (row == null) {
      return new OpenDraft(null, 0, 0, null);
    }
    return opened(row, look);
  }

  private OpenDraft opened(DraftRow row, Sights.Look look) {
    Judged judged = seen.judged(row, look);
    String said = null;
    if (!seen.isTold(judged, look)) {
      said = "You may not read all that it names";
    } else if (judged.after() != null && !judged.draft().isEmpty()) {
      Consequences found = impacts.of(row.id(), judged).await(250);
      said =
          found == null
              ? null
              : ImpactView.of(found, judged, look.sight(), new Key.Principal(row.owner()))
                  .summary();
    }
    return new OpenDraft(
        DraftView.summary(row, look.sight().viewer().value(), look.state().engine().catalogue()),
        judged.faults().size(),
        judged.rebase().clashes().size(),
        said);
  }

  /** A name for a new draft. */
  record Beginning(@Nullable @Size(max = 200) String name) {}

  @PostMapping
  OpenDraft begin(@Valid @RequestBody Beginning beginning) {
    Sights.Look look = sights.look();
    DraftRow row =
        drafts.begin(
            look.sight().viewer().value(), beginning.name(), look.state().revision(), Draft.EMPTY);
    return opened(row, look);
  }

  /** Edits that are put in together, or not at all. */
  record EditList(@NotEmpty @Size(max = 10_000) List<@Valid Edit> edits) {}

  @PostMapping("/open/edits")
  OpenDraft edit(@Valid @RequestBody EditList edits) {
    Sights.Look look = sights.look();
    LiveModel.State state = look.state();
    requireRetiredFirst(edits.edits(), state);
    DraftRow row =
        drafts.changeOpen(
            look.sight().viewer().value(),
            state.revision(),
            draft -> {
              Rebase rebase = Rebase.of(draft, state.engine().catalogue());
              requireNoClash(rebase);
              Draft after = Edits.in(rebase.draft(), state.engine().catalogue(), edits.edits());
              requireReadable(after, rebase.draft(), look);
              return after;
            });
    return opened(row, look);
  }

  private static void requireNoClash(Rebase rebase) {
    if (!rebase.clashes().isEmpty()) {
      throw Problem.conflict(
          "Somebody else has changed what your draft changes",
          "Open the draft and choose for each; then go on.");
    }
  }

  /** What was ever given to somebody is retired, so that the past can still be read. */
  private void requireRetiredFirst(List<Edit> edits, LiveModel.State state) {
    for (Edit edit : edits) {
      String key = edit.key();
      Kind kind = ThingDocument.kind(edit.kind());
      if (Boolean.TRUE.equals(edit.remove())
          && key != null
          && (kind == Kind.ROLES || kind == Kind.GROUPS)
          && !state.engine().catalogue().find(kind, key).isEmpty()
          && history.everGiven(kind, key, state)) {
        throw Problem.conflict(
            "The " + kind.word() + " '" + key + "' was in use",
            "Retire it instead: it gives nothing any more, and what it gave can still be read.");
      }
    }
  }

  /** Nobody changes what they may not even read, and nobody finds out by trying what there is. */
  private static void requireReadable(Draft after, Draft before, Sights.Look look) {
    Catalogue live = look.state().engine().catalogue();
    for (Change change : after.changes()) {
      Thing thing = change.things().getFirst();
      if (!(change instanceof Change.Added)
          && !before.changes().contains(change)
          && !look.sight().mayRead(thing, live)) {
        throw Edits.gone(Kind.of(thing));
      }
    }
  }

  @GetMapping("/{id}")
  DraftView draft(@PathVariable String id) {
    Sights.Look look = sights.look();
    return seen.view(seen.row(id, look), look);
  }

  /** What to change of a draft itself; what is null stays. */
  record Handling(
      @Nullable @Size(max = 200) String name,
      @Schema(allowableValues = {"open", "aside", "discarded"}) @Nullable String state,
      @Nullable String owner) {}

  @PatchMapping("/{id}")
  DraftView handle(@PathVariable String id, @Valid @RequestBody Handling handling) {
    Sights.Look look = sights.look();
    String viewer = look.sight().viewer().value();
    DraftRow row = seen.row(id, look);
    if (handling.name() != null) {
      row = drafts.rename(row.id(), viewer, handling.name());
    }
    if (handling.state() != null) {
      row = drafts.move(row.id(), viewer, state(handling.state()));
    }
    String to = handling.owner();
    if (to != null) {
      requireKnown(to, look);
      row = drafts.handOver(row.id(), viewer, to);
    }
    return seen.view(row, look);
  }

  private static void requireKnown(String key, Sights.Look look) {
    Principal principal =
        key.isBlank()
            ? null
            : look.state().engine().catalogue().principals().get(new Key.Principal(key));
    if (principal == null || !look.sight().mayRead(principal)) {
      throw Problem.notFound("There is nobody called '" + key + "'. Choose from the list.");
    }
  }

  private static DraftRow.State state(String word) {
    return switch (word) {
      case "open" -> DraftRow.State.OPEN;
      case "aside" -> DraftRow.State.ASIDE;
      case "discarded" -> DraftRow.State.DISCARDED;
      default ->
          throw Problem.badRequest(
              "A draft cannot be '" + word + "'", "Write open, aside or discarded.");
    };
  }

  /** Which change of a draft. */
  record Which(
      @NotBlank String kind,
      @Nullable String key,
      @Schema(type = "object") @Nullable JsonNode thing) {
    boolean is(Change change) {
      Thing thing = change.things().getFirst();
      Key itsKey = thing.key();
      return Kind.of(thing).field().equals(kind)
          && (itsKey == null
              ? this.thing != null && DraftView.json(thing).equals(this.thing)
              : Objects.equals(itsKey.value(), key));
    }
  }

  @PostMapping("/{id}/drop")
  DraftView drop(@PathVariable String id, @Valid @RequestBody Which which) {
    Sights.Look look = sights.look();
    DraftRow row =
        drafts.change(
            seen.row(id, look).id(),
            look.sight().viewer().value(),
            look.state().revision(),
            draft ->
                new Draft(draft.changes().stream().filter(change -> !which.is(change)).toList()));
    return seen.view(row, look);
  }

  /** For something that clashes: whose is to count. */
  record ClashChoice(@Valid @NotNull Which which, boolean mine) {}

  /** A choice for each clash. */
  record Choices(@NotNull List<@Valid ClashChoice> choices) {}

  @PostMapping("/{id}/rebase")
  DraftView rebase(@PathVariable String id, @Valid @RequestBody Choices choices) {
    Sights.Look look = sights.look();
    DraftRow row =
        drafts.change(
            seen.row(id, look).id(),
            look.sight().viewer().value(),
            look.state().revision(),
            draft -> rebased(draft, choices, look.state().engine().catalogue()));
    return seen.view(row, look);
  }

  private static Draft rebased(Draft draft, Choices choices, Catalogue now) {
    Rebase rebase = Rebase.of(draft, now);
    Draft next = rebase.draft();
    for (Rebase.Clash clash : rebase.clashes()) {
      ClashChoice choice =
          choices.choices().stream()
              .filter(it -> it.which().is(clash.mine()))
              .findFirst()
              .orElseThrow(() ->
                  Problem.conflict(
                      "A choice is missing",
                      "Somebody else changed more meanwhile. Look at the draft again."));
      Change mine = choice.mine() ? clash.mineOverTheirs() : null;
      if (mine != null) {
        next = next.with(mine);
      }
    }
    return next;
  }

  /** A remark. */
  record Remark(@NotBlank @Size(max = 4000) String said) {}

  @PostMapping("/{id}/comments")
  DraftView comment(@PathVariable String id, @Valid @RequestBody Remark remark) {
    Sights.Look look = sights.look();
    DraftRow row = seen.row(id, look);
    drafts.comment(row.id(), look.sight().viewer().value(), remark.said());
    return seen.view(row, look);
  }

  /** Begins a draft that takes a revision back; what has changed since shows in it. */
  @PostMapping("/taking-back/{revision}")
  DraftView takeBack(@PathVariable long revision) {
    Sights.Look look = sights.look();
    Entry entry =
        history
            .entry(revision)
            .orElseThrow(() -> Problem.notFound("There is no revision " + revision + "."));
    List<Change> changes = entry.changes();
    if (changes == null) {
      throw Problem.conflict(
          "Revision " + revision + " replaced the whole model",
          "It cannot be taken back as a draft. Import the model of the revision before it.");
    }
    Draft inverse = new Draft(changes).inverse();
    requireReadable(inverse, Draft.EMPTY, look);
    DraftRow row =
        drafts.takeBack(
            look.sight().viewer().value(),
            "Take back revision " + revision,
            revision,
            look.state().revision(),
            inverse);
    return seen.view(row, look);
  }
}
