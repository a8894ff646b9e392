package mandala.server.history;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.key.PrincipalKey;
import mandala.document.ChangeText;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.model.History;
import mandala.server.model.Revision;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Revisions of the model. */
@RestController
@RequestMapping("/api/revisions")
class RevisionController {

  private static final int MOST = 100;

  /** So many revisions are looked at for one answer. */
  private static final int LOOKED_AT = 2_000;

  private final History history;
  private final RequestContexts contexts;

  RevisionController(History history, RequestContexts contexts) {
    this.history = history;
    this.contexts = contexts;
  }

  /**
   * A revision.
   *
   * @param author the name of whoever made it, null for the server itself
   * @param size how many things it changed
   * @param whole whether it replaced the whole model
   * @param reason why it was made, {@code reference} the ticket or order behind it
   * @param approvedBy the names of those who approved exactly this
   */
  record RevisionView(
      long number,
      Instant at,
      @Nullable String author,
      String title,
      @Nullable String draft,
      @Nullable Long takesBack,
      int size,
      boolean whole,
      @Nullable String reason,
      @Nullable String reference,
      List<String> approvedBy) {}

  /**
   * One change of a revision.
   *
   * @param at its place in the revision, from 0
   */
  record RevisionChange(int at, List<String> sentences) {}

  /** One revision with what it changed, as far as the viewer may read it. */
  record RevisionChanges(RevisionView revision, List<RevisionChange> changes, boolean hidden) {}

  @GetMapping
  List<RevisionView> revisions(
      @RequestParam(required = false) @Nullable Long before,
      @RequestParam(defaultValue = "30") int limit) {
    RequestContext context = contexts.context();
    requireReader(context);
    List<RevisionView> views = new ArrayList<>();
    long from = before == null ? Long.MAX_VALUE : before;
    int wanted = Math.clamp(limit, 1, MOST);
    // revisions of which nothing may be read are passed over
    for (int read = 0; views.size() < wanted && read < LOOKED_AT; ) {
      List<Revision> entries = history.entries(from, MOST);
      if (entries.isEmpty()) {
        break;
      }
      for (Revision entry : entries) {
        if (views.size() < wanted) {
          view(entry, context).ifPresent(views::add);
        }
        from = entry.number();
      }
      read += entries.size();
    }
    return views;
  }

  private static void requireReader(RequestContext context) {
    if (!context.readPolicy().mayReadAnybody()) {
      throw Problem.forbidden(
          "You can't see revisions. Ask a security administrator for the right to read the directory.");
    }
  }

  /**
   * A revision as far as it may be read: its title, which its author wrote, to those who may read
   * all that it changed; its size counts only what may be read. One of which nothing may be read is
   * none.
   */
  private static Optional<RevisionView> view(Revision entry, RequestContext context) {
    List<Change> changes = entry.changes();
    String author = entry.author();
    boolean own = author != null && context.readPolicy().isViewer(new PrincipalKey(author));
    boolean all = context.readPolicy().readsAll();
    int readable = entry.size();
    if (changes != null && !all) {
      readable = (int) changes.stream().filter(it -> isReadable(it, context)).count();
    }
    boolean whole = own || (changes == null ? all : readable == changes.size());
    if (!whole && (changes == null || readable == 0)) {
      return Optional.empty();
    }
    return Optional.of(
        new RevisionView(
            entry.number(),
            entry.at(),
            author == null ? null : context.text().name(Kind.PRINCIPALS, author),
            whole ? entry.title() : "Changes, some of which you can't see",
            whole ? entry.draft() : null,
            entry.takesBack(),
            own && changes != null ? changes.size() : readable,
            changes == null,
            whole ? entry.reason() : null,
            whole ? entry.reference() : null,
            whole
                ? entry.approvedBy().stream()
                    .map(it -> context.text().name(Kind.PRINCIPALS, it))
                    .toList()
                : List.of()));
  }

  /** Judged where each thing is in the model in force; of what is gone, by what it names. */
  private static boolean isReadable(Change change, RequestContext context) {
    Catalogue live = context.state().engine().catalogue();
    return change.things().stream()
        .allMatch(it -> context.readPolicy().mayRead(it, live) && context.tellsAllOf(it));
  }

  @GetMapping("/{number}")
  RevisionChanges revision(@PathVariable long number) {
    RequestContext context = contexts.context();
    requireReader(context);
    Revision entry = history.entry(number).orElseThrow(() -> unknown(number));
    RevisionView view = view(entry, context).orElseThrow(() -> unknown(number));
    List<Change> changes = entry.changes();
    List<RevisionChange> told = new ArrayList<>();
    boolean hidden = false;
    if (changes != null) {
      RequestContext then = contexts.context(null, number);
      Catalogue after = then.asked().engine().catalogue();
      Catalogue before = new Draft(changes).inverse().appliedUnchecked(after);
      ChangeText text = then.text(before, after);
      for (int at = 0; at < changes.size(); at++) {
        Change change = changes.get(at);
        boolean readable =
            change.things().stream()
                .allMatch(it ->
                    context.readPolicy().mayRead(it, after)
                        || context.readPolicy().mayRead(it, before));
        if (readable) {
          told.add(new RevisionChange(at, text.sentences(change)));
        } else {
          hidden = true;
        }
      }
    }
    return new RevisionChanges(view, told, hidden);
  }

  private static Problem unknown(long number) {
    return Problem.notFound("There is no revision " + number + " that you may read.");
  }
}
