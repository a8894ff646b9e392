package mandala.server.catalog;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.document.ThingDocument;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Problem;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Lists of things of one kind, as far as the viewer may read them, with a draft laid over. */
@RestController
@RequestMapping("/api/things")
class ThingsController {

  private static final int MOST = 1_000;

  private final RequestContexts contexts;

  ThingsController(RequestContexts contexts) {
    this.contexts = contexts;
  }

  /**
   * A stretch of a list.
   *
   * @param total how many fit
   */
  record ThingList(int total, List<ThingView> things) {}

  @GetMapping("/{kind}")
  ThingList list(
      @PathVariable String kind,
      @ParameterObject ThingFilter filter,
      @RequestParam(defaultValue = "0") int offset,
      @RequestParam(defaultValue = "200") int limit) {
    Kind of = kind(kind);
    if (offset < 0 || limit < 1 || limit > MOST) {
      throw Problem.badRequest(
          "Invalid page range",
          "Give an 'offset' of 0 or more and a 'limit' from 1 to " + MOST + ".");
    }
    RequestContext context = contexts.context(filter.draft(), null);
    Catalogue live = context.state().engine().catalogue();
    Catalogue asked = context.asked().engine().catalogue();
    List<Thing> fitting = new ArrayList<>();
    for (Thing thing : things(of, asked)) {
      if (context.readPolicy().mayRead(thing, asked)) {
        fitting.add(thing);
      }
    }
    if (!live.equals(asked)) {
      for (Thing thing : things(of, live)) {
        if (thing.key() != null
            && asked.find(thing) == null
            && !isSupplied(thing)
            && context.readPolicy().mayRead(thing, live)) {
          fitting.add(thing);
        }
      }
    }
    NameSearch wanted = filter.search();
    List<ThingView> views =
        fitting.stream()
            .map(thing -> ThingView.of(thing, context))
            .filter(view -> filter.fits(view))
            .sorted(
                Comparator.comparingInt((ThingView view) -> rank(view, wanted))
                    .thenComparing((ThingView view) -> view.name().toLowerCase(Locale.ROOT))
                    .thenComparing(view -> String.valueOf(view.key())))
            .toList();
    return new ThingList(views.size(), views.stream().skip(offset).limit(limit).toList());
  }

  private static int rank(ThingView view, NameSearch wanted) {
    return wanted.rank(view.key() == null ? "" : view.key(), view.name(), "");
  }

  private static boolean isSupplied(Thing thing) {
    return thing.key() != null
        && thing.key().value().startsWith(mandala.core.model.Supplied.PREFIX);
  }

  /** All of a kind; of permissions, sets and roles the supplied ones too. */
  private static Collection<? extends Thing> things(Kind kind, Catalogue in) {
    return switch (kind) {
      case PERMISSIONS -> in.permissions().values();
      case PERMISSION_SETS -> in.sets().values();
      case ROLES -> in.roles().values();
      default -> in.model().things(kind);
    };
  }

  static Kind kind(String field) {
    Kind kind = ThingDocument.kind(field);
    if (kind == null) {
      throw Problem.notFound("There is no kind of thing called '" + field + "'.");
    }
    return kind;
  }
}
