package mandala.server.draft;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletRequest;
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
import mandala.core.engine.Access;
import mandala.core.engine.Difference;
import mandala.core.engine.Engine;
import mandala.core.engine.Outlook;
import mandala.core.engine.Session;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Thing;
import mandala.document.ThingDocument;
import mandala.server.access.FigureView;
import mandala.server.access.Sight;
import mandala.server.access.Sights;
import mandala.server.model.Entry;
import mandala.server.model.History;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import mandala.server.session.SignIn;
import mandala.server.session.Throttle;
import mandala.server.session.Trace;
import mandala.server.trail.Happening;
import mandala.server.trail.Trail;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PatchMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;

/** Drafts: what one wants to change, before it is changed. */
@RestController
@RequestMapping("/api/drafts")
class DraftController {

  private final Drafts drafts;
  private final Impacts impacts;
  private final Applying applying;
  private final Sights sights;
  private final History history;
  private final SignIn signIn;
  private final Throttle throttle;
  private final Trail trail;
  private final Trace trace;

  DraftController(
      Drafts drafts,
      Impacts impacts,
      Applying applying,
      Sights sights,
      History history,
      SignIn signIn,
      Throttle throttle,
      Trail trail,
      Trace trace) {
    this.drafts = drafts;
    this.impacts = impacts;
    this.applying = applying;
    this.sights = sights;
    this.history = history;
    this.signIn = signIn;
    this.throttle = throttle;
    this.trail = trail;
    this.trace = trace;
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
        Judged judged = drafts.judged(look.state(), row, authorOf(row, look));
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
    Judged judged = drafts.judged(look.state(), row, authorOf(row, look));
    String said = null;
    if (!isTold(judged, look)) {
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

  /**
   * Whether the viewer may be told what a draft does: who may not read what it names would learn
   * from it what there is.
   */
  private static boolean isTold(Judged judged, Sights.Look look) {
    Catalogue live = look.state().engine().catalogue();
    return judged.authority().named().stream()
        .allMatch(resource -> {
          Key.Account account = live.accountOf(resource);
          return look.sight().may(mandala.core.model.Supplied.DIRECTORY_READ, resource)
              || (account != null && look.sight().mayRead(account));
        });
  }

  /** The session in which a draft's owner is judged: the viewer's own where it is theirs. */
  private static Session authorOf(DraftRow row, Sights.Look look) {
    Session viewer = look.sight().session();
    return row.owner().equals(viewer.principal().value())
        ? viewer
        : new Session(new Key.Principal(row.owner()), viewer.at(), true, null);
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

  private DraftRow seen(String id, Sights.Look look) {
    DraftRow row =
        ("open".equals(id) ? drafts.open(look.sight().viewer().value()) : drafts.find(id))
            .orElseThrow(
                () -> Problem.notFound("There is no such draft. Look at the list of drafts."));
    if (!row.owner().equals(look.sight().viewer().value())
        && !row.isReadBy(look.sight(), look.state().engine().catalogue())) {
      throw Problem.notFound("There is no such draft. Look at the list of drafts.");
    }
    return row;
  }

  @GetMapping("/{id}")
  DraftView draft(@PathVariable String id) {
    Sights.Look look = sights.look();
    return view(seen(id, look), look);
  }

  private DraftView view(DraftRow row, Sights.Look look) {
    Session author = authorOf(row, look);
    Judged judged = drafts.judged(look.state(), row, author);
    return DraftView.of(
        row,
        judged,
        look.sight().viewer().value(),
        author.mfa(),
        row.isAlive()
            && !judged.draft().isEmpty()
            && judged.authority().mayApprove(look.sight().session()),
        drafts.approvals(row.id()),
        drafts.comments(row.id()));
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
    DraftRow row = seen(id, look);
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
    return view(row, look);
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
            seen(id, look).id(),
            look.sight().viewer().value(),
            look.state().revision(),
            draft ->
                new Draft(draft.changes().stream().filter(change -> !which.is(change)).toList()));
    return view(row, look);
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
            seen(id, look).id(),
            look.sight().viewer().value(),
            look.state().revision(),
            draft -> rebased(draft, choices, look.state().engine().catalogue()));
    return view(row, look);
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

  /**
   * What the draft does to everybody.
   *
   * @param wait how long to wait for it, in milliseconds, up to ten seconds
   */
  @GetMapping("/{id}/impact")
  ImpactView impact(@PathVariable String id, @RequestParam(defaultValue = "1500") long wait) {
    Sights.Look look = sights.look();
    DraftRow row = seen(id, look);
    Judged judged = drafts.judged(look.state(), row, authorOf(row, look));
    if (judged.after() == null) {
      return ImpactView.waiting("faulty", 0, 0);
    }
    if (!isTold(judged, look)) {
      return ImpactView.waiting("hidden", 0, 0);
    }
    Impacts.Work work = impacts.of(row.id(), judged);
    Consequences found = work.await(Math.clamp(wait, 0, 10_000));
    return found == null
        ? ImpactView.waiting(work.isCancelled() ? "cancelled" : "running", work.done(), work.of())
        : ImpactView.of(found, judged, look.sight(), new Key.Principal(row.owner()));
  }

  @DeleteMapping("/{id}/impact")
  void cancel(@PathVariable String id) {
    Sights.Look look = sights.look();
    DraftRow row = seen(id, look);
    Judged judged = drafts.judged(look.state(), row, authorOf(row, look));
    if (judged.after() != null) {
      impacts.of(row.id(), judged).cancel();
    }
  }

  /**
   * What the draft does to one person.
   *
   * @param before their mandala, {@code after} the one after it, both with the same areas
   */
  record PersonImpact(
      DraftView.PersonName person,
      long gained,
      long lost,
      @Nullable FigureView before,
      @Nullable FigureView after,
      List<LineView> lines) {}

  /** What differs of one permission in one account. */
  record LineView(
      String account,
      String accountName,
      String permission,
      String permissionName,
      String accessClass,
      String risk,
      long gained,
      long lost,
      @Nullable String sample) {}

  @GetMapping("/{id}/impact/{person}")
  PersonImpact impactOn(@PathVariable String id, @PathVariable String person) {
    Sights.Look look = sights.look();
    DraftRow row = seen(id, look);
    Judged judged = drafts.judged(look.state(), row, authorOf(row, look));
    Engine before = look.state().engine();
    Engine after = judged.after();
    Key.Principal key = new Key.Principal(person);
    Principal was = before.catalogue().principals().get(key);
    Principal is = judged.catalogue().principals().get(key);
    Principal either = is == null ? was : is;
    if (after == null || either == null || !asks(look.sight(), either)) {
      throw Problem.notFound(
          "There is nobody called '" + person + "' whose access you may ask about.");
    }
    Session then = new Session(key, look.sight().now(), true, null);
    Access old = was == null ? null : before.access(then);
    Access now = is == null ? null : after.access(then);
    Difference difference = old == null || now == null ? null : old.difference(now);
    Outlook outlook = new Outlook(either.account(), true, null);
    return new PersonImpact(
        new DraftView.PersonName(person, either.about().nameOr(key)),
        difference == null ? (now == null ? 0 : now.rights()) : difference.gained(),
        difference == null ? (old == null ? 0 : old.rights()) : difference.lost(),
        old == null ? null : FigureView.of(old.figure(outlook), before.catalogue()),
        now == null ? null : FigureView.of(now.figure(outlook), after.catalogue()),
        difference == null || old == null || now == null
            ? List.of()
            : lines(difference, old, now, judged.catalogue()));
  }

  private static boolean asks(Sight sight, Principal principal) {
    return sight.cutFor(principal) instanceof Sight.Cut.Whole;
  }

  private static List<LineView> lines(
      Difference difference, Access before, Access after, Catalogue catalogue) {
    mandala.document.ChangeText text =
        new mandala.document.ChangeText(before.catalogue(), catalogue);
    List<LineView> lines = new ArrayList<>();
    for (Difference.Line line : difference.lines()) {
      var permission = catalogue.permissions().get(line.permission());
      if (permission != null) {
        lines.add(
            new LineView(
                line.account().value(),
                text.name(Kind.ACCOUNTS, line.account().value()),
                line.permission().value(),
                permission.about().nameOr(permission.key()),
                FigureView.word(permission.accessClass()),
                FigureView.word(permission.risk()),
                line.gained(),
                line.lost(),
                before
                    .sampleOfDifference(after, line.permission(), line.account())
                    .map(Key.Resource::value)
                    .orElse(null)));
      }
    }
    return lines;
  }

  /** A remark. */
  record Remark(@NotBlank @Size(max = 4000) String said) {}

  @PostMapping("/{id}/comments")
  DraftView comment(@PathVariable String id, @Valid @RequestBody Remark remark) {
    Sights.Look look = sights.look();
    DraftRow row = seen(id, look);
    drafts.comment(row.id(), look.sight().viewer().value(), remark.said());
    return view(row, look);
  }

  /** What is approved: exactly this content. */
  record Content(@NotBlank String content) {}

  @PostMapping("/{id}/approval")
  DraftView approve(@PathVariable String id, @Valid @RequestBody Content content) {
    Sights.Look look = sights.look();
    DraftRow row = seen(id, look);
    Judged judged = drafts.judged(look.state(), row, authorOf(row, look));
    if (row.owner().equals(look.sight().viewer().value())) {
      throw Problem.forbidden("Nobody approves their own draft. Ask somebody else.");
    }
    if (!row.isAlive() || !judged.content().equals(content.content())) {
      throw Problem.conflict(
          "The draft was changed meanwhile",
          "An approval is of exact content. Look at it as it is now, and approve that.");
    }
    if (!judged.authority().mayApprove(look.sight().session())) {
      throw Problem.forbidden(
          "To approve this draft one needs “Approve drafts” on everything that it names. "
              + new RefusalText(judged, true).names(judged.authority().whoCouldApprove())
              + " could.");
    }
    drafts.approve(row.id(), look.sight().viewer().value(), content.content());
    trail.writeAlone(
        trace.by(
            Happening.Act.APPROVED,
            judged.authority().named().stream()
                .map(look.state().engine().catalogue()::accountOf)
                .filter(Objects::nonNull)
                .map(Key::value)
                .distinct()
                .toList(),
            "Approved the draft of "
                + row.owner()
                + (row.name() == null ? "" : ", “" + row.name() + "”")
                + ", content "
                + content.content().substring(0, 12)));
    return view(row, look);
  }

  @DeleteMapping("/{id}/approval")
  DraftView withdraw(@PathVariable String id) {
    Sights.Look look = sights.look();
    DraftRow row = seen(id, look);
    drafts.withdraw(row.id(), look.sight().viewer().value());
    return view(row, look);
  }

  /**
   * What is to be applied, and the proof that it is oneself who applies it.
   *
   * @param proof the current code of the second factor; the password where one is not enrolled
   */
  record Application(@NotBlank String content, @NotNull @Size(max = 500) String proof) {}

  /** The revision that was made. */
  record Applied(long revision) {}

  @PostMapping("/{id}/apply")
  Applied apply(
      @PathVariable String id,
      @Valid @RequestBody Application application,
      HttpServletRequest request) {
    Sights.Look look = sights.look();
    Session viewer = look.sight().session();
    DraftRow row = seen(id, look);
    throttle.attempt(viewer.principal().value(), request.getRemoteAddr());
    boolean factor = signIn.confirm(viewer.principal(), application.proof());
    throttle.succeeded(viewer.principal().value(), request.getRemoteAddr());
    return new Applied(
        applying.apply(
            row.id(),
            application.content(),
            new Session(viewer.principal(), viewer.at(), factor || viewer.mfa(), null)));
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
    return view(row, look);
  }
}
