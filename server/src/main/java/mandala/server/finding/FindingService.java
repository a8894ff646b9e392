package mandala.server.finding;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Predicate;
import mandala.core.change.Change;
import mandala.core.detect.Harm;
import mandala.core.detect.Remedies;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.document.TroubleText;
import mandala.server.authorization.RequestContext;
import mandala.server.draft.DraftProposals;
import mandala.server.model.History;
import mandala.server.platform.ExportTable;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Lists findings, and shows what settles one. */
@Component
class FindingService {

  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final int MOST = 100;

  private final SeenFindingReader reader;
  private final DraftProposals drafts;
  private final History history;

  FindingService(SeenFindingReader reader, DraftProposals drafts, History history) {
    this.reader = reader;
    this.drafts = drafts;
    this.history = history;
  }

  // ---- lists ------------------------------------------------------------------------------------

  /**
   * What a call asks for.
   *
   * @param anybodys those that pass all filters but that of owners, harm and kind
   * @param all those of the owner, whatever their harm and kind
   * @param some those of the harm and kind, too, in the order asked for
   */
  private record Selected(
      SeenFindingReader.Seen seen,
      List<SeenFinding> anybodys,
      List<SeenFinding> all,
      List<SeenFinding> some) {}

  private Selected select(
      FindingController.FindingParams params, FindingRows views, RequestContext context) {
    SeenFindingReader.Seen seen = reader.read(context);
    Predicate<SeenFinding> others = filter(params, views, context);
    List<SeenFinding> anybodys = seen.findings().stream().filter(others).toList();
    List<SeenFinding> all =
        anybodys.stream().filter(it -> isOwned(it, given(params.owner()), context)).toList();
    List<SeenFinding> some =
        new ArrayList<>(
            all.stream()
                .filter(
                    it -> given(params.detector()).isEmpty() || it.kind().equals(params.detector()))
                .filter(it ->
                    given(params.harm()).isEmpty()
                        || FindingRows.word(it.harm()).equals(params.harm()))
                .toList());
    Comparator<SeenFinding> order = order(params.order());
    if (order != null) {
      some.sort(order);
    }
    return new Selected(seen, anybodys, all, some);
  }

  FindingController.FindingList list(
      FindingController.FindingParams params, RequestContext context) {
    FindingRows views = new FindingRows(context, drafts);
    Selected selected = select(params, views, context);
    List<SeenFinding> some = selected.some();
    int skip = params.skip() == null ? 0 : params.skip();
    int most = params.most() == null ? MOST : params.most();
    FindingStore.Known known = selected.seen().known();
    return new FindingController.FindingList(
        known.lookedAt().equals(Instant.MIN) ? null : known.lookedAt(),
        known.cut().stream().map(TroubleText::title).sorted().toList(),
        some.stream().skip(skip).limit(most).map(views::of).toList(),
        some.size(),
        kinds(selected.all()),
        owners(selected.anybodys(), context),
        selected.seen().elsewhere());
  }

  private static final List<String> HEAD =
      List.of(
          "finding",
          "kind",
          "harm",
          "risk",
          "size",
          "about",
          "account",
          "state",
          "owner",
          "until",
          "reason",
          "first seen",
          "resolved");

  /** {@return all that pass the filters}, as a table */
  ExportTable table(FindingController.FindingParams params, RequestContext context) {
    FindingRows views = new FindingRows(context, drafts);
    List<List<Object>> rows = new ArrayList<>();
    for (SeenFinding it : select(params, views, context).some()) {
      FindingController.FindingRow row = views.of(it);
      rows.add(
          List.of(
              row.said(),
              row.title(),
              row.harm(),
              row.risk(),
              row.weight(),
              row.aboutName(),
              or(row.accountName()),
              row.state(),
              or(row.ownerName()),
              or(row.until()),
              or(row.reason()),
              or(row.since()),
              or(row.resolvedAt())));
    }
    return new ExportTable("findings", HEAD, rows);
  }

  private static String or(@Nullable Object value) {
    return value == null ? "" : value.toString();
  }

  /** Owners whom the viewer may not read match no key. */
  private static boolean isOwned(SeenFinding it, String wanted, RequestContext context) {
    String owner = it.state().owner();
    return wanted.isEmpty()
        || (owner == null
            ? wanted.equals("none")
            : wanted.equals(owner) && context.naming().tells(Kind.PRINCIPALS, owner));
  }

  private static List<FindingController.OwnerCount> owners(
      List<SeenFinding> all, RequestContext context) {
    Map<String, Integer> owners = new TreeMap<>();
    for (SeenFinding it : all) {
      String owner = it.state().owner();
      if (owner != null && context.naming().tells(Kind.PRINCIPALS, owner)) {
        owners.merge(owner, 1, Integer::sum);
      }
    }
    return owners.entrySet().stream()
        .map(it ->
            new FindingController.OwnerCount(
                it.getKey(), context.text().name(Kind.PRINCIPALS, it.getKey()), it.getValue()))
        .sorted(Comparator.comparing(FindingController.OwnerCount::name))
        .toList();
  }

  private static @Nullable Comparator<SeenFinding> order(@Nullable String order) {
    return switch (given(order)) {
      case "", "worst" -> null;
      case "newest" ->
          Comparator.comparing(SeenFinding::since, Comparator.nullsLast(Comparator.reverseOrder()));
      case "largest" -> Comparator.comparing(SeenFinding::weight, Comparator.reverseOrder());
      default ->
          throw Problem.badRequest(
              "There is no order '" + order + "'", "Choose worst, newest or largest.");
    };
  }

