package mandala.document;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;
import tools.jackson.databind.node.StringNode;

/**
 * The references in a thing as a document writes it (sections 1, 2, 4, 8 and 9): what it names
 * besides itself. One table of fields, so that what is read, hidden and checked by name is the
 * same.
 */
public final class References {

  private References() {}

  /** Something that a thing names. */
  public record Reference(Kind kind, String key) {}

  /** Gives the key to write in place of a reference's; the same key leaves it. */
  @FunctionalInterface
  public interface Rewriting {
    /** {@return the key to write} */
    String of(Kind kind, String key);
  }

  /** Fields that hold a key, or a list of keys, of one kind. */
  private static final Map<String, Kind> KEYS =
      Map.ofEntries(
          Map.entry("account", Kind.ACCOUNTS),
          Map.entry("unit", Kind.UNITS),
          Map.entry("manager", Kind.PRINCIPALS),
          Map.entry("sponsor", Kind.PRINCIPALS),
          Map.entry("owner", Kind.PRINCIPALS),
          Map.entry("owners", Kind.PRINCIPALS),
          Map.entry("principal", Kind.PRINCIPALS),
          Map.entry("delegate", Kind.PRINCIPALS),
          Map.entry("pattern", Kind.PATTERNS),
          Map.entry("group", Kind.GROUPS),
          Map.entry("basedOn", Kind.ROLES),
          Map.entry("inherits", Kind.ROLES),
          Map.entry("prerequisites", Kind.ROLES),
          Map.entry("sets", Kind.PERMISSION_SETS),
          Map.entry("includes", Kind.PERMISSION_SETS),
          Map.entry("allow", Kind.PERMISSIONS),
          Map.entry("deny", Kind.PERMISSIONS),
          Map.entry("implies", Kind.PERMISSIONS),
          Map.entry("requires", Kind.PERMISSIONS),
          Map.entry("permissions", Kind.PERMISSIONS),
          Map.entry("sides", Kind.PERMISSIONS),
          Map.entry("on", Kind.RESOURCE_TYPES),
          Map.entry("type", Kind.RESOURCE_TYPES),
          Map.entry("collection", Kind.COLLECTIONS),
          Map.entry("assignment", Kind.ASSIGNMENTS));

  /** Fields that hold a reference with its kind before it, or a list of such. */
  private static final Set<String> PREFIXED = Set.of("subject", "subjects", "gives", "limit");

  private static final Map<String, Kind> PREFIXES =
      Map.of(
          "person", Kind.PRINCIPALS,
          "service", Kind.PRINCIPALS,
          "group", Kind.GROUPS,
          "pattern", Kind.PATTERNS,
          "account", Kind.ACCOUNTS,
          "unit", Kind.UNITS,
          "role", Kind.ROLES,
          "set", Kind.PERMISSION_SETS,
          "permission", Kind.PERMISSIONS);

  /** Attributes of rules whose values are references. */
  private static final Map<String, Kind> TESTED =
      Map.of("unit", Kind.UNITS, "manager", Kind.PRINCIPALS, "account", Kind.ACCOUNTS);

  /** {@return what a thing names besides itself}, in the order of its document, doubles kept */
  public static List<Reference> of(Thing thing) {
    return in(Kind.of(thing), DocumentWriter.tree(thing));
  }

  /** {@return what a thing of a kind names}, as somebody wrote it; what is malformed is left out */
  public static List<Reference> in(Kind kind, JsonNode json) {
    List<Reference> found = new ArrayList<>();
    rewritten(
        kind,
        json,
        (of, key) -> {
          found.add(new Reference(of, key));
          return key;
        });
    return found;
  }

  /** {@return a thing of a kind with other keys in its references}; the node stays as it is */
  public static JsonNode rewritten(Kind kind, JsonNode json, Rewriting rewriting) {
    return json instanceof ObjectNode object ? new Walk(kind, rewriting).thing(object) : json;
  }

  private record Walk(Kind kind, Rewriting rewriting) {

    ObjectNode thing(ObjectNode from) {
      ObjectNode to = JsonNodeFactory.instance.objectNode();
      from.properties().forEach(it -> to.set(it.getKey(), field(it.getKey(), it.getValue())));
      return to;
    }

    private JsonNode field(String name, JsonNode value) {
      return switch (name) {
        case "scope", "viewScope" -> each(value, this::clause);
        case "rule" -> rule(value);
        case "reach", "exempt" -> each(value, it -> it instanceof ObjectNode o ? thing(o) : it);
        case "parent" ->
            switch (kind) {
              case ACCOUNTS -> each(value, it -> key(Kind.ACCOUNTS, it));
              case UNITS -> each(value, it -> key(Kind.UNITS, it));
              default -> each(value, this::place);
            };
        case "members" -> each(value, kind == Kind.COLLECTIONS ? this::place : this::prefixed);
        default -> {
          Kind of = KEYS.get(name);
          yield of != null
              ? each(value, it -> key(of, it))
              : PREFIXED.contains(name) ? each(value, this::prefixed) : value;
        }
      };
    }

    /** Lists, and lists of lists, entry by entry. */
    private static JsonNode each(JsonNode value, java.util.function.UnaryOperator<JsonNode> how) {
      if (!value.isArray()) {
        return how.apply(value);
      }
      ArrayNode to = JsonNodeFactory.instance.arrayNode();
      value.forEach(it -> to.add(each(it, how)));
      return to;
    }

    private JsonNode key(Kind of, JsonNode value) {
      return value.isString() ? StringNode.valueOf(rewriting.of(of, value.stringValue())) : value;
    }

    /** A resource, or an account, unit or group as one. */
    private JsonNode place(JsonNode value) {
      if (!value.isString() || value.stringValue().isBlank()) {
        return value;
      }
      String text = value.stringValue();
      Kind of = Naming.kindOf(new ResourceKey(text));
      return of == Kind.RESOURCES ? key(of, value) : prefixed(value);
    }

    private JsonNode prefixed(JsonNode value) {
      String text = value.isString() ? value.stringValue() : "";
      int colon = text.indexOf(':');
      @Nullable Kind of = colon < 0 ? null : PREFIXES.get(text.substring(0, colon));
      return of == null
          ? value
          : StringNode.valueOf(
              text.substring(0, colon + 1) + rewriting.of(of, text.substring(colon + 1)));
    }

    private JsonNode clause(JsonNode value) {
      if (!(value instanceof ObjectNode from)) {
        return value;
      }
      ObjectNode to = JsonNodeFactory.instance.objectNode();
      from.properties()
          .forEach(it ->
              to.set(
                  it.getKey(),
                  switch (it.getKey()) {
                    case "tree", "only" -> place(it.getValue());
                    case "account", "unit" ->
                        it.getValue().asString("").equals("own")
                            ? it.getValue()
                            : field(it.getKey(), it.getValue());
                    case "collection", "type" -> field(it.getKey(), it.getValue());
                    default -> it.getValue();
                  }));
      return to;
    }

    private JsonNode rule(JsonNode value) {
      if (!(value instanceof ObjectNode from)) {
        return value;
      }
      ObjectNode to = JsonNodeFactory.instance.objectNode();
      from.properties().forEach(it -> to.set(it.getKey(), each(it.getValue(), this::test)));
      return to;
    }

    private JsonNode test(JsonNode value) {
      Kind of = TESTED.get(value.path("attribute").asString(""));
      if (of == null || !(value instanceof ObjectNode from) || !from.has("value")) {
        return value;
      }
      ObjectNode to = from.deepCopy();
      to.set("value", each(from.get("value"), it -> key(of, it)));
      return to;
    }
  }
}
