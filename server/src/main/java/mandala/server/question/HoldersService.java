package mandala.server.question;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.engine.Engine;
import mandala.core.explain.Route;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Question;
import mandala.core.question.WhoQuestion;
import mandala.document.ChangeText;
import mandala.document.RouteText;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import org.springframework.stereotype.Component;

/** Answers who can do something, and notes that it was asked. */
@Component
class HoldersService {

  /** Maximum number of holders whose routes are looked up one by one. */
  static final int MOST_TRACED = 500;

  private final QuestionAudit audit;

  HoldersService(QuestionAudit audit) {
    this.audit = audit;
  }

  /**
   * {@return who can}, as far as the viewer may see them
   *
   * @throws mandala.server.platform.Problem if something is unknown, or the viewer may not ask
   *     there
   */
  WhoAnswer answer(HoldersParams params, RequestContext context) {
    Engine engine = context.asked().engine();
    Catalogue catalogue = engine.catalogue();
    HoldersQuestion read = params.in(context);
    WhoQuestion question =
        new WhoQuestion(
            read.permissions(),
            read.where(),
            context.instantOrNow(params.at()),
            params.showsSecondFactor());
    WhoQuestion.Answer answer = engine.whoCan(question);
    audit.everybody(read.accounts(catalogue), "Who can " + read.what() + ": " + read.place());
    return view(read, question, answer, could(engine, question, answer), context);
  }

  private WhoAnswer view(
      HoldersQuestion read,
      WhoQuestion question,
      WhoQuestion.Answer answer,
      List<Possible> could,
      RequestContext context) {
    Catalogue catalogue = context.asked().engine().catalogue();
    Shown shown = new Shown(context);
    List<WhoAnswer.WhoHolder> allowed = new ArrayList<>();
    answer.allowed().forEach(it -> shown.add(it.principal(), it.rights(), allowed));
    List<WhoAnswer.WhoHolder> blocked = new ArrayList<>();
    answer.blocked().forEach(it -> shown.add(it, 0, blocked));
    List<WhoAnswer.WhoHolder> denied = new ArrayList<>();
    answer.denied().forEach(it -> shown.add(it, 0, denied));
    List<WhoAnswer.WhoDelegate> delegates = new ArrayList<>();
    for (WhoQuestion.Delegate it : answer.delegates()) {
      Principal actor = catalogue.principals().get(it.actor());
      Principal whom = catalogue.principals().get(it.actedFor());
      if (actor == null || whom == null || !shown.may(actor) || !shown.may(whom)) {
        shown.hidden = true;
      } else {
        delegates.add(
            new WhoAnswer.WhoDelegate(
                actor.key().value(),
                actor.about().nameOr(actor.key()),
                whom.key().value(),
                whom.about().nameOr(whom.key())));
      }
    }
    List<WhoAnswer.WhoCould> possible = new ArrayList<>();
    for (Possible it : could) {
      List<WhoAnswer.WhoHolder> one = new ArrayList<>();
      shown.add(it.holder().principal(), it.holder().rights(), one);
      one.forEach(holder -> possible.add(new WhoAnswer.WhoCould(holder, it.how())));
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

    void add(PrincipalKey key, long rights, List<WhoAnswer.WhoHolder> into) {
      Principal it = catalogue.principals().get(key);
      if (it == null || !may(it)) {
        hidden = true;
        return;
      }
      into.add(
          new WhoAnswer.WhoHolder(
              key.value(),
              it.about().nameOr(key),
              FigureView.word(it.kind()),
              it.attributes().get("title"),
              text.name(Kind.ACCOUNTS, it.account().value()),
              rights));
    }
  }

  /** People by what gives it to them: by the most people first, then by key. */
  private static List<WhoAnswer.WhoRoute> routes(
      WhoQuestion question, List<WhoAnswer.WhoHolder> allowed, RequestContext context) {
    if (!(question.where() instanceof WhoQuestion.Where.On(ResourceKey place))
        || question.permissions().size() > 1
        || allowed.size() > MOST_TRACED) {
      return List.of();
    }
    PermissionKey permission = question.permissions().iterator().next();
    RouteText text = context.routes();
    Map<List<String>, List<String>> people = new LinkedHashMap<>();
    for (WhoAnswer.WhoHolder it : allowed) {
      Question one =
          new Question(
              new PrincipalKey(it.key()), permission, place, question.at(), question.mfa(), null);
      context.asked().routes().explain(one).live().stream()
          .map(route -> named(route, text))
          .distinct()
          .forEach(route -> people.computeIfAbsent(route, _ -> new ArrayList<>()).add(it.key()));
    }
    return people.entrySet().stream()
        .map(it ->
            new WhoAnswer.WhoRoute(
                it.getKey().get(0), it.getKey().get(1), it.getKey().get(2), it.getValue()))
        .sorted(
            Comparator.comparingInt((WhoAnswer.WhoRoute it) -> -it.people().size())
                .thenComparing(WhoAnswer.WhoRoute::source))
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
    Set<PrincipalKey> known = new HashSet<>();
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
