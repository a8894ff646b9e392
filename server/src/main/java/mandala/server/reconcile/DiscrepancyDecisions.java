package mandala.server.reconcile;

import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import mandala.core.authority.Authority;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.reconcile.Adoption;
import mandala.core.reconcile.Discrepancy;
import mandala.document.DiscrepancyText;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.draft.DraftProposals;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Takes what people decide about discrepancies. */
@Service
class DiscrepancyDecisions {

  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH);

  private final SystemDesk desk;
  private final SystemStore systems;
  private final DiscrepancyReader reader;
  private final DiscrepancyStore store;
  private final DraftProposals drafts;
  private final Trail trail;
  private final AuditContext auditContext;

  DiscrepancyDecisions(
      SystemDesk desk,
      SystemStore systems,
      DiscrepancyReader reader,
      DiscrepancyStore store,
      DraftProposals drafts,
      Trail trail,
      AuditContext auditContext) {
    this.desk = desk;
    this.systems = systems;
    this.reader = reader;
    this.store = store;
    this.drafts = drafts;
    this.trail = trail;
    this.auditContext = auditContext;
  }

  /** {@return those that stand, by their ids}, about each of which the viewer may decide */
  private List<Discrepancy> requireMine(
      ConnectedSystem system, List<String> ids, RequestContext context) {
    Map<String, Discrepancy> standing = new LinkedHashMap<>();
    for (KeptDiscrepancy it : reader.seen(system, context).all()) {
      if (it.gone() == null) {
        standing.put(it.it().id(), it.it());
      }
    }
    Catalogue catalogue = context.state().engine().catalogue();
    List<Discrepancy> some = new ArrayList<>();
    for (String id : new LinkedHashSet<>(ids)) {
      Discrepancy it = standing.get(id);
      if (it == null) {
        throw Problem.notFound("There is no discrepancy '" + id + "' now. Look at the list again.");
      }
      ResourceKey place = ResourceKey.of(SystemDesk.accountOf(system, it.who(), catalogue));
      if (!context.readPolicy().may(Supplied.ACCESS_ASSIGN, place)) {
        throw Problem.forbidden(context.needs(Supplied.ACCESS_ASSIGN, place));
      }
      some.add(it);
    }
    return some;
  }

  /** Accepts discrepancies until a time; one that grows comes back. */
  @Transactional
  public int accept(
      String key, SystemController.DiscrepancyAcceptance order, RequestContext context) {
    systems.lock(key);
    ConnectedSystem system = desk.require(key, context);
    Instant now = context.readPolicy().now();
    if (!order.until().isAfter(now)) {
      throw Problem.badRequest(
          "The acceptance would be over already", "Choose a date in the future.");
    }
    List<Discrepancy> some = requireMine(system, order.ids(), context);
    String reason = order.reason().strip();
    for (Discrepancy it : some) {
      store.accept(
          key,
          it.id(),
          order.until(),
          it.size(),
          reason,
          context.readPolicy().viewer().value(),
          now);
    }
    note(
        system,
        some,
        "Accepted until "
            + DAY.format(order.until().atOffset(ZoneOffset.UTC))
            + " (“"
            + reason
            + "”)",
        context);
    return some.size();
  }

  /** Ends the acceptance of discrepancies. */
  @Transactional
  public int reopen(String key, List<String> ids, RequestContext context) {
    systems.lock(key);
    ConnectedSystem system = desk.require(key, context);
    List<Discrepancy> some = requireMine(system, ids, context);
    some.forEach(it -> store.reopen(key, it.id()));
    note(system, some, "Reopened", context);
    return some.size();
  }

  /** Begins a draft after which the model says what the system holds. */
  @Transactional
  public SystemController.SystemDraft draft(String key, List<String> ids, RequestContext context) {
    systems.lock(key);
    ConnectedSystem system = desk.require(key, context);
    List<Discrepancy> some = requireMine(system, ids, context);
    Engine engine = context.state().engine();
    Adoption.Answer answer = Adoption.of(engine, context.readPolicy().now(), some);
    if (answer.changes().isEmpty()) {
      throw Problem.conflict(
          "No change of the model settles this",
          answer.left().isEmpty()
              ? "The model already says what the system holds. Compare again to see it."
              : "It is about an identity, or a deny, a seal or a gate prevents it. Change it"
                  + " in the system, or leave it and accept it.");
    }
    requireChangeable(answer.changes(), engine, context);
    String draft = drafts.begin("Adopt from " + system.name(), answer.changes(), context);
    DiscrepancyText text = new DiscrepancyText(engine.catalogue(), context.naming());
    List<Discrepancy> settled = new ArrayList<>(some);
    settled.removeAll(answer.left());
    settled.forEach(it -> store.drafted(key, it.id(), draft));
    return new SystemController.SystemDraft(
        draft, answer.changes().size(), answer.left().stream().map(text::of).toList());
  }

  private static void requireChangeable(
      List<Change> changes, Engine engine, RequestContext context) {
    Catalogue live = engine.catalogue();
    Catalogue after = engine.after(changes).catalogue();
    ReadPolicy policy = context.readPolicy();
    for (Change it : changes) {
      Authority.missing(it, live, after, policy.viewer(), policy::may)
          .ifPresent(demand -> {
            throw Problem.forbidden(
                "You need "
                    + RequestContext.wanted(demand, context.text())
                    + " to change this in the model. Ask a security administrator.");
          });
    }
  }

  private void note(
      ConnectedSystem system, List<Discrepancy> some, String what, RequestContext context) {
    Catalogue catalogue = context.state().engine().catalogue();
    List<AuditEvent> lines = new ArrayList<>();
    for (Discrepancy it : some) {
      PrincipalKey who = it.who();
      AccountKey account = SystemDesk.accountOf(system, who, catalogue);
      AuditEvent line =
          auditContext.by(
              AuditEvent.Act.CHECKED,
              List.of(account.value()),
              what
                  + ": what “"
                  + system.name()
                  + "” holds"
                  + (who == null ? " for '" + it.identity() + "'" : ""));
      var principal = who == null ? null : catalogue.principals().get(who);
      lines.add(
          principal == null
              ? line
              : line.about(
                  Kind.PRINCIPALS.field(),
                  principal.key().value(),
                  principal.about().nameOr(principal.key()),
                  List.of()));
    }
    trail.write(lines);
  }
}
