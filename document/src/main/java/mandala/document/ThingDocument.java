package mandala.document;

import java.util.ArrayList;
import java.util.List;
import java.util.function.BiFunction;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.core.model.check.Fault;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * Single things and changes as JSON, written and read as in a whole document (section 10). A change
 * is {@code {"kind": "groups", "before": {…}, "after": {…}}}: without {@code before} a thing comes,
 * without {@code after} one goes.
 */
public final class ThingDocument {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private ThingDocument() {}

  /**
   * What was read of one thing.
   *
   * @param thing null where it has faults
   */
  public record Result(@Nullable Thing thing, List<Fault> faults) {
    /** Copies its faults. */
    public Result {
      faults = List.copyOf(faults);
    }
  }

  /** {@return a thing as a JSON object}, defaults left out */
  public static String write(Thing thing) {
    return DocumentWriter.tree(thing).toString();
  }

  /** {@return a thing of a kind in a JSON object that somebody sent} */
  public static Result read(Kind kind, String json) {
    try {
      return read(kind, JSON.readTree(json), "$");
    } catch (JacksonException e) {
      return new Result(
          null, List.of(new Fault("$", "this is not JSON: " + e.getOriginalMessage(), "Send it")));
    }
  }

  /** {@return a thing of a kind in a JSON value that somebody sent, found at a path} */
  public static Result read(Kind kind, JsonNode json, String path) {
    List<Fault> faults = new ArrayList<>();
    if (!json.isObject()) {
      faults.add(new Fault(path, "this is not an object", "Send the thing with its fields"));
      return new Result(null, faults);
    }
    Node node = new Node(json, path, faults);
    Thing thing = ThingReader.read(kind, node);
    node.close();
    return new Result(faults.isEmpty() ? thing : null, faults);
  }

  /** {@return a kind by the name of its array in a document}, null where there is none */
  public static @Nullable Kind kind(String field) {
    for (Kind kind : Kind.values()) {
      if (kind.field().equals(field)) {
        return kind;
      }
    }
    return null;
  }

  /** {@return changes as a JSON array} */
  public static String write(List<Change> changes) {
    ArrayNode array = JsonNodeFactory.instance.arrayNode();
    for (Change change : changes) {
      ObjectNode object = array.addObject();
      object.put("kind", Draft.Id.of(change).kind().field());
      switch (change) {
        case Change.Added(Thing thing) -> object.set("after", DocumentWriter.tree(thing));
        case Change.Removed(Thing thing) -> object.set("before", DocumentWriter.tree(thing));
        case Change.Altered(Thing before, Thing after) -> {
          object.set("before", DocumentWriter.tree(before));
          object.set("after", DocumentWriter.tree(after));
        }
      }
    }
    return array.toString();
  }

  /**
   * {@return the changes in a JSON array that {@link #write(List)} made}
   *
   * @throws IllegalStateException if something else made it
   */
  public static List<Change> changes(String json) {
    List<Change> changes = new ArrayList<>();
    for (JsonNode object : JSON.readTree(json)) {
      Kind kind = kind(object.path("kind").asString(""));
      if (kind == null) {
        throw new IllegalStateException("Impossible state: a kept change is " + object);
      }
      Thing before = object.has("before") ? kept(kind, object.get("before")) : null;
      Thing after = object.has("after") ? kept(kind, object.get("after")) : null;
      if (before != null && after != null) {
        changes.add(new Change.Altered(before, after));
      } else if (before != null) {
        changes.add(new Change.Removed(before));
      } else if (after != null) {
        changes.add(new Change.Added(after));
      }
    }
    return changes;
  }

  /**
   * {@return the JSON array that {@link #write(List)} made, its things written otherwise}; a change
   * between things that are the same then is left out
   */
  public static String rewritten(String changes, BiFunction<Kind, JsonNode, JsonNode> how) {
    ArrayNode all = JsonNodeFactory.instance.arrayNode();
    for (JsonNode change : JSON.readTree(changes)) {
      Kind kind = kind(change.path("kind").asString(""));
      if (kind == null) {
        throw new IllegalStateException("Impossible state: a kept change is " + change);
      }
      ObjectNode object = JsonNodeFactory.instance.objectNode();
      object.put("kind", kind.field());
      for (String side : List.of("before", "after")) {
        if (change.has(side)) {
          object.set(side, how.apply(kind, change.get(side)));
        }
      }
      if (!object.has("before") || !object.get("before").equals(object.get("after"))) {
        all.add(object);
      }
    }
    return all.toString();
  }

  /** {@return a whole document, its things written otherwise}; their order is kept */
  public static JsonNode rewritten(JsonNode model, BiFunction<Kind, JsonNode, JsonNode> how) {
    ObjectNode all = JsonNodeFactory.instance.objectNode();
    model
        .properties()
        .forEach(it -> {
          Kind kind = kind(it.getKey());
          if (kind == null || !it.getValue().isArray()) {
            all.set(it.getKey(), it.getValue());
            return;
          }
          ArrayNode things = all.putArray(it.getKey());
          it.getValue().forEach(thing -> things.add(how.apply(kind, thing)));
        });
    return all;
  }

  private static Thing kept(Kind kind, JsonNode json) {
    Result result = read(kind, json, "$");
    if (result.thing() == null) {
      throw new IllegalStateException("Impossible state: a kept thing has " + result.faults());
    }
    return result.thing();
  }
}
