package mandala.server.session;

import jakarta.persistence.EntityManager;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.util.List;
import mandala.server.platform.Problem;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/**
 * Views of lists that people keep for themselves: a page's address with its filters, order and
 * columns. An address says what to ask, never an answer: whoever opens it sees what they may.
 */
@RestController
@RequestMapping("/api/saved-views")
class SavedViewController {

  /** How many views one person keeps. */
  static final int MOST = 100;

  private final EntityManager entities;
  private final CurrentPrincipal viewer;
  private final Clock clock;

  SavedViewController(EntityManager entities, CurrentPrincipal viewer, Clock clock) {
    this.entities = entities;
    this.viewer = viewer;
    this.clock = clock;
  }

  /**
   * A view.
   *
   * @param page the path of the page, such as {@code /people}
   * @param name what its owner calls it; each once for a page
   * @param query the address after the question mark
   */
  record SavedView(
      @NotNull @Pattern(regexp = "/[a-z/-]{0,60}", message = "must be the path of a page")
          String page,
      @NotBlank @Size(max = 80) String name,
      @NotNull @Size(max = 2000) String query) {}

  @GetMapping
  @Transactional(readOnly = true)
  public List<SavedView> views() {
    return of(me());
  }

  private String me() {
    return viewer.session().principal().value();
  }

  @SuppressWarnings("unchecked") // three columns: text
  private List<SavedView> of(String owner) {
    List<Object[]> rows =
        entities
            .createNativeQuery(
                "select page, name, query from saved_view where owner = :owner"
                    + " order by page, lower(name)")
            .setParameter("owner", owner)
            .getResultList();
    return rows.stream()
        .map(row -> new SavedView((String) row[0], (String) row[1], (String) row[2]))
        .toList();
  }

  /** Keeps a view; one of the same page and name is replaced. */
  @PutMapping
  @Transactional
  public List<SavedView> keep(@Valid @RequestBody SavedView view) {
    String owner = me();
    String name = view.name().strip();
    List<SavedView> known = of(owner);
    if (known.size() >= MOST
        && known.stream()
            .noneMatch(it -> it.page().equals(view.page()) && it.name().equals(name))) {
      throw Problem.conflict(
          "Too many saved views", "A person keeps at most " + MOST + ". Remove one of them first.");
    }
    entities
        .createNativeQuery(
            """
            insert into saved_view (owner, page, name, query, at)
            values (:owner, :page, :name, :query, :now)
            on conflict (owner, page, name) do update set query = :query, at = :now
            """)
        .setParameter("owner", owner)
        .setParameter("page", view.page())
        .setParameter("name", name)
        .setParameter("query", view.query())
        .setParameter("now", clock.instant())
        .executeUpdate();
    return of(owner);
  }

  /** Forgets a view; none of that name is no error. */
  @DeleteMapping
  @Transactional
  public List<SavedView> forget(@RequestParam String page, @RequestParam String name) {
    String owner = me();
    entities
        .createNativeQuery(
            "delete from saved_view where owner = :owner and page = :page and name = :name")
        .setParameter("owner", owner)
        .setParameter("page", page)
        .setParameter("name", name)
        .executeUpdate();
    return of(owner);
  }
}
