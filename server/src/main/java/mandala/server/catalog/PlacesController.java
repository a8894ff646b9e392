package mandala.server.catalog;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import mandala.core.analysis.AccessMatrix;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Subject;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.TypeKey;
import mandala.core.model.key.UnitKey;
import mandala.core.question.CoveredResources;
import mandala.core.rule.GroupRules;
import mandala.core.rule.Seals;
import mandala.document.ChangeText;
import mandala.document.ThingDocument;
import mandala.document.Words;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import mandala.server.question.FigureView;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** The resource tree, what is assigned on a place, and what scopes and rules take in. */
@RestController
@RequestMapping("/api/places")
class PlacesController {

  private static final int MOST = 10_000;
  private static final int SAMPLE = 12;

  private final RequestContexts contexts;

  /**
   * Of the model asked last: what lies directly under what. One reader's tree is the next one's.
   */
  private volatile @Nullable Children known;

  PlacesController(RequestContexts contexts) {
    this.contexts = contexts;
  }

  private record Children(Catalogue of, Map<ResourceKey, List<ResourceKey>> below) {}

  /**
   * A place of the tree.
   *
   * @param type {@code account}, {@code unit}, {@code group} or a resource type, by name
   * @param children how many lie directly below
   * @param sealed whether it is itself sealed; {@code sealedBy} the nearest seal at or above it
   */
  record PlaceView(
      String key,
      String name,
      String type,
      String typeName,
      String account,
      @Nullable String parent,
      int children,
      boolean sealed,
      @Nullable String sealedBy,
      @Nullable String owner,
      @Nullable String ownerName,
      @Nullable String unit,
      @Nullable String unitName,
      Map<String, String> labels,
      @Nullable String mark) {}

  /** A stretch of what lies below a place. */
  record PlaceList(int total, List<PlaceView> places) {}

  @SuppressWarnings("ReferenceEquality") // a catalogue is one state of the model
  private Map<ResourceKey, List<ResourceKey>> children(Catalogue catalogue) {
    Children last = known;
    if (last != null && last.of() == catalogue) {
      return last.below();
    }
    Map<ResourceKey, List<ResourceKey>> below = new HashMap<>();
    List<ResourceKey> all = new ArrayList<>();
    catalogue.accounts().keySet().forEach(it -> all.add(ResourceKey.of(it)));
    catalogue.units().keySet().forEach(it -> all.add(ResourceKey.of(it)));
    all.addAll(catalogue.resources().keySet());
    catalogue.groups().keySet().forEach(it -> all.add(ResourceKey.of(it)));
    for (ResourceKey key : all) {
      ResourceKey parent = catalogue.parentOf(key);
      if (parent != null) {
        below.computeIfAbsent(parent, _ -> new ArrayList<>()).add(key);
      }
    }
    known = new Children(catalogue, below);
    return below;
  }

  private static ResourceKey place(String key, RequestContext context) {
    ResourceKey resource = new ResourceKey(key.isBlank() ? "?" : key);
    if (!isReadable(resource, context)) {
      throw Problem.notFound("There is no place '" + key + "'. Choose one from the tree.");
    }
    return resource;
  }

  /**
   * Judged by where it is in the model in force; what only a draft has, by its account. Of an
   * account, what it holds is read.
   */
  private static boolean isReadable(ResourceKey key, RequestContext context) {
    Catalogue live = context.state().engine().catalogue();
    Catalogue asked = context.asked().engine().catalogue();
    Thing thing = asked.has(key) ? thing(key, live.has(key) ? live : asked) : null;
    AccountKey account =
        live.has(key) ? live.accountOf(key) : asked.has(key) ? asked.accountOf(key) : null;
    if (thing == null || account == null) {
      return false;
    }
    return live.accounts().containsKey(account)
        ? context.readPolicy().mayRead(account)
        : context.readPolicy().mayRead(thing, asked);
  }

  /** What lies directly below a place: accounts, then places, then units and groups. */
  @GetMapping("/below")
  PlaceList below(
      @RequestParam String place,
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(defaultValue = "0") int offset,
      @RequestParam(defaultValue = "200") int limit) {
    RequestContext context = contexts.context(draft, null);
    Catalogue catalogue = context.asked().engine().catalogue();
    ResourceKey top = place(place, context);
    List<ResourceKey> below =
        children(catalogue).getOrDefault(top, List.of()).stream()
            .filter(key -> isReadable(key, context))
            .sorted(
                Comparator.comparingInt(PlacesController::rank)
                    .thenComparing(key -> catalogue.nameOf(key).toLowerCase(Locale.ROOT))
                    .thenComparing(ResourceKey::value))
            .toList();
    return new PlaceList(
        below.size(),
        below.stream()
            .skip(Math.max(0, offset))
            .limit(Math.clamp(limit, 1, MOST))
            .map(key -> view(key, context))
            .toList());
  }

