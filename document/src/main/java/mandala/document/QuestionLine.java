package mandala.document;

import java.util.ArrayList;
import java.util.List;
import mandala.core.engine.Engine;
import mandala.core.model.check.Fault;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Decision;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * One line of a questions file: {@code {principal, permission, resource, at, mfa, actingFor}} as
 * JSON (section 10), perhaps with the {@code verdict} that is expected.
 *
 * @param question what is asked; null where the line is faulty
 * @param fault what is wrong with the line; null where nothing is
 * @param expected the verdict that the line itself tells, or null
 */
public record QuestionLine(
    @Nullable Question question, @Nullable String fault, @Nullable String expected) {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  /** {@return what a line holds} */
  public static QuestionLine parse(String line) {
    JsonNode json;
    try {
      json = JSON.readTree(line);
    } catch (JacksonException e) {
      return new QuestionLine(null, "the line is not JSON: " + e.getOriginalMessage(), null);
    }
    if (!json.isObject()) {
      return new QuestionLine(null, "the line is not a JSON object", null);
    }
    List<Fault> faults = new ArrayList<>();
    Node in = new Node(json, "$", faults);
    PrincipalKey principal = in.requiredKey("principal", PrincipalKey::new);
    PermissionKey permission = in.requiredKey("permission", PermissionKey::new);
    ResourceKey resource = in.requiredKey("resource", ResourceKey::new);
    java.time.Instant at = in.instant("at");
    if (at == null && !in.has("at")) {
      in.report("$.at", "the field 'at' is missing", "Add an instant like 2026-05-01T09:00:00Z");
    }
    boolean mfa = in.flag("mfa");
    PrincipalKey actingFor = in.key("actingFor", PrincipalKey::new);
    String expected = in.text("verdict");
    if (!faults.isEmpty() || at == null) {
      return new QuestionLine(null, faults.getFirst().toString(), expected);
    }
    return new QuestionLine(
        new Question(principal, permission, resource, at, mfa, actingFor), null, expected);
  }

  /** {@return the decision on the line}, an error with its reason where the line is faulty */
  public Decision decide(Engine engine) {
    return question == null ? new Decision(Verdict.ERROR, fault) : engine.decide(question);
  }

  /** {@return the answer as one line of JSON without a line feed} */
  public String answer(Decision decision) {
    ObjectNode json = JsonNodeFactory.instance.objectNode();
    if (question != null) {
      json.put("principal", question.principal().value());
      json.put("permission", question.permission().value());
      json.put("resource", question.resource().value());
      json.put("at", question.at().toString());
      json.put("mfa", question.mfa());
      if (question.actingFor() != null) {
        json.put("actingFor", question.actingFor().value());
      }
    }
    json.put("verdict", decision.verdict().word());
    if (decision.reason() != null) {
      json.put("reason", decision.reason());
    }
    return json.toString();
  }
}
