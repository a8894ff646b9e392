package mandala.server.draft;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.function.UnaryOperator;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.Rebase;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Thing;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.document.ThingDocument;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.field.DeclaredFields;
import mandala.server.model.History;
import mandala.server.model.LiveModel;
import mandala.server.model.Revision;
import mandala.server.platform.Costly;
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

  /** How many edits one call may send. */
  private static final int MOST_EDITS = 1_000;

  private final Drafts drafts;
  private final WaitingDrafts waiting;
  private final SeenImpact impact;
  private final SeenDrafts seen;
  private final RequestContexts contexts;
  private final History history;
  private final DeclaredFields fields;

  DraftController(
      Drafts drafts,
      WaitingDrafts waiting,
      SeenImpact impact,
      SeenDrafts seen,
      RequestContexts contexts,
      History history,
      DeclaredFields fields) {
    this.drafts = drafts;
    this.waiting = waiting;
    this.impact = impact;
    this.seen = seen;
    this.contexts = contexts;
    this.history = history;
    this.fields = fields;
  }

  /**
   * Drafts in lists.
   *
   * @param mine one's own; the open one first, then those set aside, then what was applied
   * @param waiting those of others that wait for a second person, and that one may approve
   * @param judging of how many more that is still being found out: ask again
   * @param discarded one's own that can be restored, the newest first
   */
  record DraftList(
      List<DraftView.Summary> mine,
      List<DraftView.Summary> waiting,
      int judging,
      List<DraftView.Summary> discarded) {}

  @Costly
  @GetMapping
  DraftList list() {
    RequestContext context = contexts.context();
    WaitingDrafts.Found found = waiting.forApproval(context);
    return new DraftList(
        drafts.of(context.readPolicy().viewer().value()).stream()
            .map(row -> seen.summary(row, context))
            .toList(),
        found.drafts().stream().map(row -> seen.summary(row, context)).toList(),
        found.judging(),
        drafts.discarded(context.readPolicy().viewer().value()).stream()
            .map(row -> seen.summary(row, context))
            .toList());
  }

  /**
   * The open draft, for the frame that shows it on every page.
   *
   * @param draft null where there is none
   * @param impact in one sentence, where it is known
   * @param made what this call added, by the keys that it has
   * @param toApprove how many drafts the viewer was asked to approve and has not answered
   */
  record OpenDraft(
      DraftView.@Nullable Summary draft,
      int faults,
      int clashes,
      @Nullable String impact,
      List<MadeView> made,
      int toApprove) {}

  /** Something that the call put into the draft, by the key that it was given. */
  record MadeView(String kind, String key) {}

  @GetMapping("/open/summary")
  OpenDraft open() {
    RequestContext context = contexts.context();
    String viewer = context.readPolicy().viewer().value();
    DraftRow row = drafts.open(viewer).orElse(null);
    if (row == null) {
      return new OpenDraft(null, 0, 0, null, List.of(), seen.toApprove(context));
    }
    return opened(row, context);
  }

  private OpenDraft opened(DraftRow row, RequestContext context) {
    return opened(row, context, List.of());
  }

  private OpenDraft opened(DraftRow row, RequestContext context, List<MadeView> made) {
    DraftReview review = seen.review(row, context);
    boolean told = seen.isTold(review, context);
    String said = null;
    if (!told) {
      said = "You can't read everything it names";
    } else if (review.after() != null && !review.draft().isEmpty()) {
      ImpactView found = impact.of(row, review, context, 250);
      said = found.state().equals("done") ? found.summary() : null;
    }
    return new OpenDraft(
        seen.summary(row, context),
        told ? review.faults().size() : 0,
        review.rebase().clashes().size(),
        said,
        made,
        seen.toApprove(context));
  }

  /** A name for a new draft. */
  record Beginning(@Nullable @Size(max = 200) String name) {}

  @PostMapping
  OpenDraft begin(@Valid @RequestBody Beginning beginning) {
    RequestContext context = contexts.context();
    String name = beginning.name();
    DraftRow row =
        drafts.begin(
            context.readPolicy().viewer().value(),
            name == null || name.isBlank() ? null : name.strip(),
            context.state().revision(),
            Draft.EMPTY);
    return opened(row, context);
  }

  /**
   * Edits that are put in together, or not at all.
   *
   * @param into the id of one's own draft that takes them and becomes the active one, or {@code
   *     new}; the active one where absent
   */
  record EditList(
      @NotEmpty @Size(max = MOST_EDITS) List<@NotNull @Valid Edit> edits,
      @Nullable @Size(max = 100) String into) {}

  @Costly
  @PostMapping("/open/edits")
  OpenDraft edit(@Valid @RequestBody EditList edits) {
    RequestContext context = contexts.context();
    LiveModel.State state = context.state();
    requireRetiredFirst(edits.edits(), context);
    List<MadeView> made = new ArrayList<>();
    UnaryOperator<Draft> how =
        draft -> {
          Rebase rebase = Rebase.of(draft, state.engine().catalogue());
          OpenDraftChanges.requireNoClash(rebase);
          Draft after = EditReader.in(rebase.draft(), context, edits.edits());
          OpenDraftChanges.requireReadable(after, rebase.draft(), context);
          fields.requireMet(
              after, rebase.draft(), after.appliedUnchecked(state.engine().catalogue()));
          made.clear();
          made.addAll(made(after, rebase.draft()));
          return after;
        };
    String owner = context.readPolicy().viewer().value();
    String into = edits.into() == null ? "open" : edits.into();
    DraftRow row =
        switch (into) {
          case "open" -> drafts.changeOpen(owner, state.revision(), how);
          case "new" -> drafts.begin(owner, null, state.revision(), how.apply(Draft.EMPTY));
          default -> {
            DraftRow chosen = seen.row(into, context);
            drafts.change(chosen.id(), owner, state.revision(), how);
            yield drafts.move(chosen.id(), owner, DraftRow.State.OPEN);
          }
        };
    return opened(row, context, made);
  }

  /** What was ever given to somebody is retired, so that the past can still be read. */
  private void requireRetiredFirst(List<Edit> edits, RequestContext context) {
    LiveModel.State state = context.state();
    for (Edit edit : edits) {
      String key = edit.key();
      Kind kind = ThingDocument.kind(edit.kind());
      if (Boolean.TRUE.equals(edit.remove())
          && key != null
          && (kind == Kind.ROLES || kind == Kind.GROUPS)
          && state.engine().catalogue().find(kind, key).stream()
              .anyMatch(it -> context.readPolicy().mayRead(it, state.engine().catalogue()))
          && history.everGiven(kind, key)) {
        throw Problem.conflict(
            "The " + kind.word() + " '" + key + "' was in use",
            "Retire it instead: it then grants nothing, and its history stays readable.");
      }
    }
  }

  private static List<MadeView> made(Draft after, Draft before) {
    Set<Change> known = new HashSet<>(before.changes());
    List<MadeView> made = new ArrayList<>();
    for (Change change : after.changes()) {
      Key key = change.things().getFirst().key();
      if (change instanceof Change.Added(Thing thing) && key != null && !known.contains(change)) {
        made.add(new MadeView(Kind.of(thing).field(), key.value()));
      }
    }
    return made;
  }

  @Costly
  @GetMapping("/{id}")
  DraftView draft(@PathVariable String id) {
    RequestContext context = contexts.context();
    return seen.view(seen.row(id, context), context);
  }

  /** What to change of a draft itself; what is null stays. */
  record Handling(
      @Nullable @Size(max = 200) String name,
      @Nullable @Size(max = 2000) String reason,
      @Nullable @Size(max = 200) String reference,
      @Schema(allowableValues = {"open", "aside", "discarded"}) @Nullable String state,
      @Nullable String owner) {}

  @Costly
  @PatchMapping("/{id}")
  DraftView handle(@PathVariable String id, @Valid @RequestBody Handling handling) {
    RequestContext context = contexts.context();
    String viewer = context.readPolicy().viewer().value();
    DraftRow row = seen.row(id, context);
    if (handling.name() != null) {
      row = drafts.rename(row.id(), viewer, handling.name());
    }
    if (handling.reason() != null || handling.reference() != null) {
      row = drafts.explain(row.id(), viewer, handling.reason(), handling.reference());
    }
    if (handling.state() != null) {
      row = drafts.move(row.id(), viewer, state(handling.state()));
    }
    String to = handling.owner();
    if (to != null) {
      requireReader(row, requireKnown(to, context), context);
      row = drafts.handOver(row.id(), viewer, to);
    }
    return seen.view(row, context);
  }

  /** Handing over shows the draft: whoever gets it may read all of it already. */
  private static void requireReader(DraftRow row, Principal to, RequestContext context) {
    if (!DraftView.isReadBy(to.key(), row, context)) {
      throw Problem.conflict(
          "They can't read the whole draft",
          "Hand it to somebody whose access covers all that it names, or split it first.");
    }
  }

  private static Principal requireKnown(String key, RequestContext context) {
    Principal principal =
        key.isBlank()
            ? null
            : context.state().engine().catalogue().principals().get(new PrincipalKey(key));
    if (principal == null || !context.readPolicy().mayRead(principal)) {
      throw Problem.notFound("There is nobody called '" + key + "'. Choose from the list.");
    }
    return principal;
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
  record Which(@NotBlank String kind, @Nullable String key, @Nullable JsonNode thing) {
    boolean is(Change change, RequestContext context) {
      Thing thing = change.things().getFirst();
      Key itsKey = thing.key();
      return Kind.of(thing).field().equals(kind)
          && (itsKey == null
              ? this.thing != null && context.json(thing).equals(this.thing)
              : Objects.equals(itsKey.value(), key));
    }
  }

  @Costly
  @PostMapping("/{id}/drop")
  DraftView drop(@PathVariable String id, @Valid @RequestBody Which which) {
    RequestContext context = contexts.context();
    DraftRow row =
        drafts.change(
            seen.row(id, context).id(),
            context.readPolicy().viewer().value(),
            context.state().revision(),
            draft ->
                new Draft(
                    draft.changes().stream()
                        .filter(change -> !which.is(change, context))
                        .toList()));
    return seen.view(row, context);
  }

  /** For something that clashes: whose is to count. */
  record ClashChoice(@Valid @NotNull Which which, boolean mine) {}

  /** A choice for each clash. */
  record Choices(
      @NotNull @Size(max = Drafts.MOST_CHANGES) List<@NotNull @Valid ClashChoice> choices) {}

  @Costly
  @PostMapping("/{id}/rebase")
  DraftView rebase(@PathVariable String id, @Valid @RequestBody Choices choices) {
    RequestContext context = contexts.context();
    DraftRow row =
        drafts.change(
            seen.row(id, context).id(),
            context.readPolicy().viewer().value(),
            context.state().revision(),
            draft -> rebased(draft, choices, context));
    return seen.view(row, context);
  }

  private static Draft rebased(Draft draft, Choices choices, RequestContext context) {
    Rebase rebase = Rebase.of(draft, context.state().engine().catalogue());
    Draft next = rebase.draft();
    for (Rebase.Clash clash : rebase.clashes()) {
      ClashChoice choice =
          choices.choices().stream()
              .filter(it -> it.which().is(clash.mine(), context))
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
    RequestContext context = contexts.context();
    DraftRow row = seen.row(id, context);
    drafts.comment(row.id(), context.readPolicy().viewer().value(), remark.said());
    return seen.view(row, context);
  }

  /**
   * A revision is taken back by those who may read all that it changed: what it removed is shown by
   * the draft that brings it again. Judged where the thing was before the revision, and where what
   * is left of it is now.
   */
  private void requireAllReadable(List<Change> changes, long revision, RequestContext context) {
    Catalogue after = contexts.context(null, revision).asked().engine().catalogue();
    Catalogue before = new Draft(changes).inverse().appliedUnchecked(after);
    for (Change change : changes) {
      Thing first = change.things().getFirst();
      Thing last = change.things().getLast();
      boolean readable =
          context.readPolicy().mayRead(first, change instanceof Change.Added ? after : before)
              && context
                  .readPolicy()
                  .mayRead(last, change instanceof Change.Removed ? before : after);
      if (!readable) {
        throw Problem.notFound("There is no revision " + revision + " that you may take back.");
      }
    }
  }

  /**
   * Which of a revision's changes to take back.
   *
   * @param only their places in the revision, from 0; absent for all
   */
  record TakenBack(
      @Nullable @Size(min = 1, max = Drafts.MOST_CHANGES) List<@NotNull Integer> only) {
    /** {@return the changes that are chosen} */
    List<Change> of(List<Change> changes, long revision) {
      if (only == null) {
        return changes;
      }
      for (int at : only) {
        if (at < 0 || at >= changes.size()) {
          throw Problem.badRequest(
              "Revision " + revision + " has no change " + at,
              "Changes count from 0 to " + (changes.size() - 1) + ". Choose among those.");
        }
      }
      return only.stream().distinct().sorted().map(changes::get).toList();
    }
  }

  /**
   * Begins a draft that takes a revision back, whole or in part; what has changed since shows in
   * it.
   */
  @Costly
  @PostMapping("/taking-back/{revision}")
  DraftView takeBack(
      @PathVariable long revision, @Valid @RequestBody(required = false) @Nullable TakenBack what) {
    RequestContext context = contexts.context();
    Revision entry =
        history
            .entry(revision)
            .orElseThrow(() ->
                Problem.notFound("There is no revision " + revision + " that you may take back."));
    List<Change> changes = entry.changes();
    if (changes == null && !context.readPolicy().readsAll()) {
      throw Problem.notFound("There is no revision " + revision + " that you may take back.");
    }
    if (changes == null) {
      throw Problem.conflict(
          "Revision " + revision + " replaced the whole model",
          "It cannot be taken back as a draft. Import the model of the revision before it.");
    }
    requireAllReadable(changes, revision, context);
    List<Change> chosen = what == null ? changes : what.of(changes, revision);
    Draft inverse = new Draft(chosen).inverse();
    DraftRow row =
        drafts.takeBack(
            context.readPolicy().viewer().value(),
            chosen.size() == changes.size()
                ? "Take back revision " + revision
                : "Take back part of revision " + revision,
            revision,
            context.state().revision(),
            inverse);
    return seen.view(row, context);
  }
}