  private static int rank(ResourceKey key) {
    return key.value().startsWith("account:")
        ? 0
        : key.value().startsWith("group:") ? 3 : key.value().startsWith("unit:") ? 2 : 1;
  }

  private PlaceView view(ResourceKey key, RequestContext context) {
    Catalogue catalogue = context.asked().engine().catalogue();
    TypeKey type = catalogue.typeOf(key);
    ResourceKey parent = catalogue.parentOf(key);
    PrincipalKey owner = catalogue.ownerOf(key);
    UnitKey unit = catalogue.unitOf(key);
    ChangeText text = context.text();
    Resource listed = catalogue.resources().get(key);
    ResourceKey seal = Seals.over(key, catalogue);
    AccountKey account = catalogue.accountOf(key);
    return new PlaceView(
        key.value(),
        catalogue.nameOf(key),
        type.value(),
        text.name(Kind.RESOURCE_TYPES, type.value()),
        account == null ? "" : account.value(),
        parent == null || !context.naming().tells(parent) ? null : parent.value(),
        (int)
            children(catalogue).getOrDefault(key, List.of()).stream()
                .filter(it -> isReadable(it, context))
                .count(),
        catalogue.isSealed(key),
        seal == null ? null : text.place(seal),
        owner == null || !context.naming().tells(Kind.PRINCIPALS, owner.value())
            ? null
            : owner.value(),
        owner == null ? null : text.name(Kind.PRINCIPALS, owner.value()),
        unit == null ? null : unit.value(),
        unit == null ? null : text.name(Kind.UNITS, unit.value()),
        catalogue.labelsOf(key),
        listed == null ? null : ThingView.of(listed, context).mark());
  }

  /**
   * A place's page.
   *
   * @param path from the root down to the place's parent
   * @param thing the thing itself as in a document; of an account, unit or group that
   * @param collections in which it is listed
   */
  record PlacePage(
      PlaceView place,
      List<PlaceView> path,
      @Nullable ThingView thing,
      List<RightsController.Reference> collections) {}

  @GetMapping
  PlacePage place(
      @RequestParam String place, @RequestParam(required = false) @Nullable String draft) {
    RequestContext context = contexts.context(draft, null);
    Catalogue catalogue = context.asked().engine().catalogue();
    ResourceKey key = place(place, context);
    List<PlaceView> path = new ArrayList<>();
    for (ResourceKey at = catalogue.parentOf(key); at != null; at = catalogue.parentOf(at)) {
      if (isReadable(at, context)) {
        path.addFirst(view(at, context));
      }
    }
    Thing thing = thing(key, catalogue);
    return new PlacePage(
        view(key, context),
        path,
        thing == null ? null : ThingView.of(thing, context),
        catalogue.collections().values().stream()
            .filter(it -> it.members().contains(key))
            .filter(it -> context.readPolicy().mayRead(it, catalogue))
            .map(
                it -> new RightsController.Reference(it.key().value(), it.about().nameOr(it.key())))
            .toList());
  }

  private static @Nullable Thing thing(ResourceKey key, Catalogue catalogue) {
    String text = key.value();
    int colon = text.indexOf(':');
    Kind kind =
        colon < 0
            ? Kind.RESOURCES
            : switch (text.substring(0, colon)) {
              case "account" -> Kind.ACCOUNTS;
              case "unit" -> Kind.UNITS;
              default -> Kind.GROUPS;
            };
    return catalogue.find(kind, text.substring(colon + 1)).stream().findFirst().orElse(null);
  }

  /** Places by a part of their name, for choosing one. */
  @GetMapping("/choices")
  List<PlaceView> choices(
      @RequestParam(defaultValue = "") String text,
      @RequestParam(required = false) @Nullable String account,
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(defaultValue = "20") int limit) {
    RequestContext context = contexts.context(draft, null);
    Catalogue catalogue = context.asked().engine().catalogue();
    List<ResourceKey> all = new ArrayList<>();
    catalogue.accounts().keySet().forEach(it -> all.add(ResourceKey.of(it)));
    catalogue.units().keySet().forEach(it -> all.add(ResourceKey.of(it)));
    all.addAll(catalogue.resources().keySet());
    return new NameSearch(text)
            .best(
                all.stream(),
                ResourceKey::value,
                catalogue::nameOf,
                _ -> "",
                key -> catalogue.accountOf(key) != null && isReadable(key, context),
                key -> {
                  AccountKey in = catalogue.accountOf(key);
                  return in != null && in.value().equals(account);
                },
                Math.clamp(limit, 1, 100))
            .stream()
            .map(key -> view(key, context))
            .toList();
  }

