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
import mandala.core.model.Key;
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
import tools.jackson.databind.JsonNode;

/** Reads one thing of each kind. */
@SuppressWarnings("NullAway") // javac drops Key.@Nullable X from compact constructors' class files
final class ThingReader {

  /** Stands where a reference was unreadable and has been reported. */
  private static final Gives NO_GIVES = new Gives.OfRole(new Key.Role("?"));

  private static final Subject NO_SUBJECT = Subject.Public.SIGNED_IN;

  private ThingReader() {}

  static Thing read(Kind kind, Node in) {
    return switch (kind) {
      case ACCOUNTS -> account(in);
      case UNITS ->
          new Unit(
              in.requiredKey("key", Key.Unit::new),
              about(in),
              in.requiredKey("account", Key.Account::new),
              in.key("parent", Key.Unit::new));
      case PATTERNS ->
          new Pattern(
              in.requiredKey("key", Key.Pattern::new),
              about(in),
              in.key("account", Key.Account::new),
              in.keys("owners", Key.Principal::new));
      case PRINCIPALS -> principal(in);
      case GUESTS ->
          new Guest(
              about(in),
              in.requiredKey("principal", Key.Principal::new),
              in.requiredKey("account", Key.Account::new),
              in.flag("withSubaccounts"),
              window(in),
              in.key("sponsor", Key.Principal::new));
      case GROUPS -> group(in);
      case RESOURCE_TYPES ->
          new ResourceType(
              in.requiredKey("key", Key.Type::new), about(in), in.key("account", Key.Account::new));
      case PERMISSIONS -> permission(in);
      case PERMISSION_SETS ->
          new PermissionSet(
              in.requiredKey("key", Key.PermissionSet::new),
              about(in),
              in.key("account", Key.Account::new),
              in.keys("allow", Key.Permission::new),
              in.keys("deny", Key.Permission::new),
              in.keys("includes", Key.PermissionSet::new));
      case ROLES -> role(in);
      case RESOURCES -> resource(in);
      case COLLECTIONS ->
          new ResourceCollection(
              in.requiredKey("key", Key.Collection::new),
              about(in),
              in.requiredKey("account", Key.Account::new),
              in.keys("members", Key.Resource::new));
      case ASSIGNMENTS -> assignment(in);
      case ACTIVATIONS ->
          new Activation(
              about(in),
              in.requiredKey("principal", Key.Principal::new),
              in.requiredKey("assignment", Key.Assignment::new),
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
        in.requiredKey("key", Key.Account::new),
        about(in),
        in.key("parent", Key.Account::new),
        in.choice("status", AccountStatus.class, AccountStatus.ACTIVE) == AccountStatus.SUSPENDED,
        in.flag("sealed"));
  }

  private static Principal principal(Node in) {
    return new Principal(
        in.requiredKey("key", Key.Principal::new),
        about(in),
        in.requiredChoice("kind", Principal.Kind.class),
        in.requiredKey("account", Key.Account::new),
        in.key("unit", Key.Unit::new),
        in.key("manager", Key.Principal::new),
        in.choice("status", Principal.Status.class, Principal.Status.ACTIVE),
        window(in),
        in.flag("mfa"),
        in.texts("attributes"),
        in.key("pattern", Key.Pattern::new),
        in.objects("reach", ThingReader::reach),
        in.text("email"),
        in.instant("lastSeen"),
        in.key("sponsor", Key.Principal::new));
  }

  private static Group group(Node in) {
    return new Group(
        in.requiredKey("key", Key.Group::new),
        about(in),
        in.requiredKey("account", Key.Account::new),
        retired(in),
        in.list("members", (value, at) -> in.reference(value, at, Words.MEMBERS, Words::member)),
        in.object("rule", ScopeReader::rule),
        in.keys("owners", Key.Principal::new));
  }

  private static Permission permission(Node in) {
    return new Permission(
        in.requiredKey("key", Key.Permission::new),
        about(in),
        in.key("account", Key.Account::new),
        in.keys("on", Key.Type::new),
        in.requiredChoice("class", Permission.AccessClass.class),
        in.requiredChoice("risk", Permission.Risk.class),
        in.keys("implies", Key.Permission::new),
        in.keys("requires", Key.Permission::new),
        in.optionalFlag("delegable"));
  }

  private static Role role(Node in) {
    return new Role(
        in.requiredKey("key", Key.Role::new),
        about(in),
        in.key("account", Key.Account::new),
        in.text("code"),
        in.key("basedOn", Key.Role::new),
        retired(in),
        in.keys("sets", Key.PermissionSet::new),
        in.keys("inherits", Key.Role::new),
        in.flag("requiresMfa"),
        in.keys("prerequisites", Key.Role::new),
        in.number("minHolders"),
        in.number("maxHolders"),
        in.keys("owners", Key.Principal::new));
  }

  private static Resource resource(Node in) {
    return new Resource(
        in.requiredKey("key", Key.Resource::new),
        about(in),
        in.requiredKey("type", Key.Type::new),
        in.requiredKey("account", Key.Account::new),
        in.key("parent", Key.Resource::new),
        in.key("owner", Key.Principal::new),
        in.key("unit", Key.Unit::new),
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
    Key.Assignment key = in.requiredKey("key", Key.Assignment::new);
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
        in.requiredKey("key", Key.Bridge::new),
        about(in),
        in.requiredKey("account", Key.Account::new),
        in.requiredKey("group", Key.Group::new),
        gives(in),
        requiredScope(in),
        window(in),
        in.choice("status", Bridge.Status.class, Bridge.Status.OFFERED));
  }

  private static Delegation delegation(Node in) {
    return new Delegation(
        in.requiredKey("key", Key.Delegation::new),
        about(in),
        in.requiredKey("principal", Key.Principal::new),
        in.requiredKey("delegate", Key.Principal::new),
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
        in.requiredKey("key", Key.Exclusion::new),
        about(in),
        in.key("account", Key.Account::new),
        sides(in, "sides"),
        Objects.requireNonNullElse(in.number("atMost"), 1),
        in.requiredChoice("where", Exclusion.Where.class),
        in.objects("exempt", ThingReader::exemption));
  }

  static Principal.Reach reach(Node in) {
    return new Principal.Reach(
        in.requiredKey("unit", Key.Unit::new), in.requiredChoice("level", Principal.Level.class));
  }

  static List<List<Key.Permission>> sides(Node in, String field) {
    return in.requiredList(
        field,
        (side, at) ->
            in.list(side, at, (value, where) -> in.key(value, where, Key.Permission::new)));
  }

  static Exclusion.Exemption exemption(Node in) {
    return new Exclusion.Exemption(
        in.requiredKey("principal", Key.Principal::new), in.instant("until"), in.text("reason"));
  }

  private static Expectation expectation(Node in) {
    return new Expectation(
        in.requiredKey("key", Key.Expectation::new),
        about(in),
        in.key("account", Key.Account::new),
        in.requiredChoice("form", Expectation.Form.class),
        in.list("subjects", (value, at) -> in.reference(value, at, Words.SUBJECTS, Words::subject)),
        in.keys("permissions", Key.Permission::new),
        requiredScope(in),
        in.number("min"),
        in.number("max"));
  }
}
