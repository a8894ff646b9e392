package mandala.server.lifecycle;

import java.util.List;
import java.util.function.LongSupplier;
import java.util.stream.Stream;
import mandala.core.lifecycle.WatchRule.Hit;
import mandala.core.model.Kind;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Rules that watch, of whoever may manage people in their account. Who changes one is its owner
 * from then on: it acts with their rights.
 */
@Service
class WatchDesk {

  private static final int MOST_SHOWN = 200;

  private final WatchRules rules;
  private final WatchLook look;
  private final WatchRun run;
  private final Trail trail;
  private final AuditContext auditContext;
  private final TransactionTemplate transactions;

  WatchDesk(
      WatchRules rules,
      WatchLook look,
      WatchRun run,
      Trail trail,
      AuditContext auditContext,
      TransactionTemplate transactions) {
    this.rules = rules;
    this.look = look;
    this.run = run;
    this.trail = trail;
    this.auditContext = auditContext;
    this.transactions = transactions;
  }

  private static void requireManage(WatchOrder order, RequestContext context) {
    ManagedAccounts.requireManage(order.account(), context);
    String group = order.group();
    if (group != null && !group.isBlank()) {
      context.known(Kind.GROUPS, group);
    }
    Integer warnAfter = order.warnAfter();
    if (warnAfter != null && warnAfter >= order.after()) {
      throw Problem.badRequest(
          "The warning comes too late",
          "Choose fewer than " + order.after() + " days for the warning.");
    }
  }

  /** {@return the rules of accounts in which the viewer may manage people}, the oldest first */
  List<WatchController.WatchRuleView> list(RequestContext context) {
    return rules.all().stream()
        .filter(it -> ManagedAccounts.mayManage(it.order().account(), context))
        .map(it -> view(it, context))
        .toList();
  }

  private WatchController.WatchRuleView view(WatchRules.Kept it, RequestContext context) {
    WatchOrder order = it.order();
    String group = order.group() == null || order.group().isBlank() ? null : order.group();
    boolean told = group == null || context.naming().tells(Kind.GROUPS, group);
    return new WatchController.WatchRuleView(
        it.number(),
        told ? order : order.withoutGroup(),
        context.text().name(Kind.ACCOUNTS, order.account()),
        group == null ? null : context.text().name(Kind.GROUPS, group),
        context.text().name(Kind.PRINCIPALS, it.owner()),
        it.madeAt(),
        it.heldUp(),
        it.owner().equals(context.readPolicy().viewer().value()) ? it.draft() : null,
        rules.done(it.number()).stream()
            .map(done ->
                new WatchController.WatchActView(
                    done.at(), done.act(), done.people(), done.revision()))
            .toList());
  }

  private WatchRules.Kept require(long number, RequestContext context) {
    return rules
        .locked(number)
        .filter(it -> ManagedAccounts.mayManage(it.order().account(), context))
        .orElseThrow(
            () -> Problem.notFound("There is no rule " + number + ". Choose one from the list."));
  }

  /**
   * {@return what a rule would do today}
   *
   * @throws Problem if the viewer may not manage people in its account, or it names what is not
   *     there
   */
  WatchController.WatchPreview preview(WatchOrder order, RequestContext context) {
    requireManage(order, context);
    WatchLook.Found found = look.found(null, order.rule(), context.readPolicy().now(), context);
    return new WatchController.WatchPreview(
        found.acting().size(),
        found.toWarn().size(),
        found.waiting().size(),
        Stream.of(
                views(found.acting(), "acts", context),
                views(found.toWarn(), "warns", context),
                views(found.waiting(), "waits", context))
            .flatMap(it -> it)
            .limit(MOST_SHOWN)
            .toList());
  }

  private static Stream<WatchController.WatchedView> views(
      List<Hit> hits, String what, RequestContext context) {
    return hits.stream()
        .map(it ->
            new WatchController.WatchedView(
                it.who().key().value(),
                it.who().about().nameOr(it.who().key()),
                context.text().name(Kind.ACCOUNTS, it.who().account().value()),
                it.since(),
                what));
  }

  /** Makes a rule, which looks from now on. */
  WatchController.WatchRuleView add(WatchOrder order, RequestContext context) {
    requireManage(order, context);
    return done(
        context,
        () -> {
          long number = rules.add(order, me(context), context.readPolicy().now());
          note("Made", order);
          return number;
        });
  }

  /** Changes a rule. */
  WatchController.WatchRuleView change(long number, WatchOrder order, RequestContext context) {
    requireManage(order, context);
    return done(
        context,
        () -> {
          require(number, context);
          rules.change(number, order, me(context));
          note("Changed", order);
          return number;
        });
  }

  /** Ends a rule. */
  void end(long number, RequestContext context) {
    transactions.executeWithoutResult(_ -> {
      WatchRules.Kept it = require(number, context);
      rules.end(number, context.readPolicy().now());
      note("Ended", it.order());
    });
  }

  /** Has a rule look now, with the rights of its owner. */
  WatchController.WatchRuleView look(long number, RequestContext context) {
    WatchRules.Kept it = transactions.execute(_ -> require(number, context));
    if (it != null) {
      run.look(it);
    }
    return done(context, () -> number);
  }

  private WatchController.WatchRuleView done(RequestContext context, LongSupplier act) {
    WatchController.WatchRuleView view =
        transactions.execute(_ -> view(require(act.getAsLong(), context), context));
    if (view == null) {
      throw new IllegalStateException("Impossible state: no rule after it was written");
    }
    return view;
  }

  private static String me(RequestContext context) {
    return context.readPolicy().viewer().value();
  }

  private void note(String did, WatchOrder order) {
    trail.write(
        List.of(
            auditContext.by(
                AuditEvent.Act.CHANGED,
                List.of(order.account()),
                did + " the rule “" + order.title() + "”")));
  }
}