  /**
   * What is assigned on a place: subjects by permissions.
   *
   * @param assignments every assignment that a cell names, by key
   */
  record MatrixView(
      List<ColumnView> permissions,
      List<MatrixRow> rows,
      Map<String, AssignmentView> assignments) {}

  /** A permission as a column. */
  record ColumnView(
      String key, String name, @Nullable String description, String accessClass, String risk) {}

  /** A subject's cells by permission. */
  record MatrixRow(String subject, String name, String kind, Map<String, MatrixCell> cells) {}

  /**
   * A cell.
   *
   * @param effect {@code allow} or {@code deny}
   * @param way {@code own}, {@code inherited} or {@code implied}
   * @param sealedBy the name of the seal that keeps it out
   * @param conditional whether it depends on the person, the time, a factor or switching on
   * @param changed whether the draft made it so
   */
  record MatrixCell(
      String effect,
      String way,
      String assignment,
      @Nullable String sealedBy,
      boolean conditional,
      boolean changed) {}

  @GetMapping("/matrix")
  MatrixView matrix(
      @RequestParam String place, @RequestParam(required = false) @Nullable String draft) {
    RequestContext context = contexts.context(draft, null);
    Catalogue catalogue = context.asked().engine().catalogue();
    ResourceKey key = place(place, context);
    AccessMatrix matrix = AccessMatrix.of(key, catalogue, context.readPolicy().now());
    ChangeText text = context.text();
    Map<String, AssignmentView> assignments = new LinkedHashMap<>();
    List<MatrixRow> rows = new ArrayList<>();
    for (AccessMatrix.Row row : matrix.rows()) {
      Map<String, MatrixCell> cells = new LinkedHashMap<>();
      row.cells()
          .forEach((permission, cell) -> {
            var assignment = catalogue.assignments().get(cell.assignment());
            // who may read the place may not therefore read what is assigned from above it
            if (assignment != null
                && context.naming().tells(Kind.PERMISSIONS, permission.value())
                && context.readPolicy().mayRead(assignment, catalogue)) {
              AssignmentView view =
                  assignments.computeIfAbsent(
                      cell.assignment().value(), _ -> AssignmentView.of(assignment, context));
              cells.put(
                  permission.value(),
                  new MatrixCell(
                      cell.denies() ? "deny" : "allow",
                      FigureView.word(cell.way()),
                      cell.assignment().value(),
                      cell.sealedBy() == null ? null : text.place(cell.sealedBy()),
                      cell.conditional(),
                      view.mark() != null));
            }
          });
      if (cells.isEmpty()) {
        continue;
      }
      String reference = subject(row.subject(), context);
      rows.add(
          new MatrixRow(
              reference,
              text.subject(row.subject()),
              reference.contains(":") ? reference.substring(0, reference.indexOf(':')) : "public",
              cells));
    }
    rows.sort(
        Comparator.comparing(MatrixRow::kind)
            .thenComparing(MatrixRow::name)
            .thenComparing(MatrixRow::subject));
    return new MatrixView(
        matrix.permissions().stream()
            .filter(it -> context.naming().tells(Kind.PERMISSIONS, it.value()))
            .map(catalogue.permissions()::get)
            .filter(java.util.Objects::nonNull)
            .map((Permission it) ->
                new ColumnView(
                    it.key().value(),
                    it.about().nameOr(it.key()),
                    it.about().description(),
                    FigureView.word(it.accessClass()),
                    FigureView.word(it.risk())))
            .toList(),
        rows,
        assignments);
  }

  /** A subject's reference; of one that may not be named, its kind alone. */
  private static String subject(Subject subject, RequestContext context) {
    String reference = Words.of(subject);
    int colon = reference.indexOf(':');
    boolean told =
        switch (subject) {
          case Subject.OfPrincipal(var _, PrincipalKey key) ->
              context.naming().tells(Kind.PRINCIPALS, key.value());
          case Subject.OfGroup(GroupKey key) -> context.naming().tells(Kind.GROUPS, key.value());
          case Subject.OfPattern(PatternKey key) ->
              context.naming().tells(Kind.PATTERNS, key.value());
          case Subject.OfAccount(AccountKey key) ->
              context.naming().tells(Kind.ACCOUNTS, key.value());
          case Subject.Public _ -> true;
        };
    return told ? reference : reference.substring(0, colon + 1);
  }

