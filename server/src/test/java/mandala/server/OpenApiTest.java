package mandala.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * The description that the screens' types are made from is the server's own. {@code ./mandala test
 * -Dmandala.api.update=true} writes it anew; then run {@code npm run api} in web/.
 */
@ApiTest
class OpenApiTest {

  private static final Path KEPT = Path.of("../web/src/shared/api/openapi.json");

  @Test
  void theKeptDescriptionIsCurrent(@Autowired Environment environment) throws IOException {
    JsonNode found = new Caller(environment).get("/v3/api-docs").json();
    ObjectNode server = ((ObjectNode) found).putArray("servers").addObject();
    server.put("url", "/");
    JsonMapper json = JsonMapper.builder().build();
    if (Boolean.getBoolean("mandala.api.update")) {
      Files.writeString(
          KEPT, json.writerWithDefaultPrettyPrinter().writeValueAsString(found) + "\n");
    }
    assertThat(found).isEqualTo(json.readTree(Files.readString(KEPT)));
  }
}
