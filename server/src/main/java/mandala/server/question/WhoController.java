package mandala.server.question;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.engine.Engine;
import mandala.core.explain.Route;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.question.Question;
import mandala.core.question.WhoQuestion;
import mandala.document.ChangeText;
import mandala.document.RouteText;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.ExportTable;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Who can do this there? People for themselves and for others, those denied apart. */
@RestController
@RequestMapping("/api/ask/who")
class WhoController {

  /** Of so many people at most the routes are looked at one by one. */
  static final int MOST_TRACED = 500;

  private final RequestContexts contexts;
  private final QuestionAudit asking;

  WhoController(RequestContexts contexts, QuestionAudit asking) {
    this.contexts = contexts;
    this.asking = asking;
  }

  /**
   * Who can.
   *
   * @param pairs how many pairs of permission and place were asked about
   * @param anonymous whether anybody can without signing in
   * @param allowed who can for themselves, those with most first
   * @param blocked who is granted it and lacks a gate
   * @param denied who is denied it
   * @param delegates who can for another
   * @param could who cannot now, and how they could
   * @param routes who can, by what gives it; told where one permission and one place are asked
   *     about, and no more than {@value #MOST_TRACED} can
   * @param elsewhere whether there are others, whom the viewer may not see
   */
  record WhoAnswer(
      String what,
      String where,
      Instant at,
      boolean secondFactor,
      long pairs,
      boolean anonymous,
      List<WhoHolder> allowed,
      List<WhoHolder> blocked,
      List<WhoHolder> denied,
      List<WhoDelegate> delegates,
      List<WhoCould> could,
      List<WhoRoute> routes,
      boolean elsewhere) {}

  /**
   * What gives it, and to whom; who has it by several routes stands in each.
   *
   * @param subject to whom it is given, {@code said} what and where
   * @param source key of the assignment or bridge
   */
  record WhoRoute(String subject, String source, String said, List<String> people) {}

  /** Somebody; {@code rights} of the pairs that were asked about. */
  record WhoHolder(
      String key, String name, String kind, @Nullable String title, String account, long rights) {}

  /** Who acts, and for whom. */
  record WhoDelegate(String actor, String actorName, String actedFor, String actedForName) {}

  /**
   * Who could.
   *
   * @param how {@code second-factor}, or {@code switching-on}
   */
  record WhoCould(WhoHolder holder, String how) {}

  @GetMapping
  WhoAnswer who(
      @RequestParam(required = false) @Nullable List<String> permission,
      @RequestParam(required = false) @Nullable String accessClass,
      @RequestParam(required = false) @Nullable String risk,
      @RequestParam(required = false) @Nullable String on,
      @RequestParam(required = false) @Nullable String below,
      @RequestParam(required = false) @Nullable String collection,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(defaultValue = "true") boolean secondFactor,
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(required = false) @Nullable Long revision) {
    RequestContext context = contexts.context(draft, revision);
    Engine engine = context.asked().engine();
    Catalogue catalogue = engine.catalogue();
    HoldersQuestion read =
        HoldersQuestion.of(
            permission,
            accessClass,
            risk,
            HoldersQuestion.where(on, below, collection, context),
            catalogue,
            context.naming());
    Instant when = at == null ? context.readPolicy().now() : at;
    WhoQuestion question = new WhoQuestion(read.permissions(), read.where(), when, secondFactor);
    WhoQuestion.Answer answer = engine.whoCan(question);
    asking.everybody(read.accounts(catalogue), "Who can " + read.what() + ": " + read.place());
    return view(read, question, answer, could(engine, question, answer), context);
  }

  /** The same as a file. */
  @GetMapping("/export")
  void export(
      @RequestParam(required = false) @Nullable List<String> permission,
      @RequestParam(required = false) @Nullable String accessClass,
      @RequestParam(required = false) @Nullable String risk,
      @RequestParam(required = false) @Nullable String on,
      @RequestParam(required = false) @Nullable String below,
      @RequestParam(required = false) @Nullable String collection,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(defaultValue = "true") boolean secondFactor,
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(required = false) @Nullable Long revision,
      @RequestParam String format,
      HttpServletResponse response)
      throws IOException {
    WhoAnswer answer =
        who(
            permission,
            accessClass,
            risk,
            on,
            below,
            collection,
            at,
            secondFactor,
            draft,
            revision);
    List<List<Object>> rows = new ArrayList<>();
    answer.allowed().forEach(it -> rows.add(row("can" + by(it, answer.routes()), it)));
    answer
        .delegates()
        .forEach(it ->
            rows.add(
                List.of(
                    "can, acting for " + it.actedForName(),
                    it.actor(),
                    it.actorName(),
                    "",
                    "",
                    0)));
    answer.could().forEach(it -> rows.add(row("could: " + it.how(), it.holder())));
    answer.blocked().forEach(it -> rows.add(row("lacks a gate", it)));
    answer.denied().forEach(it -> rows.add(row("is denied", it)));
    new ExportTable("who-can", List.of("how", "key", "name", "title", "account", "of pairs"), rows)
        .send(format, response);
  }

  private static String by(WhoHolder it, List<WhoRoute> routes) {
    String by =
        routes.stream()
            .filter(route -> route.people().contains(it.key()))
            .map(route -> route.subject() + ", " + route.said())
            .collect(Collectors.joining("; "));
    return by.isEmpty() ? "" : ", by " + by;
  }

  private static List<Object> row(String how, WhoHolder it) {
    String title = it.title();
    return List.of(
        how, it.key(), it.name(), title == null ? it.kind() : title, it.account(), it.rights());
  }