  /** A scope to look at, as in a document. */
  record ScopeAsked(@NotNull JsonNode scope, @Nullable String draft) {}

  /**
   * What a scope covers.
   *
   * @param everything whether it covers all that the viewer sees, and that is a root account at
   *     least
   * @param cut whether all numbers are of the accounts that the viewer may read
   * @param sealedOff how many of it lie behind a seal into which no clause reaches
   * @param relative whether it depends on the person, so that the count is of all it might cover
   */
  record ScopeCovers(
      int count,
      int all,
      boolean everything,
      boolean cut,
      int sealedOff,
      boolean relative,
      String words,
      List<RightsController.Reference> first) {}

  @PostMapping("/scope")
  ScopeCovers scope(@Valid @RequestBody ScopeAsked asked) {
    RequestContext context = contexts.context(asked.draft(), null);
    Engine engine = context.asked().engine();
    ObjectNode assignment = JsonNodeFactory.instance.objectNode();
    assignment.put("key", "asked").put("subject", "anyone").put("gives", "role:x");
    assignment.set("scope", asked.scope());
    ThingDocument.Result read = ThingDocument.read(Kind.ASSIGNMENTS, assignment, "$");
    if (!(read.thing() instanceof mandala.core.model.Assignment it)) {
      throw Problem.faultyChange(
          "The scope cannot be read", "Fix the errors listed.", read.faults());
    }
    if (!context.tellsAllOf(it)) {
      throw Problem.badRequest(
          "The scope names what is not there", "Choose each place from the list.");
    }
    Set<AccountKey> readable = context.readPolicy().readableAccounts();
    try {
      CoveredResources covered =
          context.readPolicy().readsAll()
              ? engine.covered(it.scope(), 400)
              : engine.covered(it.scope(), 400, readable);
      return new ScopeCovers(
          covered.count(),
          covered.all(),
          covered.count() == covered.all() && readsRoot(context, readable),
          !context.readPolicy().readsAll(),
          covered.sealedOff(),
          it.scope().stream().anyMatch(mandala.core.model.Clause::relative),
          context.text().scope(it.scope()),
          covered.first().stream()
              .filter(key -> isReadable(key, context))
              .limit(SAMPLE)
              .map(key -> new RightsController.Reference(key.value(), context.text().place(key)))
              .toList());
    } catch (IllegalArgumentException e) {
      throw Problem.badRequest("The scope names what is not there", e.getMessage() + ".");
    }
  }

  private static boolean readsRoot(RequestContext context, Set<AccountKey> readable) {
    return context.readPolicy().readsAll()
        || context.asked().engine().catalogue().accounts().values().stream()
            .anyMatch(it -> it.parent() == null && readable.contains(it.key()));
  }

  /** A rule to look at, as in a document, for a group of an account. */
  record RuleAsked(@NotNull String account, @NotNull JsonNode rule, @Nullable String draft) {}

  /** Whom a rule takes in now, of those whom the viewer may see. */
  record RuleTakes(int count, int of, List<RightsController.Reference> first) {}

  @PostMapping("/rule")
  RuleTakes rule(@Valid @RequestBody RuleAsked asked) {
    RequestContext context = contexts.context(asked.draft(), null);
    LiveModel.State state = context.asked();
    Catalogue catalogue = state.engine().catalogue();
    ObjectNode group = JsonNodeFactory.instance.objectNode();
    group.put("key", "asked").put("account", asked.account());
    group.set("rule", asked.rule());
    ThingDocument.Result read = ThingDocument.read(Kind.GROUPS, group, "$");
    if (!(read.thing() instanceof Group it)
        || it.rule() == null
        || !context.readPolicy().mayRead(it.account())
        || !context.tellsAllOf(it)) {
      throw Problem.faultyChange(
          "The rule cannot be read", "Fix the errors listed.", read.faults());
    }
    List<Principal> tested = new ArrayList<>();
    for (Principal who : state.people().all()) {
      if (context.readPolicy().mayRead(who)
          && GroupRules.isTested(who, it.account(), context.readPolicy().now(), catalogue)) {
        tested.add(who);
      }
    }
    List<Principal> taken =
        tested.stream().filter(who -> GroupRules.passes(it.rule(), who, catalogue)).toList();
    return new RuleTakes(
        taken.size(),
        tested.size(),
        taken.stream()
            .limit(60)
            .map(who ->
                new RightsController.Reference(who.key().value(), who.about().nameOr(who.key())))
            .toList());
  }
}
