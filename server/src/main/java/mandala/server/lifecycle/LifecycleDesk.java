package mandala.server.lifecycle;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.engine.Engine;
import mandala.core.lifecycle.ColleagueCopy;
import mandala.core.lifecycle.ComingBack;
import mandala.core.lifecycle.Fate;
import mandala.core.lifecycle.Loan;
import mandala.core.lifecycle.Parting;
import mandala.core.lifecycle.PersonMerge;
import mandala.core.lifecycle.PersonMove;
import mandala.core.lifecycle.SharedSplit;
import mandala.core.lifecycle.Tie;
import mandala.core.lifecycle.TieAccounts;
import mandala.core.lifecycle.Ties;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.UnitKey;
import mandala.core.present.Access;
import mandala.core.question.Extent;
import mandala.core.question.Session;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.draft.OpenDraftChanges;
import mandala.server.draft.UnattendedDrafts;
import mandala.server.model.History;
import mandala.server.platform.Problem;
import mandala.server.question.FigureView;
import mandala.server.session.CurrentPrincipal;
import mandala.server.session.OpenSessions;
import mandala.server.session.SignIn;
import mandala.server.token.Tokens;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Does what is ordered of people: puts it into drafts, plans it, or ends all at once. */
@Service
class LifecycleDesk {

  private final OpenDraftChanges drafts;
  private final UnattendedDrafts unattended;
  private final PlannedActs planned;
  private final OpenSessions sessions;
  private final Tokens tokens;
  private final SignIn signIn;
  private final CurrentPrincipal viewer;
  private final History history;

  LifecycleDesk(
      OpenDraftChanges drafts,
      UnattendedDrafts unattended,
      PlannedActs planned,
      OpenSessions sessions,
      Tokens tokens,
      SignIn signIn,
      CurrentPrincipal viewer,
      History history) {
    this.drafts = drafts;
    this.unattended = unattended;
    this.planned = planned;
    this.sessions = sessions;
    this.tokens = tokens;
    this.signIn = signIn;
    this.viewer = viewer;
    this.history = history;
  }

  LifecycleController.ActView copy(
      String key, Newcomer newcomer, List<String> ties, RequestContext context) {
    People people = new People(context);
    people.require(key, context.state().engine().catalogue());
    String[] made = {""};
    String draft =
        drafts.put(
            context,
            now -> {
              Principal colleague = people.require(key, now);
              Principal fresh = fresh(newcomer, colleague, now, context);
              made[0] = fresh.key().value();
              return ColleagueCopy.of(now, people.ties(now, colleague), fresh, ties);
            });
    return new LifecycleController.ActView(draft, made[0], null);
  }

  /**
   * {@return a new principal that names nothing which its author may not read}: what they chose is
   * refused then, what comes from the colleague is left out
   */
  private static Principal fresh(
      Newcomer newcomer, Principal like, Catalogue in, RequestContext context) {
    Principal it = newcomer.principal(in, like);
    UnitKey unit = it.unit();
    boolean unitTold =
        unit == null
            || (in.units().containsKey(unit) && context.naming().tells(Kind.UNITS, unit.value()));
    if (unit != null && !unitTold && !unit.equals(like.unit())) {
      throw Problem.badRequest("There is no unit '" + unit + "'", "Choose one from the list.");
    }
    PrincipalKey manager = it.manager();
    Principal above = manager == null ? null : in.principals().get(manager);
    boolean aboveTold = above != null && context.readPolicy().mayRead(above);
    if (manager != null && !aboveTold && !manager.equals(like.manager())) {
      throw Problem.badRequest(
          "There is nobody called '" + manager + "'", "Choose a manager from the list.");
    }
    return Rewritten.facts(it, unitTold ? unit : null, aboveTold ? manager : null, it.attributes());
  }

  LifecycleController.CopyPreview preview(
      String key, Newcomer newcomer, List<String> ties, RequestContext context) {
    Engine engine = context.state().engine();
    People people = new People(context);
    Principal colleague = people.require(key, engine.catalogue());
    ReadPolicy.Cut cut = context.readPolicy().cutFor(colleague);
    if (!(cut instanceof ReadPolicy.Cut.Whole)) {
      return new LifecycleController.CopyPreview(null, null);
    }
    Principal fresh = fresh(newcomer, colleague, engine.catalogue(), context).activated();
    Engine after;
    try {
      after =
          engine.after(
              ColleagueCopy.of(
                  engine.catalogue(), people.ties(engine.catalogue(), colleague), fresh, ties));
    } catch (IllegalArgumentException e) {
      throw Problem.conflict(
          "They can't be brought in so", e.getMessage() + ". Change what you typed.");
    }
    return new LifecycleController.CopyPreview(
        figure(after, fresh, context), figure(engine, colleague, context));
  }

  private static FigureView figure(Engine engine, Principal of, RequestContext context) {
    Access access =
        engine.access(new Session(of.key(), context.readPolicy().now(), of.mfa(), null));
    return FigureView.of(
        access.figure(new Extent(of.account(), false, null)),
        engine.catalogue(),
        context.naming(),
        false);
  }

