package mandala.server.history;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.document.ChangeText;
import mandala.server.access.Sights;
import mandala.server.model.Entry;
import mandala.server.model.History;
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

  private final History history;
  private final Sights sights;

  RevisionController(History history, Sights sights) {
    this.history = history;
    this.sights = sights;
  }

  /**
   * A revision.
   *
   * @param author the name of whoever made it, null for the server itself
   * @param size how many things it changed
   * @param whole whether it replaced the whole model
   */
  record RevisionView(
      long number,
      Instant at,
      @Nullable String author,
      String title,
      @Nullable String draft,
      @Nullable Long takesBack,
      int size,
      boolean whole) {}

  /** One revision with what it changed, as far as the viewer may read it. */
  record RevisionChanges(RevisionView revision, List<String> sentences, int hidden) {}

  @GetMapping
  List<RevisionView> revisions(
      @RequestParam(required = false) @Nullable Long before,
      @RequestParam(defaultValue = "30") int limit) {
    Sights.Look look = sights.look();
    requireReader(look);
    return history
        .entries(before == null ? Long.MAX_VALUE : before, Math.clamp(limit, 1, MOST))
        .stream()
        .map(entry -> view(entry, look))
        .toList();
  }

  private static void requireReader(Sights.Look look) {
    if (!look.sight().mayReadAnybody()) {
      throw Problem.forbidden("Revisions are read by those who may read the directory.");
    }
  }

  private static RevisionView view(Entry entry, Sights.Look look) {
    Catalogue catalogue = look.state().engine().catalogue();
    String author = entry.author();
    return new RevisionView(
        entry.number(),
        entry.at(),
        author == null ? null : new ChangeText(catalogue, catalogue).name(Kind.PRINCIPALS, author),
        entry.title(),
        entry.draft(),
        entry.takesBack(),
        entry.size(),
        entry.changes() == null);
  }

  @GetMapping("/{number}")
  RevisionChanges revision(@PathVariable long number) {
    Sights.Look look = sights.look();
    requireReader(look);
    Entry entry =
        history
            .entry(number)
            .orElseThrow(() -> Problem.notFound("There is no revision " + number + "."));
    List<Change> changes = entry.changes();
    List<String> sentences = new ArrayList<>();
    int hidden = 0;
    if (changes != null) {
      Sights.Look then = sights.look(null, number);
      Catalogue after = then.asked().engine().catalogue();
      Catalogue before = new Draft(changes).inverse().appliedUnchecked(after);
      ChangeText text = new ChangeText(before, after);
      for (Change change : changes) {
        boolean readable =
            change.things().stream()
                .allMatch(
                    it -> look.sight().mayRead(it, after) || look.sight().mayRead(it, before));
        if (readable) {
          sentences.addAll(text.sentences(change));
        } else {
          hidden++;
        }
      }
    }
    return new RevisionChanges(view(entry, look), sentences, hidden);
  }
}
