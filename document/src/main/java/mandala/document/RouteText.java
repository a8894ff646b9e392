package mandala.document;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import mandala.core.explain.Coverage;
import mandala.core.explain.GrantStep;
import mandala.core.explain.Obstacle;
import mandala.core.explain.Route;
import mandala.core.explain.Source;
import mandala.core.explain.SubjectStep;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Kind;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Thing;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.TypeKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;

/**
 * Routes in people's words: steps as name and remark, obstacles as sentences. The screens and the
 * command line say the same.
 */
public final class RouteText {

  private final Catalogue catalogue;
  private final Naming naming;

  /** Speaks with the names of a catalogue. */
  public RouteText(Catalogue catalogue) {
    this(catalogue, Naming.ALL);
  }

  /** Speaks with the names of a catalogue, as far as they may be told. */
  public RouteText(Catalogue catalogue, Naming naming) {
    this.catalogue = catalogue;
    this.naming = naming;
  }

  /** One step of a route: what it is ({@code person}, {@code group}, …), which, and a remark. */
  public record Told(String kind, String key, String name, String remark) {}

  /** The kinds of things by the words of steps. */
  private static final Map<String, Kind> KINDS =
      Map.of(
          "person", Kind.PRINCIPALS,
          "group", Kind.GROUPS,
          "pattern", Kind.PATTERNS,
          "account", Kind.ACCOUNTS,
          "role", Kind.ROLES,
          "set", Kind.PERMISSION_SETS,
          "permission", Kind.PERMISSIONS);

  /** {@return the steps of a route, from the person to the place} */
  public List<Told> steps(Route route) {
    List<Told> steps = new ArrayList<>();
    route.subjectPath().forEach(step -> steps.add(step(step)));
    steps.add(source(route));
    route.gifts().forEach(gift -> steps.add(gift(gift)));
    steps.add(place(route.coverage()));
    return steps;
  }

  private Told step(SubjectStep step) {
    return switch (step) {
      case SubjectStep.Oneself(PrincipalKey key) ->
          told("person", key, catalogue.principals(), kind(key));
      case SubjectStep.InGroup(GroupKey key, boolean byRule) ->
          told("group", key, catalogue.groups(), byRule ? "group, by rule" : "group");
      case SubjectStep.WithPattern(PatternKey key) ->
          told("pattern", key, catalogue.patterns(), "pattern");
      case SubjectStep.AtAccount(AccountKey key, boolean guest) ->
          told(
              "account",
              key,
              catalogue.accounts(),
              guest ? "guest of the account" : "home account");
      case SubjectStep.Publicly(Subject.Public who) ->
          new Told("public", "", publicly(who), "public");
    };
  }

  private String kind(PrincipalKey key) {
    var principal = catalogue.principals().get(key);
    return principal == null ? "nobody" : Node.word(principal.kind());
  }

  private static String publicly(Subject.Public who) {
    return switch (who) {
      case ANYONE -> "Anyone";
      case ANONYMOUS -> "Everyone who is not signed in";
      case SIGNED_IN -> "Everyone signed in";
    };
  }

  private Told source(Route route) {
    return switch (route.source()) {
      case Source.ByAssignment(AssignmentKey key) ->
          naming.tells(Kind.ASSIGNMENTS, key.value())
              ? new Told("assignment", key.value(), "assigned", which(key))
              : new Told("assignment", "", "assigned", Naming.hidden(Kind.ASSIGNMENTS));
      case Source.ByBridge(BridgeKey key) ->
          naming.tells(Kind.BRIDGES, key.value())
              ? new Told("bridge", key.value(), bridge(key), "bridge")
              : new Told("bridge", "", Naming.hidden(Kind.BRIDGES), "bridge");
    };
  }

  private String assignment(AssignmentKey key) {
    var it = catalogue.assignments().get(key);
    return it == null ? key.value() : described().assignment(it);
  }

  private String which(AssignmentKey key) {
    var it = catalogue.assignments().get(key);
    return it == null ? "" : described().which(it);
  }

  private String bridge(BridgeKey key) {
    var it = catalogue.bridges().get(key);
    return it == null ? key.value() : described().bridge(it);
  }

  /** {@return a delegation in words}, its key where it is nowhere */
  public String delegation(DelegationKey key) {
    var it = catalogue.delegations().get(key);
    return it == null ? key.value() : described().delegation(it);
  }

  private Described described() {
    return new Described(catalogue, naming);
  }

  private Told gift(GrantStep gift) {
    return switch (gift) {
      case GrantStep.OfRole(RoleKey key, boolean mfa, boolean retired) ->
          told(
              "role",
              key,
              catalogue.roles(),
              "role" + (mfa ? ", second factor" : "") + (retired ? ", retired" : ""));
      case GrantStep.OfSet(PermissionSetKey key) -> told("set", key, catalogue.sets(), "set");
      case GrantStep.OfPermission(PermissionKey key) ->
          told("permission", key, catalogue.permissions(), "permission");
    };
  }

  private Told place(Coverage coverage) {
    ResourceKey named = coverage.named();
    String name = named == null ? "wherever it is so" : name(named);
    return new Told(
        "place",
        named == null || !naming.tells(named) ? "" : named.value(),
        name,
        (coverage.viewScope() ? "for viewing: " : "") + clause(coverage.clause()));
  }

  private <K extends Key, T extends Thing> Told told(
      String kind, K key, Map<K, T> things, String remark) {
    T thing = things.get(key);
    Kind of = KINDS.get(kind);
    if (of != null && !naming.tells(of, key.value())) {
      return new Told(kind, "", Naming.hidden(of), remark);
    }
    return new Told(
        kind, key.value(), thing == null ? key.value() : thing.about().nameOr(key), remark);
  }

