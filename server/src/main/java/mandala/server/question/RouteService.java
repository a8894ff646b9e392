package mandala.server.question;

import java.util.List;
import mandala.core.explain.Explanation;
import mandala.core.explain.Route;
import mandala.core.model.Catalogue;
import mandala.core.model.Permission;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Question;
import mandala.core.question.Session;
import mandala.core.question.Verdict;
import mandala.document.Naming;
import mandala.document.RouteText;
import mandala.server.authorization.Visibility;
import mandala.server.platform.Problem;
import mandala.server.question.AccessAnswer.Named;
import org.springframework.stereotype.Component;

/** Answers why somebody can or can't do something, and notes that it was asked. */
@Component
class RouteService {

  /** Maximum number of routes shown that do not count. */
  private static final int MOST_NEAR = 20;

  private final QuestionAudit audit;

  RouteService(QuestionAudit audit) {
    this.audit = audit;
  }

  /**
   * {@return the routes to a right, and those that would give it but do not}
   *
   * @throws Problem if the viewer may not ask about it there, or the permission does not apply
   */
  RoutesAnswer answer(AccessQuestion accessQuestion, RightParams right) {
    Catalogue catalogue = accessQuestion.catalogue();
    Naming naming = accessQuestion.naming(accessQuestion.held().access());
    ResourceKey where = right.where();
    AccountKey account = accessQuestion.askableAccount(where, naming);
    Permission what = Visibility.permission(right.permission(), catalogue, naming);
    if (account == null || what == null) {
      throw Problem.notFound(
          "There is no '"
              + (what == null ? right.permission() : right.resource())
              + "' to ask about here.");
    }
    Named permission = new Named(what.key().value(), what.about().nameOr(what.key()));
    Named resource = new Named(where.value(), catalogue.nameOf(where));
    audit.about(
        accessQuestion.context(),
        accessQuestion.asked().principal(),
        "Why, or why not: " + what.key() + " on " + where,
        account);
    String absence = accessQuestion.absence();
    if (absence != null) {
      return new RoutesAnswer(
          absence,
          Named.of(accessQuestion.asked().principal()),
          permission,
          resource,
          Named.ofNullable(accessQuestion.asked().actingFor()),
          List.of(),
          List.of(),
          0);
    }
    Session session = accessQuestion.sessionFor(what.key(), where);
    Question question = session.asks(what.key(), where);
    Verdict verdict = accessQuestion.engine().decide(question).verdict();
    if (verdict == Verdict.NOT_APPLICABLE) {
      throw Problem.badRequest(
          "Nothing to explain",
          "'" + permission.name() + "' is not an action on such a resource. Choose one that is.");
    }
    boolean readable = accessQuestion.context().readPolicy().mayRead(account);
    Explanation explanation = accessQuestion.routes().explain(question);
    RouteText text = new RouteText(catalogue, naming);
    List<Route> near = readable ? explanation.near() : withSubject(explanation.near());
    return new RoutesAnswer(
        verdict.word(),
        Named.of(accessQuestion.asked().principal()),
        permission,
        resource,
        session.actingFor() == null
            ? null
            : Named.ofNullable(catalogue.principals().get(session.actingFor())),
        views(explanation.live(), text, naming),
        views(near.stream().limit(MOST_NEAR).toList(), text, naming),
        readable ? Math.max(0, near.size() - MOST_NEAR) + explanation.more() : 0);
  }

  private static List<RoutesAnswer.RouteView> views(
      List<Route> routes, RouteText text, Naming naming) {
    return routes.stream().map(it -> RoutesAnswer.RouteView.of(it, text, naming)).toList();
  }

  /** In accounts that the viewer may not read: routes of which the person has the subject. */
  private static List<Route> withSubject(List<Route> routes) {
    return routes.stream().filter(route -> !route.subjectPath().isEmpty()).toList();
  }
}
