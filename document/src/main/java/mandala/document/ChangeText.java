package mandala.document;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Thing;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Changes as sentences without a stop: who joins which group, what is given to whom and where.
 * Names are those of the model after the change, of what goes those before.
 */
public final class ChangeText {

  private final Catalogue before;
  private final Catalogue after;
  private final Naming naming;

  /** Speaks with the names of two catalogues; either may be faulty. */
  public ChangeText(Catalogue before, Catalogue after) {
    this(before, after, Naming.ALL);
  }

  /** Speaks with the names of the models before and after, as far as they may be told. */
  public ChangeText(Catalogue before, Catalogue after, Naming naming) {
    this.before = before;
    this.after = after;
    this.naming = naming;
  }

  /** {@return a change in sentences}, at least one */
  public List<String> sentences(Change change) {
    return switch (change) {
      case Change.Added(Thing thing) -> List.of(comes(thing));
      case Change.Removed(Thing thing) -> List.of(goes(thing));
      case Change.Altered(Thing was, Thing is) -> alters(was, is);
    };
  }

  /** {@return what a thing is called}: its name, else its key, else whom it joins to what */
  public String name(Thing thing) {
    Key key = thing.key();
    if (key != null) {
      return naming.tells(Kind.of(thing), key.value())
          ? named(thing, key)
          : Naming.hidden(Kind.of(thing));
    }
    return switch (thing) {
      case Guest it -> name(Kind.PRINCIPALS, it.principal().value());
      case Activation it -> name(Kind.PRINCIPALS, it.principal().value());
      default -> throw new IllegalStateException("Impossible state: a keyless " + thing);
    };
  }

  private String named(Thing thing, Key key) {
    return switch (thing) {
      case Assignment it -> described(it).assignment(it);
      case Bridge it -> described(it).bridge(it);
      case Delegation it -> described(it).delegation(it);
      default -> thing.about().nameOr(key);
    };
  }

  /** {@return descriptions by the catalogue that has the thing} */
  private Described described(Thing thing) {
    return new Described(after.find(thing) == null ? before : after, naming);
  }

  /** {@return the name of something by its kind and key}, the key where it is nowhere */
  public String name(Kind kind, String key) {
    if (!naming.tells(kind, key)) {
      return Naming.hidden(kind);
    }
    for (Catalogue catalogue : List.of(after, before)) {
      Thing found =
          switch (kind) {
            case ROLES -> catalogue.roles().get(new RoleKey(key));
            case PERMISSIONS -> catalogue.permissions().get(new PermissionKey(key));
            case PERMISSION_SETS -> catalogue.sets().get(new PermissionSetKey(key));
            default -> catalogue.find(kind, key).stream().findFirst().orElse(null);
          };
      if (found != null) {
        Key itself = found.key();
        return itself == null ? key : named(found, itself);
      }
    }
    return key;
  }

  /** {@return the name of a place}, the key where it is nowhere */
  public String place(ResourceKey key) {
    if (!naming.tells(key)) {
      return Naming.hidden(Naming.kindOf(key));
    }
    for (Catalogue catalogue : List.of(after, before)) {
      if (catalogue.has(key)) {
        return catalogue.nameOf(key);
      }
    }
    return key.value();
  }

  /** {@return what is given, by name} */
  public String gives(Gives gives) {
    return switch (gives) {
      case Gives.OfRole(RoleKey key) -> name(Kind.ROLES, key.value());
      case Gives.OfSet(PermissionSetKey key) -> name(Kind.PERMISSION_SETS, key.value());
      case Gives.OfPermission(PermissionKey key) -> name(Kind.PERMISSIONS, key.value());
    };
  }

  /** {@return a subject by name} */
  public String subject(Subject subject) {
    return switch (subject) {
      case Subject.OfPrincipal(var _, PrincipalKey key) -> name(Kind.PRINCIPALS, key.value());
      case Subject.OfGroup(GroupKey key) -> name(Kind.GROUPS, key.value());
      case Subject.OfPattern(PatternKey key) ->
          "Everyone with the pattern " + name(Kind.PATTERNS, key.value());
      case Subject.OfAccount(AccountKey key) -> "Everyone in " + name(Kind.ACCOUNTS, key.value());
      case Subject.Public who ->
          switch (who) {
            case ANYONE -> "Anyone";
            case ANONYMOUS -> "Everyone who is not signed in";
            case SIGNED_IN -> "Everyone signed in";
          };
    };
  }

  /** {@return a scope in words}; an empty one covers nothing */
  public String scope(List<Clause> scope) {
    return scope.isEmpty()
        ? "nowhere yet"
        : String.join(
            "; or ",
            scope.stream().map(clause -> new RouteText(after, naming).clause(clause)).toList());
  }

  /** {@return from when until when, after a comma}; nothing where it is always */
  static String window(Window window) {
    String from = window.from() == null ? "" : ", from " + day(window.from().toString());
    String until = window.until() == null ? "" : ", until " + day(window.until().toString());
    return from + until;
  }

  private static String day(String instant) {
    return instant.endsWith("T00:00:00Z") ? instant.substring(0, 10) : instant;
  }

