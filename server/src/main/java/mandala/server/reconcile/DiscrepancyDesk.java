package mandala.server.reconcile;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.reconcile.Discrepancy;
import mandala.document.ChangeText;
import mandala.document.DiscrepancyText;
import mandala.server.authorization.RequestContext;
import mandala.server.draft.DraftProposals;
import mandala.server.platform.ExportTable;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Lists where a system differs from the model, as far as a viewer may know of it. */
@Component
class DiscrepancyDesk {

  private static final int MOST = 100;

  private final SystemDesk desk;
  private final SystemStore systems;
  private final DiscrepancyReader reader;
  private final DiscrepancyStore store;
  private final DraftProposals drafts;

  DiscrepancyDesk(
      SystemDesk desk,
      SystemStore systems,
      DiscrepancyReader reader,
      DiscrepancyStore store,
      DraftProposals drafts) {
    this.desk = desk;
    this.systems = systems;
    this.reader = reader;
    this.store = store;
    this.drafts = drafts;
  }

  /**
   * What a call asks for.
   *
   * @param kinds how many there are of each kind, its own filter aside
   */
  private record Selected(
      ConnectedSystem system,
      DiscrepancyReader.Seen seen,
      List<SystemStore.Comparison> comparisons,
      List<SystemController.DiscrepancyRow> rows,
      Map<String, Integer> kinds) {}

  private Selected select(
      String key, SystemController.DiscrepancyParams params, RequestContext context) {
    ConnectedSystem system = desk.require(key, context);
    DiscrepancyReader.Seen seen = reader.seen(system, context);
    List<SystemStore.Comparison> comparisons = systems.comparisons(key);
    Rows rows = new Rows(system, comparisons, context);
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
    return new Selected(system, seen, comparisons, some, kinds);
  }

  /** {@return where a system differs}, as a viewer may know of it */
  SystemController.DiscrepancyList list(
      String key, SystemController.DiscrepancyParams params, RequestContext context) {
    Selected selected = select(key, params, context);
    ConnectedSystem system = selected.system();
    int skip = params.skip() == null ? 0 : params.skip();
    int most = params.most() == null ? MOST : params.most();
    List<SystemStore.Comparison> comparisons = selected.comparisons();
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

    Rows(ConnectedSystem system, List<SystemStore.Comparison> comparisons, RequestContext context) {
      this.system = system;
      this.context = context;
      catalogue = context.state().engine().catalogue();
      text = context.text();
      words = new DiscrepancyText(catalogue, context.naming());
      said = store.said(system.key());
      comparisons.forEach(it -> times.put(it.number(), it.at()));
    }

    SystemController.DiscrepancyRow of(KeptDiscrepancy kept) {
      Discrepancy it = kept.it();
      PrincipalKey who = it.who();
      PermissionKey permission = it.permission();
      AccountKey account = SystemDesk.accountOf(system, who, catalogue);
      List<ResourceKey> places = DiscrepancyReader.places(it);
      DiscrepancyStore.Said of = said.getOrDefault(it.id(), DiscrepancyStore.Said.NOTHING);
      boolean over = of.until() != null && !of.until().isAfter(context.readPolicy().now());
      boolean worse = of.until() != null && it.size() > of.size();
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
          it.identity(),
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
}