  private static List<FindingController.KindCount> kinds(List<SeenFinding> all) {
    Map<String, FindingController.KindCount> kinds = new LinkedHashMap<>();
    for (SeenFinding it : all) {
      kinds.merge(
          it.kind(),
          new FindingController.KindCount(it.kind(), it.title(), FindingRows.word(it.harm()), 1),
          (one, other) ->
              new FindingController.KindCount(
                  one.kind(), one.title(), one.harm(), one.many() + other.many()));
    }
    return kinds.values().stream()
        .sorted(
            Comparator.comparingInt((FindingController.KindCount it) -> harmOf(it.harm()))
                .thenComparing(FindingController.KindCount::title))
        .toList();
  }

  private static int harmOf(String word) {
    for (Harm it : Harm.values()) {
      if (FindingRows.word(it).equals(word)) {
        return it.ordinal();
      }
    }
    return Integer.MAX_VALUE;
  }

  private static Predicate<SeenFinding> filter(
      FindingController.FindingParams params, FindingRows views, RequestContext context) {
    Catalogue catalogue = context.state().engine().catalogue();
    Permission.Risk least = given(params.risk()).isEmpty() ? null : risk(given(params.risk()));
    String within = given(params.account());
    AccountKey account = within.isEmpty() ? null : new AccountKey(within);
    String about = given(params.about());
    String text = given(params.text()).toLowerCase(Locale.ROOT);
    return it ->
        (least == null || it.risk().compareTo(least) >= 0)
            && (account == null || isIn(it.account(), account, catalogue))
            && isInState(params.state(), views.state(it))
            && (about.isEmpty()
                || (views.isReadable(it.about())
                    && about.equals(
                        TroubleText.kind(it.about()).field() + ":" + it.about().value())))
            && (text.isEmpty() || views.isCalled(it, text));
  }

  /** {@return what a call says}, empty where it says nothing */
  private static String given(@Nullable String value) {
    return value == null ? "" : value.strip();
  }

  private static boolean isIn(@Nullable AccountKey one, AccountKey account, Catalogue catalogue) {
    return one != null
        && catalogue.accounts().containsKey(account)
        && catalogue.isAtOrBelow(one, account);
  }

  private static boolean isInState(@Nullable String wanted, String is) {
    return switch (given(wanted)) {
      case "" -> is.equals("new") || is.equals("in-draft");
      case "any" -> true;
      case "new", "accepted", "in-draft", "resolved" -> is.equals(wanted);
      default ->
          throw Problem.badRequest(
              "There is no state '" + wanted + "'",
              "Choose new, accepted, in-draft, resolved or any.");
    };
  }

  private static Permission.Risk risk(String word) {
    for (Permission.Risk it : Permission.Risk.values()) {
      if (it.name().equalsIgnoreCase(word)) {
        return it;
      }
    }
    throw Problem.badRequest(
        "There is no risk '" + word + "'", "Choose low, moderate, high or critical.");
  }

  // ---- one --------------------------------------------------------------------------------------

  FindingController.FindingDetail one(String id, RequestContext context) {
    SeenFinding it = reader.require(List.of(id), context).getFirst();
    List<FindingController.RemedyView> remedies = new ArrayList<>();
    if (it.trouble() != null && it.resolvedAt() == null) {
      for (Remedies.Remedy remedy :
          Remedies.of(it.trouble(), context.state().engine(), context.readPolicy().now())) {
        if (isOffered(remedy, context)) {
          remedies.add(
              new FindingController.RemedyView(
                  FindingRows.word(remedy.act()),
                  TroubleText.label(remedy.act()),
                  remedy.changes().stream()
                      .flatMap(change -> context.text().sentences(change).stream())
                      .toList(),
                  remedy.changes().stream().map(change -> edit(change, context)).toList()));
        }
      }
    }
    return new FindingController.FindingDetail(new FindingRows(context, drafts).of(it), remedies);
  }

  /** What was ever in use is retired, so that the past stays readable; else it is removed. */
  private boolean isOffered(Remedies.Remedy remedy, RequestContext context) {
    Catalogue catalogue = context.state().engine().catalogue();
    Thing first = remedy.changes().getFirst().things().getFirst();
    boolean kept =
        switch (remedy.act()) {
          case RETIRE_ROLE, RETIRE_GROUP -> isEverGiven(first);
          case REMOVE_ROLE, REMOVE_GROUP -> !isEverGiven(first);
          case MERGE_ROLES ->
              remedy.changes().stream()
                  .filter(it -> it instanceof Change.Removed)
                  .noneMatch(it -> isEverGiven(it.things().getFirst()));
          default -> true;
        };
    return kept
        && remedy.changes().stream().allMatch(it -> context.tellsAllOf(it, catalogue))
        && remedy.changes().stream()
            .allMatch(it -> context.cannotChange(it.things().getFirst()) == null);
  }

  private boolean isEverGiven(Thing it) {
    Key key = it.key();
    return key != null && history.everGiven(Kind.of(it), key.value());
  }

  private static JsonNode edit(Change change, RequestContext context) {
    Thing first = change.things().getFirst();
    Key key = first.key();
    ObjectNode edit = JSON.createObjectNode();
    edit.put("kind", Kind.of(first).field());
    if (!(change instanceof Change.Added)) {
      if (key == null) {
        edit.set("before", context.json(first));
      } else {
        edit.put("key", key.value());
      }
    }
    if (change instanceof Change.Removed) {
      edit.put("remove", true);
    } else {
      edit.set("after", context.json(change.things().getLast()));
    }
    return edit;
  }
}