  private String comes(Thing thing) {
    return switch (thing) {
      case Assignment it -> sentence(it);
      case Guest it ->
          name(it)
              + " becomes a guest of "
              + name(Kind.ACCOUNTS, it.account().value())
              + (it.withSubaccounts() ? " and all below it" : "")
              + window(it.window());
      case Activation it ->
          name(it) + " activates " + assignmentNamed(it.assignment()) + window(it.window());
      case Delegation it ->
          name(Kind.PRINCIPALS, it.delegate().value())
              + " may act for "
              + name(Kind.PRINCIPALS, it.principal().value())
              + window(it.window());
      case Bridge it ->
          name(Kind.GROUPS, it.group().value())
              + (it.status() == Bridge.Status.ACCEPTED ? " gets " : " is offered ")
              + gives(it.gives())
              + " in "
              + name(Kind.ACCOUNTS, it.account().value())
              + window(it.window());
      case Resource it ->
          name(it)
              + " is added to "
              + (it.parent() == null
                  ? name(Kind.ACCOUNTS, it.account().value())
                  : place(it.parent()));
      case Principal it -> name(it) + " is added to " + name(Kind.ACCOUNTS, it.account().value());
      default -> the(thing) + " is added";
    };
  }

  /** {@return what an assignment says} */
  String sentence(Assignment it) {
    return assignment(it, it.effect() == Assignment.Effect.DENY ? " is denied " : " gets ");
  }

  private String the(Thing thing) {
    return "The " + Kind.of(thing).word() + " " + name(thing);
  }

  private String assignment(Assignment it, String verb) {
    return subject(it.subject())
        + verb
        + gives(it.gives())
        + ": "
        + scope(it.scope())
        + (it.viewScope().isEmpty() ? "" : "; for viewing " + scope(it.viewScope()))
        + window(it.window())
        + (it.mode() == Assignment.Mode.JUST_IN_TIME ? ", just-in-time" : "")
        + (it.crossesSeals() ? ", crossing seals" : "");
  }

  /** {@return what an assignment gives}, its key where it is nowhere */
  String assignmentNamed(AssignmentKey key) {
    for (Catalogue catalogue : List.of(after, before)) {
      Assignment it = catalogue.assignments().get(key);
      if (it != null) {
        return described(it).assignment(it);
      }
    }
    return naming.tells(Kind.ASSIGNMENTS, key.value())
        ? key.value()
        : Naming.hidden(Kind.ASSIGNMENTS);
  }

  private String goes(Thing thing) {
    return switch (thing) {
      case Assignment it ->
          assignment(
              it,
              it.effect() == Assignment.Effect.DENY ? " is no longer denied " : " no longer gets ");
      case Guest it ->
          name(it) + " is no longer a guest of " + name(Kind.ACCOUNTS, it.account().value());
      case Activation it -> name(it) + " deactivates " + assignmentNamed(it.assignment());
      case Delegation it ->
          name(Kind.PRINCIPALS, it.delegate().value())
              + " may no longer act for "
              + name(Kind.PRINCIPALS, it.principal().value());
      case Resource it -> name(it) + " is removed";
      case Principal it -> name(it) + " is removed";
      default -> the(thing) + " is removed";
    };
  }

  private List<String> alters(Thing was, Thing is) {
    List<String> said = new ArrayList<>();
    ObjectNode old = DocumentWriter.tree(was);
    ObjectNode now = DocumentWriter.tree(is);
    JsonNode oldTold = told(was, old);
    JsonNode nowTold = told(is, now);
    Set<String> fields = new LinkedHashSet<>(now.propertyNames());
    fields.addAll(old.propertyNames());
    for (String field : fields) {
      JsonNode from = old.get(field);
      JsonNode to = now.get(field);
      if (from == null ? to != null : !from.equals(to)) {
        said.addAll(field(is, field, oldTold.get(field), nowTold.get(field)));
      }
    }
    return said.isEmpty() ? List.of(name(is) + " stays as it is") : said;
  }

  /** A thing's document with what may not be named put into words. */
  private JsonNode told(Thing thing, ObjectNode json) {
    return References.rewritten(
        Kind.of(thing), json, (kind, key) -> naming.tells(kind, key) ? key : Naming.hidden(kind));
  }

  /** What is done to the entries of a set or a role, by its field. */
  private static final Map<String, String> VERBS =
      Map.of(
          "allow", "allowed by ",
          "deny", "denied by ",
          "includes", "included in ",
          "inherits", "inherited by ");

  private List<String> field(
      Thing is, String field, @Nullable JsonNode from, @Nullable JsonNode to) {
    String name = name(is);
    if (is instanceof Group && field.equals("members")) {
      return entries(from, to, " joins " + name, " leaves " + name);
    }
    if (is instanceof Role && field.equals("sets")) {
      return entries(from, to, " is added to " + name, " is removed from " + name);
    }
    String verb = VERBS.get(field);
    if (verb != null && (is instanceof PermissionSet || is instanceof Role)) {
      return entries(from, to, " is now " + verb + name, " is no longer " + verb + name);
    }
    if (field.equals("status")) {
      return List.of(name + status(from, to));
    }
    if (isObject(from) && isObject(to)) {
      return entriesOf(name, from, to);
    }
    if (field.equals("sealed")) {
      return List.of(name + (to == null ? " is no longer sealed" : " is sealed"));
    }
    if ((from == null || from.isArray()) && (to == null || to.isArray()) && plain(from, to)) {
      return entries(
          from,
          to,
          " is added to " + words(field) + " of " + name,
          " is removed from " + words(field) + " of " + name);
    }
    return List.of(name + ": " + words(field) + " " + shown(from) + " becomes " + shown(to));
  }