  LifecycleController.ActView move(String key, MoveOrder order, RequestContext context) {
    People people = new People(context);
    Catalogue live = context.state().engine().catalogue();
    Principal who = people.requireManaged(key);
    PersonMove move = people.move(live, order);
    Instant now = context.readPolicy().now();
    Instant at = order.at();
    Instant grace = order.grace();
    if (grace != null && !grace.isAfter(at == null ? now : at)) {
      throw Problem.badRequest(
          "The grace time ends before the move", "Choose an end after the day of the move.");
    }
    planned.requireNear(grace);
    // what is named must be there, whenever it is carried out
    people.fates(live, people.ties(live, who), order.fates(), grace);
    if (at != null && at.isAfter(now)) {
      long number = planned.plan(key, PlannedActs.Act.MOVE, order, at, null, context);
      return new LifecycleController.ActView(null, key, number);
    }
    String draft =
        drafts.put(context, in -> changes(in, people.require(key, in), move, order, people));
    Long later =
        grace == null
                || order.fates().values().stream().noneMatch(it -> it.becomes().equals("until"))
            ? null
            : planned.plan(key, PlannedActs.Act.GRACE, order, grace, draft, context);
    return new LifecycleController.ActView(draft, key, later);
  }

  static List<Change> changes(
      Catalogue in, Principal who, PersonMove move, MoveOrder order, People people) {
    Ties ties = people.ties(in, who);
    Map<String, Fate> fates = people.fates(in, ties, order.fates(), order.grace());
    return move.changes(in, ties, fates, order.joins().stream().map(GroupKey::new).toList());
  }

  LifecycleController.ActView lend(String key, LoanOrder order, RequestContext context) {
    People people = new People(context);
    Catalogue live = context.state().engine().catalogue();
    Principal who = people.requireManaged(key);
    if (!order.until().isAfter(context.readPolicy().now())) {
      throw Problem.badRequest("The loan ends in the past", "Choose a later end.");
    }
    planned.requireNear(order.until());
    Loan loan = people.loan(live, order);
    List<GroupKey> joins = people.joins(live, who, order);
    LoanOrder kept =
        new LoanOrder(
            order.account(),
            order.from(),
            order.until(),
            order.sponsor(),
            joins.stream().map(Key::value).toList());
    String draft =
        drafts.put(
            context,
            in -> {
              try {
                return loan.changes(in, people.require(key, in), joins);
              } catch (IllegalArgumentException e) {
                throw Problem.conflict(
                    "They can't be lent so", e.getMessage() + ". Choose another account or time.");
              }
            });
    return new LifecycleController.ActView(
        draft, key, planned.plan(key, PlannedActs.Act.LOAN, kept, order.until(), draft, context));
  }

  LifecycleController.ActView part(String key, PartOrder order, RequestContext context) {
    People people = new People(context);
    Catalogue live = context.state().engine().catalogue();
    Principal who = people.requireManaged(key);
    requireNotSelf(who, context);
    people.fates(live, people.ties(live, who), order.fates(), null);
    Instant at = order.at();
    if (at != null && at.isAfter(context.readPolicy().now())) {
      long number = planned.plan(key, PlannedActs.Act.PART, order, at, null, context);
      return new LifecycleController.ActView(null, key, number);
    }
    String draft = drafts.put(context, in -> changes(in, people.require(key, in), order, people));
    return new LifecycleController.ActView(draft, key, null);
  }

  static List<Change> changes(Catalogue in, Principal who, PartOrder order, People people) {
    Ties ties = people.ties(in, who);
    return Parting.changes(in, ties, people.fates(in, ties, order.fates(), null));
  }

  private static void requireNotSelf(Principal who, RequestContext context) {
    if (context.readPolicy().isViewer(who.key())) {
      throw Problem.conflict("This is you", "Ask another administrator to do it.");
    }
  }

  LifecycleController.HadList had(String key, RequestContext context) {
    Principal who = requireLeft(key, context);
    Past past = past(who, context);
    if (past == null) {
      return new LifecycleController.HadList(null, List.of(), true);
    }
    Catalogue now = context.state().engine().catalogue();
    TieText text = new TieText(context, past.catalogue());
    List<LifecycleController.HadView> had = new ArrayList<>();
    boolean fits = true;
    for (Tie it : past.ties().all()) {
      if (it.sort() != Tie.Sort.ACCESS) {
        continue;
      }
      if (ComingBack.stillFits(now, it)) {
        had.add(
            new LifecycleController.HadView(
                it.id(),
                text.of(it),
                text.account(
                    TieAccounts.of(past.catalogue(), it).stream()
                        .map(Key::value)
                        .collect(Collectors.toSet()))));
      } else {
        fits = false;
      }
    }
    return new LifecycleController.HadList(past.at(), had, fits);
  }

  private static Principal requireLeft(String key, RequestContext context) {
    Principal who = new People(context).requireManaged(key);
    if (who.status() != Principal.Status.LEFT) {
      throw Problem.conflict(
          "They have not left", "Choose somebody whose state is left: the others are here.");
    }
    return who;
  }