  private WhoAnswer view(
      HoldersQuestion read,
      WhoQuestion question,
      WhoQuestion.Answer answer,
      List<Possible> could,
      RequestContext context) {
    Catalogue catalogue = context.asked().engine().catalogue();
    Shown shown = new Shown(context);
    List<WhoHolder> allowed = new ArrayList<>();
    answer.allowed().forEach(it -> shown.add(it.principal(), it.rights(), allowed));
    List<WhoHolder> blocked = new ArrayList<>();
    answer.blocked().forEach(it -> shown.add(it, 0, blocked));
    List<WhoHolder> denied = new ArrayList<>();
    answer.denied().forEach(it -> shown.add(it, 0, denied));
    List<WhoDelegate> delegates = new ArrayList<>();
    for (WhoQuestion.Delegate it : answer.delegates()) {
      Principal actor = catalogue.principals().get(it.actor());
      Principal whom = catalogue.principals().get(it.actedFor());
      if (actor == null || whom == null || !shown.may(actor) || !shown.may(whom)) {
        shown.hidden = true;
      } else {
        delegates.add(
            new WhoDelegate(
                actor.key().value(),
                actor.about().nameOr(actor.key()),
                whom.key().value(),
                whom.about().nameOr(whom.key())));
      }
    }
    List<WhoCould> possible = new ArrayList<>();
    for (Possible it : could) {
      List<WhoHolder> one = new ArrayList<>();
      shown.add(it.holder().principal(), it.holder().rights(), one);
      one.forEach(holder -> possible.add(new WhoCould(holder, it.how())));
    }
    return new WhoAnswer(
        read.what(),
        read.place(),
        question.at(),
        question.mfa(),
        answer.pairs(),
        answer.anonymous(),
        allowed,
        blocked,
        denied,
        delegates,
        possible,
        routes(question, allowed, context),
        shown.hidden);
  }

  /** Makes views of whom the viewer may see, and counts the others. */
  private static final class Shown {
    private final Catalogue catalogue;
    private final ReadPolicy readPolicy;
    private final ChangeText text;
    private boolean hidden;

    Shown(RequestContext context) {
      this.catalogue = context.asked().engine().catalogue();
      this.readPolicy = context.readPolicy();
      this.text = context.text();
    }

    boolean may(Principal it) {
      return readPolicy.mayRead(it);
    }

    void add(Key.Principal key, long rights, List<WhoHolder> into) {
      Principal it = catalogue.principals().get(key);
      if (it == null || !may(it)) {
        hidden = true;
        return;
      }
      into.add(
          new WhoHolder(
              key.value(),
              it.about().nameOr(key),
              FigureView.word(it.kind()),
              it.attributes().get("title"),
              text.name(Kind.ACCOUNTS, it.account().value()),
              rights));
    }
  }

  /** People by what gives it to them: by the most people first, then by key. */
  private static List<WhoRoute> routes(
      WhoQuestion question, List<WhoHolder> allowed, RequestContext context) {
    if (!(question.where() instanceof WhoQuestion.Where.On(Key.Resource place))
        || question.permissions().size() > 1
        || allowed.size() > MOST_TRACED) {
      return List.of();
    }
    Key.Permission permission = question.permissions().iterator().next();
    RouteText text = context.routes();
    Map<List<String>, List<String>> people = new LinkedHashMap<>();
    for (WhoHolder it : allowed) {
      Question one =
          new Question(
              new Key.Principal(it.key()), permission, place, question.at(), question.mfa(), null);
      context.asked().routes().explain(one).live().stream()
          .map(route -> named(route, text))
          .distinct()
          .forEach(route -> people.computeIfAbsent(route, _ -> new ArrayList<>()).add(it.key()));
    }
    return people.entrySet().stream()
        .map(it ->
            new WhoRoute(it.getKey().get(0), it.getKey().get(1), it.getKey().get(2), it.getValue()))
        .sorted(
            Comparator.comparingInt((WhoRoute it) -> -it.people().size())
                .thenComparing(WhoRoute::source))
        .toList();
  }

  /** Subject, source, and what and where in words. */
  private static List<String> named(Route route, RouteText text) {
    List<RouteText.Told> steps = text.steps(route);
    int subject = route.subjectPath().size() - 1;
    RouteText.Told source = steps.get(subject + 1);
    String what = steps.get(subject + 2).name();
    String where = steps.getLast().name() + " (" + steps.getLast().remark() + ")";
    return List.of(
        subject < 0 ? "Everybody" : steps.get(subject).name(), source.key(), what + " on " + where);
  }

  private record Possible(WhoQuestion.Holder holder, String how) {}

  /** Who cannot now, but could by a second factor, or by switching on what is just-in-time. */
  private static List<Possible> could(
      Engine engine, WhoQuestion question, WhoQuestion.Answer answer) {
    Set<Key.Principal> known = new HashSet<>();
    answer.allowed().forEach(it -> known.add(it.principal()));
    List<Possible> could = new ArrayList<>();
    if (!question.mfa()) {
      WhoQuestion with =
          new WhoQuestion(question.permissions(), question.where(), question.at(), true);
      engine.whoCan(with).allowed().stream()
          .filter(it -> known.add(it.principal()))
          .forEach(it -> could.add(new Possible(it, "second-factor")));
    }
    WhoQuestion with =
        new WhoQuestion(question.permissions(), question.where(), question.at(), true);
    engine.switchedOn().whoCan(with).allowed().stream()
        .filter(it -> known.add(it.principal()))
        .forEach(it -> could.add(new Possible(it, "switching-on")));
    return could;
  }
}
