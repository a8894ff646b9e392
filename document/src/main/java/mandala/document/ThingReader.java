package mandala.document;

import java.util.List;
import java.util.Objects;
import mandala.core.model.About;
import mandala.core.model.Account;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Pattern;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceCollection;
import mandala.core.model.ResourceType;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Thing;
import mandala.core.model.Unit;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.TypeKey;
import mandala.core.model.key.UnitKey;
import tools.jackson.databind.JsonNode;

/** Reads one thing of each kind. */
@SuppressWarnings("NullAway") // javac drops Key.@Nullable X from compact constructors' class files
final class ThingReader {

  /** Stands where a reference was unreadable and has been reported. */
  private static final Gives NO_GIVES = new Gives.OfRole(new RoleKey("?"));

  private static final Subject NO_SUBJECT = Subject.Public.SIGNED_IN;

  private ThingReader() {}

  static Thing read(Kind kind, Node in) {
    return switch (kind) {
      case ACCOUNTS -> account(in);
      case UNITS ->
          new Unit(
              in.requiredKey("key", UnitKey::new),
              about(in),
              in.requiredKey("account", AccountKey::new),
              in.key("parent", UnitKey::new));
      case PATTERNS ->
          new Pattern(
              in.requiredKey("key", PatternKey::new),
              about(in),
              in.key("account", AccountKey::new),
              in.keys("owners", PrincipalKey::new));
      case PRINCIPALS -> principal(in);
      case GUESTS ->
          new Guest(
              about(in),
              in.requiredKey("principal", PrincipalKey::new),
              in.requiredKey("account", AccountKey::new),
              in.flag("withSubaccounts"),
              window(in),
              in.key("sponsor", PrincipalKey::new));
      case GROUPS -> group(in);
      case RESOURCE_TYPES ->
          new ResourceType(
              in.requiredKey("key", TypeKey::new), about(in), in.key("account", AccountKey::new));
      case PERMISSIONS -> permission(in);
      case PERMISSION_SETS ->
          new PermissionSet(
              in.requiredKey("key", PermissionSetKey::new),
              about(in),
              in.key("account", AccountKey::new),
              in.keys("allow", PermissionKey::new),
              in.keys("deny", PermissionKey::new),
              in.keys("includes", PermissionSetKey::new));
      case ROLES -> role(in);
      case RESOURCES -> resource(in);
      case COLLECTIONS ->
          new ResourceCollection(
              in.requiredKey("key", CollectionKey::new),
              about(in),
              in.requiredKey("account", AccountKey::new),
              in.keys("members", ResourceKey::new));
      case ASSIGNMENTS -> assignment(in);
      case ACTIVATIONS ->
          new Activation(
              about(in),
              in.requiredKey("principal", PrincipalKey::new),
              in.requiredKey("assignment", AssignmentKey::new),
              window(in));
      case BRIDGES -> bridge(in);
      case DELEGATIONS -> delegation(in);
      case EXCLUSIONS -> exclusion(in);
      case EXPECTATIONS -> expectation(in);
    };
  }

  private static About about(Node in) {
    return new About(in.text("name"), in.text("description"), in.text("note"));
  }

  private static Window window(Node in) {
    return new Window(in.instant("from"), in.instant("until"));
  }

  private enum AccountStatus {
    ACTIVE,
    SUSPENDED
  }

  private enum Use {
    ACTIVE,
    RETIRED
  }

  private static boolean retired(Node in) {
    return in.choice("status", Use.class, Use.ACTIVE) == Use.RETIRED;
  }

  private static Account account(Node in) {
    return new Account(
        in.requiredKey("key", AccountKey::new),
        about(in),
        in.key("parent", AccountKey::new),
        in.choice("status", AccountStatus.class, AccountStatus.ACTIVE) == AccountStatus.SUSPENDED,
        in.flag("sealed"));
  }

  private static Principal principal(Node in) {
    return new Principal(
        in.requiredKey("key", PrincipalKey::new),
        about(in),
        in.requiredChoice("kind", Principal.Kind.class),
        in.requiredKey("account", AccountKey::new),
        in.key("unit", UnitKey::new),
        in.key("manager", PrincipalKey::new),
        in.choice("status", Principal.Status.class, Principal.Status.ACTIVE),
        window(in),
        in.flag("mfa"),
        in.texts("attributes"),
        in.key("pattern", PatternKey::new),
        in.objects("reach", ThingReader::reach),
        in.text("email"),
        in.instant("lastSeen"),
        in.key("sponsor", PrincipalKey::new));
  }

  private static Group group(Node in) {
    return new Group(
        in.requiredKey("key", GroupKey::new),
        about(in),
        in.requiredKey("account", AccountKey::new),
        retired(in),
        in.list("members", (value, at) -> in.reference(value, at, Words.MEMBERS, Words::member)),
        in.object("rule", ScopeReader::rule),
        in.keys("owners", PrincipalKey::new));
  }

  private static Permission permission(Node in) {
    return new Permission(
        in.requiredKey("key", PermissionKey::new),
        about(in),
        in.key("account", AccountKey::new),
        in.keys("on", TypeKey::new),
        in.requiredChoice("class", Permission.AccessClass.class),
        in.requiredChoice("risk", Permission.Risk.class),
        in.keys("implies", PermissionKey::new),
        in.keys("requires", PermissionKey::new),
        in.optionalFlag("delegable"));
  }