  /** What there was just before somebody left. */
  private record Past(Catalogue catalogue, Ties ties, Instant at) {}

  private @Nullable Past past(Principal who, RequestContext context) {
    Long left = history.leftIn(who.key()).orElse(null);
    Engine before = left == null ? null : history.engineAt(left - 1, context.state());
    Principal was = before == null ? null : before.catalogue().principals().get(who.key());
    if (left == null || before == null || was == null) {
      return null;
    }
    Ties ties =
        new People(context)
            .ties(Ties.of(before.catalogue(), was), context.state().engine().catalogue());
    Instant at = history.entry(left).map(it -> it.at()).orElse(context.readPolicy().now());
    return new Past(before.catalogue(), ties, at);
  }

  LifecycleController.ActView comeBack(
      String key, LifecycleController.ReturnOrder order, RequestContext context) {
    Principal left = requireLeft(key, context);
    Past past = past(left, context);
    Ties had = past == null ? new Ties(left, Map.of()) : past.ties();
    for (String id : order.ties()) {
      if (!had.byId().containsKey(id)) {
        throw Problem.conflict(
            "What they had is not known so", "Reload the page and choose from what it lists.");
      }
    }
    String name = left.about().nameOr(left.key());
    String draft =
        drafts.put(
            context,
            in -> {
              Principal is = new People(context).require(key, in);
              Principal who =
                  fresh(
                      new Newcomer(name, null, order.title(), order.unit(), order.manager()),
                      is,
                      in,
                      context);
              Principal again = Rewritten.facts(is, who.unit(), who.manager(), who.attributes());
              return ComingBack.changes(in, is, again, had, order.ties());
            });
    return new LifecycleController.ActView(draft, key, null);
  }

  LifecycleController.ActView merge(String key, String into, RequestContext context) {
    People people = new People(context);
    people.requireManaged(key);
    people.requireManaged(into);
    String draft =
        drafts.put(
            context,
            in -> {
              Principal gone = people.require(key, in);
              Principal kept = people.require(into, in);
              try {
                requireAllRead(in, gone, people);
                return PersonMerge.of(in, kept, gone);
              } catch (IllegalArgumentException e) {
                throw Problem.conflict(
                    "They can't be merged", e.getMessage() + ". Choose another record.");
              }
            });
    return new LifecycleController.ActView(draft, into, null);
  }

  /** A merge passes everything on, so that whoever makes it must be able to read it all. */
  private static void requireAllRead(Catalogue in, Principal gone, People people) {
    if (people.ties(in, gone).byId().size() < Ties.of(in, gone).byId().size()) {
      throw Problem.forbidden(
          "They have access or duties in accounts that you can't read. Ask an administrator of"
              + " those accounts to merge them.");
    }
  }

  LifecycleController.ActView split(
      String key, LifecycleController.SplitOrder order, RequestContext context) {
    People people = new People(context);
    requireNotSelf(people.requireManaged(key), context);
    String draft =
        drafts.put(
            context,
            in -> {
              Principal shared = people.require(key, in);
              requireAllRead(in, shared, people);
              List<SharedSplit.Part> parts = new ArrayList<>();
              Catalogue with = in;
              for (LifecycleController.SplitPart each : order.parts()) {
                Principal fresh = fresh(each.newcomer(), shared, with, context);
                with = with.with(fresh);
                parts.add(new SharedSplit.Part(fresh, each.ties()));
              }
              Map<String, Principal> duties = new HashMap<>();
              order.duties().forEach((id, at) -> duties.put(id, part(parts, at).who()));
              return SharedSplit.changes(in, people.ties(in, shared), parts, duties);
            });
    return new LifecycleController.ActView(draft, key, null);
  }

  private static SharedSplit.Part part(List<SharedSplit.Part> parts, int at) {
    if (at < 0 || at >= parts.size()) {
      throw Problem.badRequest(
          "There is no person number " + at, "Choose one from 0 to " + (parts.size() - 1) + ".");
    }
    return parts.get(at);
  }

  LifecycleController.EndedView endNow(
      String key, String proof, String reason, RequestContext context) {
    People people = new People(context);
    Principal who = people.requireManaged(key);
    requireNotSelf(who, context);
    if (who.status() == Principal.Status.SUSPENDED || who.status() == Principal.Status.LEFT) {
      throw Problem.conflict(
          "They have no access", "They are suspended or left already: nothing is left to end.");
    }
    Session own = viewer.signedIn();
    boolean factor = signIn.prove(own, proof);
    int open = sessions.count(who.key());
    long revision =
        unattended.applyNow(
            new UnattendedDrafts.Plan(
                own.principal().value(),
                "End all access of " + who.about().nameOr(who.key()),
                reason,
                "",
                Parting.atOnce(
                    context.state().engine().catalogue(),
                    people.ties(context.state().engine().catalogue(), who))),
            new Session(own.principal(), own.at(), own.mfa() || factor, null));
    return new LifecycleController.EndedView(
        revision, open, tokens.revokeAll(who.key(), own.principal()));
  }
}
