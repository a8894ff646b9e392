package mandala.server.reconcile;

import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import mandala.core.authority.Authority;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.reconcile.Adoption;
import mandala.core.reconcile.Discrepancy;
import mandala.document.ChangeText;
import mandala.document.DiscrepancyText;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.draft.DraftProposals;
import mandala.server.platform.ExportTable;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Shows where a system differs from the model, and takes what people decide about it. A discrepancy
 * tells of somebody's access: whoever may be told of all of it sees it (section 11). An identity
 * that means somebody whom the viewer may not read is nobody to them.
 */
@Service
class DiscrepancyDesk {

  private static final int MOST = 100;

  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH);

  private final SystemDesk desk;
  private final SystemStore systems;
  private final DiscrepancyStore store;
  private final DraftProposals drafts;
  private final Trail trail;
  private final AuditContext auditContext;

  DiscrepancyDesk(
      SystemDesk desk,
      SystemStore systems,
      DiscrepancyStore store,
      DraftProposals drafts,
      Trail trail,
      AuditContext auditContext) {
    this.desk = desk;
    this.systems = systems;
    this.store = store;
    this.drafts = drafts;
    this.trail = trail;
    this.auditContext = auditContext;
  }

  // ---- what a viewer may know of ----------------------------------------------------------------

  /**
   * What a viewer may know of.
   *
   * @param elsewhere whether there is more
   */
  private record Seen(List<KeptDiscrepancy> all, boolean elsewhere) {}

  private Seen seen(ConnectedSystem system, RequestContext context) {
    List<KeptDiscrepancy> all = new ArrayList<>();
    boolean elsewhere = false;
    for (KeptDiscrepancy it : store.all(system.key())) {
      if (isTold(it.it(), context)) {
        all.add(it);
      } else {
        elsewhere |= !(it.it() instanceof Discrepancy.Orphaned);
      }
    }
    all.addAll(strangers(system, context));
    return new Seen(all, elsewhere);
  }

  /**
   * Identities that are nobody's, and those of people whom the viewer may not read: which of the
   * two must not show, so what follows without a pause is one.
   */
  private List<KeptDiscrepancy> strangers(ConnectedSystem system, RequestContext context) {
    List<KeptDiscrepancy> strangers = new ArrayList<>();
    for (SystemStore.Identity it : systems.identities(system.key())) {
      if (it.who() != null && context.naming().tells(Kind.PRINCIPALS, it.who())) {
        continue;
      }
      KeptDiscrepancy last = strangers.isEmpty() ? null : strangers.getLast();
      boolean goesOn =
          last != null
              && it.identity().equals(KeptDiscrepancy.identity(last.it()))
              && Integer.valueOf(it.first()).equals(last.gone());
      if (goesOn) {
        strangers.removeLast();
      }
      strangers.add(
          new KeptDiscrepancy(
              new Discrepancy.UnknownPerson(it.identity(), it.lines()),
              goesOn && last != null ? last.first() : it.first(),
              it.gone(),
              it.held()));
    }
    return strangers;
  }

  private static boolean isTold(Discrepancy it, RequestContext context) {
    ReadPolicy policy = context.readPolicy();
    PrincipalKey who = KeptDiscrepancy.who(it);
    if (who == null) {
      return true;
    }
    if (!context.naming().tells(Kind.PRINCIPALS, who.value())) {
      return false;
    }
    PermissionKey permission = KeptDiscrepancy.permission(it);
    return permission == null
        || (context.naming().tells(Kind.PERMISSIONS, permission.value())
            && places(it).stream()
                .allMatch(place -> context.naming().tells(place) && policy.mayBeTold(who, place)));
  }

  private static List<ResourceKey> places(Discrepancy it) {
    List<ResourceKey> places = new ArrayList<>(KeptDiscrepancy.extra(it));
    places.addAll(KeptDiscrepancy.missing(it));
    return places;
  }

  // ---- lists ------------------------------------------------------------------------------------

  /**
   * What a call asks for.
   *
   * @param kinds how many there are of each kind, its own filter aside
   */
  private record Selected(
      ConnectedSystem system,
      Seen seen,
      List<SystemController.DiscrepancyRow> rows,
      Map<String, Integer> kinds) {}

  private Selected select(
      String key, SystemController.DiscrepancyParams params, RequestContext context) {
    ConnectedSystem system = desk.require(key, context);
    Seen seen = seen(system, context);
    Rows rows = new Rows(system, context);
    String state = given(params.state());
    if (!Set.of("", "any", "new", "accepted", "in-draft", "settled").contains(state)) {
      throw Problem.badRequest(
          "There is no state '" + state + "'", "Choose new, accepted, in-draft, settled or any.");
    }
    String kind = given(params.kind());
    if (!Set.of("", "missing", "extra", "different", "unknown", "orphaned").contains(kind)) {
      throw Problem.badRequest(
          "There is no kind '" + kind + "'",
          "Choose missing, extra, different, unknown or orphaned.");
    }
    String text = given(params.text()).toLowerCase(Locale.ROOT);
    List<SystemController.DiscrepancyRow> some = new ArrayList<>();
    Map<String, Integer> kinds = new TreeMap<>();
    for (KeptDiscrepancy it : seen.all()) {
      SystemController.DiscrepancyRow row = rows.of(it);
      boolean inState =
          state.isEmpty()
              ? row.state().equals("new") || row.state().equals("in-draft")
              : state.equals("any") || state.equals(row.state());
      if (inState && (text.isEmpty() || row.said().toLowerCase(Locale.ROOT).contains(text))) {
        kinds.merge(row.kind(), 1, Integer::sum);
        if (kind.isEmpty() || kind.equals(row.kind())) {
          some.add(row);
        }
      }
    }
    return new Selected(system, seen, some, kinds);
  }

  /** {@return where a system differs}, as a viewer may know of it */
  SystemController.DiscrepancyList list(
      String key, SystemController.DiscrepancyParams params, RequestContext context) {
    Selected selected = select(key, params, context);
    ConnectedSystem system = selected.system();
    int skip = params.skip() == null ? 0 : params.skip();
    int most = params.most() == null ? MOST : params.most();
    List<SystemStore.Comparison> comparisons = systems.comparisons(key);
    SystemStore.Comparison last = comparisons.isEmpty() ? null : comparisons.getFirst();
    return new SystemController.DiscrepancyList(
        desk.view(system, context),
        selected.rows().stream().skip(skip).limit(most).toList(),
        selected.rows().size(),
        selected.kinds(),
        comparisons.stream().map(it -> view(it, selected.seen().all(), context)).toList(),
        last == null ? Map.of() : last.untranslated(),
        last == null || !context.readPolicy().readsAll() ? null : last.agreeing(),
        last != null
            && (last.revision() != context.state().revision()
                || !Integer.valueOf(last.terms()).equals(system.terms())),
        selected.seen().elsewhere());
  }

  private static final List<String> HEAD =
      List.of(
          "difference",
          "kind",
          "person",
          "permission",
          "identity",
          "held",
          "state",
          "until",
          "reason",
          "first seen",
          "settled");

  /** {@return all that pass the filters}, as a table */
  ExportTable table(String key, SystemController.DiscrepancyParams params, RequestContext context) {
    List<List<Object>> rows = new ArrayList<>();
    for (SystemController.DiscrepancyRow it : select(key, params, context).rows()) {
      rows.add(
          List.of(
              it.said(),
              it.kind(),
              or(it.who()),
              or(it.permission()),
              or(it.identity()),
              String.join("; ", it.held()),
              it.state(),
              or(it.until()),
              or(it.reason()),
              or(it.since()),
              or(it.goneAt())));
    }
    return new ExportTable("differences", HEAD, rows);
  }

  private static String or(@Nullable Object value) {
    return value == null ? "" : value.toString();
  }

  private static String given(@Nullable String value) {
    return value == null ? "" : value.strip();
  }

  private static SystemController.ComparisonView view(
      SystemStore.Comparison it, List<KeptDiscrepancy> all, RequestContext context) {
    Map<String, Integer> kinds = new TreeMap<>();
    int begun = 0;
    int gone = 0;
    for (KeptDiscrepancy each : all) {
      if (each.stoodAt(it.number())) {
        kinds.merge(DiscrepancyText.kind(each.it()), 1, Integer::sum);
        begun += each.first() == it.number() ? 1 : 0;
      }
      gone += each.gone() != null && each.gone() == it.number() ? 1 : 0;
    }
    return new SystemController.ComparisonView(
        it.number(),
        it.at(),
        context.text().name(Kind.PRINCIPALS, it.by()),
        it.sent(),
        it.terms(),
        it.lines(),
        kinds,
        begun,
        gone);
  }

  /** Makes rows for one viewer. */
  private final class Rows {
    private final ConnectedSystem system;
    private final RequestContext context;
    private final Catalogue catalogue;
    private final ChangeText text;
    private final DiscrepancyText words;
    private final Map<String, DiscrepancyStore.Said> said;
    private final Map<String, Boolean> alive = new HashMap<>();
    private final Map<Integer, Instant> times = new HashMap<>();

    Rows(ConnectedSystem system, RequestContext context) {
      this.system = system;
      this.context = context;
      catalogue = context.state().engine().catalogue();
      text = context.text();
      words = new DiscrepancyText(catalogue, context.naming());
      said = store.said(system.key());
      systems.comparisons(system.key()).forEach(it -> times.put(it.number(), it.at()));
    }

    DiscrepancyStore.Said said(Discrepancy it) {
      return said.getOrDefault(it.id(), DiscrepancyStore.Said.NOTHING);
    }

    SystemController.DiscrepancyRow of(KeptDiscrepancy kept) {
      Discrepancy it = kept.it();
      PrincipalKey who = KeptDiscrepancy.who(it);
      PermissionKey permission = KeptDiscrepancy.permission(it);
      AccountKey account = SystemDesk.accountOf(system, who, catalogue);
      List<ResourceKey> places = places(it);
      DiscrepancyStore.Said of = said(it);
      boolean over = of.until() != null && !of.until().isAfter(context.readPolicy().now());
      boolean worse = of.until() != null && KeptDiscrepancy.size(it) > of.size();
      String state =
          kept.gone() != null
              ? "settled"
              : of.until() != null && !over && !worse
                  ? "accepted"
                  : of.draft() != null && alive.computeIfAbsent(of.draft(), drafts::isAlive)
                      ? "in-draft"
                      : "new";
      return new SystemController.DiscrepancyRow(
          it.id(),
          DiscrepancyText.kind(it),
          words.of(it),
          who == null ? null : who.value(),
          who == null ? null : text.name(Kind.PRINCIPALS, who.value()),
          permission == null ? null : permission.value(),
          places.isEmpty() ? null : places.getFirst().value(),
          KeptDiscrepancy.identity(it),
          kept.held(),
          times.get(kept.first()),
          kept.gone() == null ? null : times.get(kept.gone()),
          state,
          state.equals("accepted") || of.until() == null ? null : worse ? "worse" : "ended",
          of.until(),
          of.reason(),
          context.readPolicy().may(Supplied.ACCESS_ASSIGN, ResourceKey.of(account)));
    }
  }

  // ---- decisions --------------------------------------------------------------------------------

  /** {@return those that stand, by their ids}, about each of which the viewer may decide */
  private List<Discrepancy> requireMine(
      ConnectedSystem system, List<String> ids, RequestContext context) {
    Map<String, Discrepancy> standing = new LinkedHashMap<>();
    for (KeptDiscrepancy it : seen(system, context).all()) {
      if (it.gone() == null) {
        standing.put(it.it().id(), it.it());
      }
    }
    Catalogue catalogue = context.state().engine().catalogue();
    List<Discrepancy> some = new ArrayList<>();
    for (String id : new java.util.LinkedHashSet<>(ids)) {
      Discrepancy it = standing.get(id);
      if (it == null) {
        throw Problem.notFound(
            "There is no discrepancy '" + id + "' any more. Look at the list again.");
      }
      ResourceKey place =
          ResourceKey.of(SystemDesk.accountOf(system, KeptDiscrepancy.who(it), catalogue));
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
          KeptDiscrepancy.size(it),
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
    ConnectedSystem system = desk.require(key, context);
    List<Discrepancy> some = requireMine(system, ids, context);
    some.forEach(it -> store.reopen(key, it.id()));
    note(system, some, "Reopened", context);
    return some.size();
  }

  /** Begins a draft after which the model says what the system holds. */
  @Transactional
  public SystemController.SystemDraft draft(String key, List<String> ids, RequestContext context) {
    ConnectedSystem system = desk.require(key, context);
    List<Discrepancy> some = requireMine(system, ids, context);
    Engine engine = context.state().engine();
    Adoption.Answer answer = Adoption.of(engine, context.readPolicy().now(), some);
    if (answer.changes().isEmpty()) {
      throw Problem.conflict(
          "No change of the model settles this",
          answer.left().isEmpty()
              ? "The model already says what the system holds. Compare again to see it."
              : "It is about an identity, or a deny, a seal or a gate stands against it. Change it"
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
      PrincipalKey who = KeptDiscrepancy.who(it);
      AccountKey account = SystemDesk.accountOf(system, who, catalogue);
      AuditEvent line =
          auditContext.by(
              AuditEvent.Act.CHECKED,
              List.of(account.value()),
              what
                  + ": what “"
                  + system.name()
                  + "” holds"
                  + (who == null ? " for '" + KeptDiscrepancy.identity(it) + "'" : ""));
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
