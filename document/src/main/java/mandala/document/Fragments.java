package mandala.document;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import mandala.core.model.Clause;
import mandala.core.model.Exclusion;
import mandala.core.model.Principal;
import mandala.core.model.Rule;
import mandala.core.model.check.Fault;
import mandala.core.model.key.PermissionKey;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * Parts of a document as JSON texts, for those who keep things in columns: written and read by the
 * same code as whole documents. Reading what was not written here is an {@link
 * IllegalStateException}.
 */
public final class Fragments {

  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final String FIELD = "value";

  private Fragments() {}

  /** {@return a scope as a JSON array} */
  public static String ofScope(List<Clause> scope) {
    ArrayNode array = JsonNodeFactory.instance.arrayNode();
    scope.forEach(clause -> array.add(DocumentWriter.clause(clause)));
    return array.toString();
  }

  /** {@return the scope in a JSON array} */
  public static List<Clause> scope(String json) {
    return read(json, in -> in.objects(FIELD, ScopeReader::clause));
  }

  /** {@return a rule as a JSON object} */
  public static String ofRule(Rule rule) {
    return DocumentWriter.rule(rule).toString();
  }

  /** {@return the rule in a JSON object} */
  public static Rule rule(String json) {
    return read(
        json,
        in -> {
          Rule rule = in.object(FIELD, ScopeReader::rule);
          if (rule == null) {
            throw new IllegalStateException("Impossible state: a kept rule is " + json);
          }
          return rule;
        });
  }

  /** {@return texts by name as a JSON object} */
  public static String ofTexts(Map<String, String> texts) {
    ObjectNode object = JsonNodeFactory.instance.objectNode();
    texts.forEach(object::put);
    return object.toString();
  }

  /** {@return the texts by name in a JSON object} */
  public static Map<String, String> texts(String json) {
    return read(json, in -> in.texts(FIELD));
  }

  /** {@return a reach as a JSON array} */
  public static String ofReach(List<Principal.Reach> reach) {
    ArrayNode array = JsonNodeFactory.instance.arrayNode();
    reach.forEach(it -> array.add(DocumentWriter.reach(it)));
    return array.toString();
  }

  /** {@return the reach in a JSON array} */
  public static List<Principal.Reach> reach(String json) {
    return read(json, in -> in.objects(FIELD, ThingReader::reach));
  }

  /** {@return the sides of an exclusion as a JSON array of arrays} */
  public static String ofSides(List<List<PermissionKey>> sides) {
    return DocumentWriter.sides(sides).toString();
  }

  /** {@return the sides in a JSON array of arrays} */
  public static List<List<PermissionKey>> sides(String json) {
    return read(json, in -> ThingReader.sides(in, FIELD));
  }

  /** {@return exemptions as a JSON array} */
  public static String ofExemptions(List<Exclusion.Exemption> exempt) {
    ArrayNode array = JsonNodeFactory.instance.arrayNode();
    exempt.forEach(it -> array.add(DocumentWriter.exemption(it)));
    return array.toString();
  }

  /** {@return the exemptions in a JSON array} */
  public static List<Exclusion.Exemption> exemptions(String json) {
    return read(json, in -> in.objects(FIELD, ThingReader::exemption));
  }

  private static <T> T read(String json, Function<Node, T> read) {
    ObjectNode holder = JsonNodeFactory.instance.objectNode();
    JsonNode value = JSON.readTree(json);
    holder.set(FIELD, value);
    List<Fault> faults = new ArrayList<>();
    T result = read.apply(new Node(holder, "$", faults));
    if (!faults.isEmpty()) {
      throw new IllegalStateException("Impossible state: " + faults.getFirst() + " in " + json);
    }
    return result;
  }
}
