package mandala.server.platform;

import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.Operation;
import io.swagger.v3.oas.models.PathItem;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.ArraySchema;
import io.swagger.v3.oas.models.media.ObjectSchema;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.parameters.Parameter;
import io.swagger.v3.oas.models.responses.ApiResponse;
import io.swagger.v3.oas.models.security.SecurityScheme;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springdoc.core.utils.SpringDocUtils;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Describes each question in the OpenAPI description by an example about the demo. */
@Component
class ApiDescription implements OpenApiCustomizer {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  static {
    // Things are described by the schema of documents; in this description they are any object.
    Schema<?> object = new ObjectSchema().additionalProperties(true);
    SpringDocUtils.getConfig()
        .replaceWithSchema(JsonNode.class, object)
        .replaceWithSchema(ObjectNode.class, object);
  }

  /**
   * One question, asked.
   *
   * @param query its parameters, by name
   * @param answer a part of what is answered
   */
  record Example(
      String path, String summary, String description, Map<String, String> query, JsonNode answer) {

    /** {@return the address that asks it} */
    String address() {
      return query.isEmpty()
          ? path
          : path
              + query.entrySet().stream()
                  .map(it ->
                      it.getKey() + "=" + URLEncoder.encode(it.getValue(), StandardCharsets.UTF_8))
                  .collect(Collectors.joining("&", "?", ""));
    }
  }

  /** {@return the examples, in the order in which they are kept} */
  static List<Example> examples() {
    try (InputStream in = ApiDescription.class.getResourceAsStream("/mandala/api-examples.json")) {
      if (in == null) {
        throw new IllegalStateException("Impossible state: the examples are not in the build");
      }
      return List.of(JSON.readValue(in, Example[].class));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  @Override
  public void customise(OpenAPI api) {
    api.setInfo(
        new Info()
            .title("Mandala")
            .version("1")
            .description(
                "Every question about access as a call. Who may not ask gets a problem"
                    + " document (RFC 9457). Examples are about the demo."));
    api.getComponents()
        .addSecuritySchemes(
            "token",
            new SecurityScheme()
                .type(SecurityScheme.Type.HTTP)
                .scheme("bearer")
                .description("A token of Settings, Tokens; only what reads takes it."));
    api.getComponents()
        .getSchemas()
        .computeIfPresent(
            "ScopeAsked",
            (_, asked) ->
                asked.addProperty(
                    "scope",
                    new ArraySchema().items(new ObjectSchema().additionalProperties(true))));
    api.getPaths().values().stream()
        .flatMap(it -> it.readOperations().stream())
        .filter(it -> it.getParameters() != null)
        .flatMap(it -> it.getParameters().stream())
        .forEach(ApiDescription::withoutNull);
    for (Example it : examples()) {
      PathItem path = api.getPaths().get(it.path());
      if (path == null) {
        throw new IllegalStateException("Impossible state: no call at " + it.path());
      }
      describe(path.getGet(), it);
    }
  }

  /** What an address leaves out is absent: it cannot say null. */
  private static void withoutNull(Parameter parameter) {
    Schema<?> schema = parameter.getSchema();
    if (schema != null && schema.getTypes() != null) {
      schema.getTypes().remove("null");
    }
  }

  private static void describe(Operation call, Example it) {
    call.setSummary(it.summary());
    call.setDescription(it.description() + "\n\nFor example `GET " + it.address() + "`.");
    if (call.getParameters() != null) {
      for (Parameter parameter : call.getParameters()) {
        String value = it.query().get(parameter.getName());
        if (value != null) {
          parameter.setExample(value);
        }
      }
    }
    ApiResponse answer = call.getResponses().get("200");
    if (answer != null && answer.getContent() != null && !it.answer().isEmpty()) {
      Object told = JSON.treeToValue(it.answer(), Object.class);
      answer.getContent().values().forEach(content -> content.setExample(told));
    }
  }
}