  /** {@return a clause in words} */
  public String clause(Clause clause) {
    return clause.terms().stream().map(this::term).collect(Collectors.joining(", "));
  }

  private String term(Term term) {
    return switch (term) {
      case Term.Everything() -> "everything";
      case Term.InAccount(AccountKey key) -> "account " + name(ResourceKey.of(key));
      case Term.OwnAccount() -> "own account";
      case Term.Tree(ResourceKey key) -> "everything in " + name(key);
      case Term.Only(ResourceKey key) -> "only " + name(key);
      case Term.InCollection(CollectionKey key) ->
          naming.tells(Kind.COLLECTIONS, key.value())
              ? "collection " + key
              : Naming.hidden(Kind.COLLECTIONS);
      case Term.OfType(TypeKey key) ->
          naming.tells(Kind.RESOURCE_TYPES, key.value())
              ? "type " + key
              : Naming.hidden(Kind.RESOURCE_TYPES);
      case Term.InUnit(UnitKey key) -> "unit " + name(ResourceKey.of(key));
      case Term.OwnUnit() -> "own unit";
      case Term.OwnedBy(Term.Owner owner) ->
          switch (owner) {
            case SELF -> "records they own";
            case TEAM -> "records their team owns";
            case NONE -> "records without an owner";
          };
      case Term.Labelled(Map<String, String> labels) ->
          labels.entrySet().stream()
              .map(it -> it.getKey() + " " + it.getValue())
              .collect(Collectors.joining(", "));
    };
  }

  private String name(ResourceKey key) {
    if (!naming.tells(key)) {
      return Naming.hidden(Naming.kindOf(key));
    }
    return catalogue.has(key) ? catalogue.nameOf(key) : key.value(); // of a faulty draft
  }

  /** {@return an obstacle as a sentence without a stop} */
  public String obstacle(Obstacle obstacle) {
    return switch (obstacle) {
      case Obstacle.OutsideWindow(Window window) -> "outside its window, " + window(window);
      case Obstacle.NotActivated() -> "not activated";
      case Obstacle.NotForDelegates() -> "just-in-time assignments are not passed on to a delegate";
      case Obstacle.NeedsSecondFactor(RoleKey key) ->
          "needs a second factor, for the role " + told("role", key, catalogue.roles(), "").name();
      case Obstacle.SealedBy(ResourceKey seal) -> "sealed off at " + name(seal);
      case Obstacle.NotMember(Subject subject) -> "not a member of " + subject(subject);
      case Obstacle.GroupRetired(GroupKey key) ->
          "the group " + told("group", key, catalogue.groups(), "").name() + " is retired";
      case Obstacle.RoleRetired(RoleKey key) ->
          "the role " + told("role", key, catalogue.roles(), "").name() + " is retired";
      case Obstacle.DoesNotBelong(AccountKey key) ->
          "does not belong to " + name(ResourceKey.of(key));
      case Obstacle.AccountSuspended(AccountKey key) -> name(ResourceKey.of(key)) + " is suspended";
      case Obstacle.StaysAtHome(AccountKey key) ->
          "its relative terms stay within " + name(ResourceKey.of(key));
      case Obstacle.ReachedForViewingOnly() -> "the unit is reached for viewing only";
      case Obstacle.BridgeNotAccepted(var status) ->
          "the bridge is " + Node.word(status) + ", not accepted";
      case Obstacle.GateMissing(PermissionKey gate, @Nullable ResourceKey at) ->
          "gate missing: "
              + told("permission", gate, catalogue.permissions(), "").name()
              + (at == null ? ", for which there is no place above" : " on " + name(at));
      case Obstacle.DeniedBy(Source source, PrincipalKey who) ->
          "denied by "
              + switch (source) {
                case Source.ByAssignment(AssignmentKey key) ->
                    quoted(Kind.ASSIGNMENTS, key, "the assignment ", assignment(key));
                case Source.ByBridge(BridgeKey key) ->
                    quoted(Kind.BRIDGES, key, "the bridge ", bridge(key));
              }
              + " to "
              + told("person", who, catalogue.principals(), "").name();
      case Obstacle.OutsideDelegation(DelegationKey key, Obstacle.Why why) ->
          "outside "
              + quoted(Kind.DELEGATIONS, key, "the delegation ", delegation(key))
              + ": "
              + switch (why) {
                case NOT_DELEGABLE -> "the permission may not be delegated";
                case LIMIT -> "not within its limit";
                case SCOPE -> "not within its scope";
              };
      case Obstacle.NoDelegation(PrincipalKey who) ->
          "no delegation by " + told("person", who, catalogue.principals(), "").name();
      case Obstacle.PrincipalInactive(PrincipalKey who) ->
          told("person", who, catalogue.principals(), "").name() + " is not active";
    };
  }

  private String quoted(Kind kind, Key key, String article, String name) {
    return naming.tells(kind, key.value()) ? article + "“" + name + "”" : Naming.hidden(kind);
  }

  private static String window(Window window) {
    String from = window.from() == null ? "" : "from " + window.from();
    String until = window.until() == null ? "" : "until " + window.until();
    return (from + " " + until).strip();
  }

  private String subject(Subject subject) {
    return switch (subject) {
      case Subject.OfPrincipal(var _, PrincipalKey key) ->
          told("person", key, catalogue.principals(), "").name();
      case Subject.OfGroup(GroupKey key) -> told("group", key, catalogue.groups(), "").name();
      case Subject.OfPattern(PatternKey key) ->
          told("pattern", key, catalogue.patterns(), "").name();
      case Subject.OfAccount(AccountKey key) -> name(ResourceKey.of(key));
      case Subject.Public who -> publicly(who).toLowerCase(java.util.Locale.ROOT);
    };
  }
}
