package mandala.server.lifecycle;

import io.swagger.v3.oas.annotations.media.Schema;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import mandala.core.analysis.Peers;
import mandala.core.engine.Engine;
import mandala.core.lifecycle.ColleagueCopy;
import mandala.core.lifecycle.Fate;
import mandala.core.lifecycle.Parting;
import mandala.core.lifecycle.PeerShare;
import mandala.core.lifecycle.PersonMove;
import mandala.core.lifecycle.Tie;
import mandala.core.lifecycle.TieAccounts;
import mandala.core.lifecycle.Ties;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Window;
import mandala.core.model.key.Key;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Costly;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What ties somebody to the model, and what usually becomes of it in an act. */
@RestController
@RequestMapping("/api/people/{key}")
class TieController {

  private final RequestContexts contexts;

  TieController(RequestContexts contexts) {
    this.contexts = contexts;
  }

  /**
   * How many colleagues have the same.
   *
   * @param have of those whom the viewer may read
   */
  record ShareView(int have, int of) {
    static ShareView of(PeerShare it) {
      return new ShareView(it.have(), it.of());
    }
  }

  /**
   * One thing that ties somebody to the model.
   *
   * @param text it in a few words
   * @param thing the kind of the thing that says it, as a document names its array
   * @param of its key; absent where it has none
   * @param colleagues how many of their colleagues have it
   * @param later how many of their colleagues after a move have it
   * @param exception why they have it by exception: a copy leaves it out unless chosen
   * @param usually what becomes of it unless somebody chooses otherwise
   * @param cannot why the viewer may not change it, absent where they may
   */
  record TieView(
      String id,
      @Schema(allowableValues = {"access", "duty", "delegation", "statement"}) String sort,
      String text,
      String thing,
      @Nullable String of,
      @Nullable String accountName,
      @Nullable Instant until,
      ShareView colleagues,
      @Nullable ShareView later,
      @Nullable String exception,
      @Schema(allowableValues = {"keep", "end", "until"}) String usually,
      @Nullable String cannot) {}

  /** A group that most of the new colleagues are in. */
  record GroupToJoin(String key, String name, ShareView colleagues) {}

  /**
   * What ties somebody to the model.
   *
   * @param elsewhere whether they have more where the viewer may not read
   * @param groups that most colleagues after a move are in
   */
  record TieList(String name, List<TieView> ties, boolean elsewhere, List<GroupToJoin> groups) {}

  /**
   * For which act.
   *
   * @param act by which a fate is usual for each tie
   * @param account of a move: the home account afterwards; as it is where absent
   * @param unit of a move: the unit afterwards, none where absent
   * @param title of a move: the job afterwards, none where absent
   * @param grace of a move: whether there is a grace time
   */
  record TieQuestion(
      @Schema(allowableValues = {"copy", "move", "part"}) @Nullable String act,
      @Nullable String account,
      @Nullable String unit,
      @Nullable String title,
      @Nullable Boolean grace) {}

  /** What ties somebody to the model, as far as the viewer may read it. */
  @Costly
  @GetMapping("/ties")
  TieList ties(@PathVariable String key, @ParameterObject TieQuestion question) {
    RequestContext context = contexts.context();
    Engine engine = context.state().engine();
    Catalogue catalogue = engine.catalogue();
    People people = new People(context);
    Principal whose = people.require(key, catalogue);
    Instant at = context.readPolicy().now();
    Ties ties = people.ties(catalogue, whose);
    Peers peers = people.peers(engine, whose, at);
    PersonMove move = move(question, whose, at, people, catalogue);
    Peers later = move == null ? null : people.peers(engine, move.moved(whose), at);
    TieText text = new TieText(context, catalogue);
    List<TieView> views = new ArrayList<>();
    for (Tie it : ties.all()) {
      PeerShare share = PeerShare.of(engine, peers, it, at);
      PeerShare then = later == null ? null : PeerShare.of(engine, later, it, at);
      Fate fate =
          move != null && then != null
              ? move.usual(catalogue, whose, it, share, then)
              : "part".equals(question.act()) ? Parting.usual() : new Fate.Keep();
      views.add(view(it, text, catalogue, share, then, fate, context));
    }
    return new TieList(
        whose.about().nameOr(whose.key()),
        views,
        ties.byId().size() < Ties.of(catalogue, whose).byId().size(),
        later == null ? List.of() : joins(engine, later, whose, context));
  }

  private static @Nullable PersonMove move(
      TieQuestion question, Principal whose, Instant at, People people, Catalogue catalogue) {
    if (!"move".equals(question.act())) {
      return null;
    }
    String account = question.account();
    String unit = question.unit();
    String title = question.title();
    return people.move(
        catalogue,
        new MoveOrder(
            account == null || account.isBlank() ? whose.account().value() : account,
            unit == null || unit.isBlank() ? null : unit,
            null,
            title == null || title.isBlank() ? null : title,
            null,
            Boolean.TRUE.equals(question.grace()) ? at.plusSeconds(1) : null,
            Map.of(),
            List.of()));
  }

  private static TieView view(
      Tie it,
      TieText text,
      Catalogue catalogue,
      PeerShare share,
      @Nullable PeerShare later,
      Fate usual,
      RequestContext context) {
    Key of = it.thing().key();
    Window window = it.window();
    return new TieView(
        it.id(),
        word(it.sort()),
        text.of(it),
        Kind.of(it.thing()).field(),
        of == null ? null : of.value(),
        text.account(
            TieAccounts.of(catalogue, it).stream().map(Key::value).collect(Collectors.toSet())),
        window == null ? null : window.until(),
        ShareView.of(share),
        later == null ? null : ShareView.of(later),
        TieText.of(ColleagueCopy.exception(it, share)),
        switch (usual) {
          case Fate.End _ -> "end";
          case Fate.KeepUntil _ -> "until";
          case Fate.Keep _, Fate.HandTo _ -> "keep";
        },
        context.cannotChange(it.thing()));
  }

  private static String word(Enum<?> it) {
    return it.name().toLowerCase(Locale.ROOT);
  }

  private static List<GroupToJoin> joins(
      Engine engine, Peers later, Principal whose, RequestContext context) {
    List<GroupToJoin> all = new ArrayList<>();
    for (Group it : engine.catalogue().groups().values()) {
      if (it.retired()
          || it.lists(whose)
          || !context.readPolicy().mayRead(it, engine.catalogue())) {
        continue;
      }
      int listed =
          (int)
              later.people().stream()
                  .map(engine.catalogue().principals()::get)
                  .filter(peer -> peer != null && it.lists(peer))
                  .count();
      if (2 * listed > later.people().size()) {
        all.add(
            new GroupToJoin(
                it.key().value(),
                it.about().nameOr(it.key()),
                new ShareView(listed, later.people().size())));
      }
    }
    return all;
  }
}