  private static String status(@Nullable JsonNode from, @Nullable JsonNode to) {
    String was = from == null ? "active" : from.asString("");
    String is = to == null ? "active" : to.asString("");
    return !is.equals("active")
        ? " is " + is + " now"
        : was.equals("invited") ? " begins" : " is active again";
  }

  /** Whether it is a map of texts, or none at all. */
  private static boolean isObject(@Nullable JsonNode it) {
    return it == null || (it.isObject() && it.valueStream().allMatch(JsonNode::isString));
  }

  /** What differs in a map of texts: attributes, labels. */
  private List<String> entriesOf(String name, @Nullable JsonNode from, @Nullable JsonNode to) {
    Set<String> keys = new LinkedHashSet<>();
    List<String> said = new ArrayList<>();
    for (JsonNode map : new JsonNode[] {from, to}) {
      if (map != null) {
        keys.addAll(map.propertyNames());
      }
    }
    for (String key : keys) {
      JsonNode was = from == null ? null : from.get(key);
      JsonNode is = to == null ? null : to.get(key);
      if (was == null ? is != null : !was.equals(is)) {
        said.add(name + ": " + key + " " + shown(was) + " becomes " + shown(is));
      }
    }
    return said;
  }

  /** Whether lists hold texts only. */
  private static boolean plain(@Nullable JsonNode from, @Nullable JsonNode to) {
    for (JsonNode list : new JsonNode[] {from, to}) {
      if (list != null) {
        for (JsonNode entry : list) {
          if (!entry.isString()) {
            return false;
          }
        }
      }
    }
    return from != null || to != null;
  }

  private List<String> entries(
      @Nullable JsonNode from, @Nullable JsonNode to, String comes, String goes) {
    Set<String> old = texts(from);
    Set<String> now = texts(to);
    List<String> said = new ArrayList<>();
    now.stream().filter(it -> !old.contains(it)).forEach(it -> said.add(named(it) + comes));
    old.stream().filter(it -> !now.contains(it)).forEach(it -> said.add(named(it) + goes));
    return said.isEmpty() ? List.of("The order within changes") : said;
  }

  private static Set<String> texts(@Nullable JsonNode list) {
    Set<String> texts = new LinkedHashSet<>();
    if (list != null) {
      list.forEach(entry -> texts.add(entry.asString("")));
    }
    return texts;
  }

  /** The name of what a text refers to, whatever it is. */
  private String named(String reference) {
    int colon = reference.indexOf(':');
    String kind = colon < 0 ? "" : reference.substring(0, colon);
    String key = reference.substring(colon + 1);
    return switch (kind) {
      case "person", "service" -> name(Kind.PRINCIPALS, key);
      case "group" -> name(Kind.GROUPS, key);
      case "role" -> name(Kind.ROLES, key);
      case "account", "unit" -> place(new ResourceKey(reference));
      default -> {
        for (Kind each :
            List.of(
                Kind.PERMISSION_SETS,
                Kind.PERMISSIONS,
                Kind.ROLES,
                Kind.RESOURCES,
                Kind.PRINCIPALS)) {
          if (isThere(each, reference)) {
            yield name(each, reference);
          }
        }
        yield reference;
      }
    };
  }

  private boolean isThere(Kind kind, String key) {
    return List.of(after, before).stream()
        .anyMatch(it ->
            switch (kind) {
              case ROLES -> it.roles().containsKey(new RoleKey(key));
              case PERMISSIONS -> it.permissions().containsKey(new PermissionKey(key));
              case PERMISSION_SETS -> it.sets().containsKey(new PermissionSetKey(key));
              default -> !it.find(kind, key).isEmpty();
            });
  }

  private String shown(@Nullable JsonNode value) {
    if (value == null) {
      return "nothing";
    }
    String text = value.isString() ? named(value.asString("")) : value.toString();
    return "“" + (text.length() > 120 ? text.substring(0, 117) + "…" : text) + "”";
  }

  private static String words(String field) {
    return field.replaceAll("([A-Z])", " $1").toLowerCase(java.util.Locale.ROOT);
  }

  /** {@return the same for the thing that a change is about} */
  public String name(Change change) {
    return name(
        switch (change) {
          case Change.Added(Thing thing) -> thing;
          case Change.Altered(var _, Thing thing) -> thing;
          case Change.Removed(Thing thing) -> thing;
        });
  }

  /** {@return the kind of a change's thing, in words} */
  public static String kind(Change change) {
    return Draft.Id.of(change).kind().word();
  }
}