  private static Role role(Node in) {
    return new Role(
        in.requiredKey("key", RoleKey::new),
        about(in),
        in.key("account", AccountKey::new),
        in.text("code"),
        in.key("basedOn", RoleKey::new),
        retired(in),
        in.keys("sets", PermissionSetKey::new),
        in.keys("inherits", RoleKey::new),
        in.flag("requiresMfa"),
        in.keys("prerequisites", RoleKey::new),
        in.number("minHolders"),
        in.number("maxHolders"),
        in.keys("owners", PrincipalKey::new));
  }

  private static Resource resource(Node in) {
    return new Resource(
        in.requiredKey("key", ResourceKey::new),
        about(in),
        in.requiredKey("type", TypeKey::new),
        in.requiredKey("account", AccountKey::new),
        in.key("parent", ResourceKey::new),
        in.key("owner", PrincipalKey::new),
        in.key("unit", UnitKey::new),
        in.texts("labels"),
        in.flag("sealed"));
  }

  private static List<Clause> scope(Node in, String field) {
    return in.objects(field, ScopeReader::clause);
  }

  private static List<Clause> requiredScope(Node in) {
    return in.requiredList("scope", (value, at) -> in.object(value, at, ScopeReader::clause));
  }

  private static Gives gives(Node in) {
    if (!in.has("gives")) {
      in.report(in.path("gives"), "the field 'gives' is missing", "Add " + Words.GIVES);
      return NO_GIVES;
    }
    return in.raw("gives")
        .map(value -> in.reference(value, in.path("gives"), Words.GIVES, Words::gives))
        .orElse(NO_GIVES);
  }

  private static Assignment assignment(Node in) {
    AssignmentKey key = in.requiredKey("key", AssignmentKey::new);
    if (!in.has("subject")) {
      in.report(in.path("subject"), "the field 'subject' is missing", "Add " + Words.SUBJECTS);
    }
    Subject subject =
        in.raw("subject")
            .map(value -> in.reference(value, in.path("subject"), Words.SUBJECTS, Words::subject))
            .orElse(NO_SUBJECT);
    Gives gives = gives(in);
    Assignment.Effect effect =
        in.choice("effect", Assignment.Effect.class, Assignment.Effect.ALLOW);
    if (in.has("effect") && !(gives instanceof Gives.OfPermission)) {
      in.report(
          in.path("effect"),
          "only a single permission can have an effect",
          "Remove it; only a single permission takes an effect");
    }
    return new Assignment(
        key,
        about(in),
        subject,
        gives,
        effect,
        requiredScope(in),
        scope(in, "viewScope"),
        window(in),
        in.choice("mode", Assignment.Mode.class, Assignment.Mode.STANDING),
        in.flag("crossesSeals"));
  }

  private static Bridge bridge(Node in) {
    return new Bridge(
        in.requiredKey("key", BridgeKey::new),
        about(in),
        in.requiredKey("account", AccountKey::new),
        in.requiredKey("group", GroupKey::new),
        gives(in),
        requiredScope(in),
        window(in),
        in.choice("status", Bridge.Status.class, Bridge.Status.OFFERED));
  }

  private static Delegation delegation(Node in) {
    return new Delegation(
        in.requiredKey("key", DelegationKey::new),
        about(in),
        in.requiredKey("principal", PrincipalKey::new),
        in.requiredKey("delegate", PrincipalKey::new),
        limit(in),
        requiredScope(in),
        window(in));
  }

  private static Delegation.Limit limit(Node in) {
    JsonNode value = in.raw("limit").orElse(null);
    if (value != null && value.isString() && value.stringValue().equals("all")) {
      return new Delegation.Limit.All();
    }
    return new Delegation.Limit.Listed(
        in.requiredList("limit", (item, at) -> in.reference(item, at, Words.GIVES, Words::gives)));
  }

  private static Exclusion exclusion(Node in) {
    return new Exclusion(
        in.requiredKey("key", ExclusionKey::new),
        about(in),
        in.key("account", AccountKey::new),
        sides(in, "sides"),
        Objects.requireNonNullElse(in.number("atMost"), 1),
        in.requiredChoice("where", Exclusion.Where.class),
        in.objects("exempt", ThingReader::exemption));
  }

  static Principal.Reach reach(Node in) {
    return new Principal.Reach(
        in.requiredKey("unit", UnitKey::new), in.requiredChoice("level", Principal.Level.class));
  }

  static List<List<PermissionKey>> sides(Node in, String field) {
    return in.requiredList(
        field,
        (side, at) ->
            in.list(side, at, (value, where) -> in.key(value, where, PermissionKey::new)));
  }

  static Exclusion.Exemption exemption(Node in) {
    return new Exclusion.Exemption(
        in.requiredKey("principal", PrincipalKey::new), in.instant("until"), in.text("reason"));
  }

  private static Expectation expectation(Node in) {
    return new Expectation(
        in.requiredKey("key", ExpectationKey::new),
        about(in),
        in.key("account", AccountKey::new),
        in.requiredChoice("form", Expectation.Form.class),
        in.list("subjects", (value, at) -> in.reference(value, at, Words.SUBJECTS, Words::subject)),
        in.keys("permissions", PermissionKey::new),
        requiredScope(in),
        in.number("min"),
        in.number("max"));
  }
}
