package mandala.server;

import static org.assertj.core.api.Assertions.assertThat;

import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.document.ThingDocument;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Things that differ from others in one field. */
public final class Altered {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private Altered() {}

  /** {@return the same thing with another value of a field}, as a document writes them */
  @SuppressWarnings("unchecked") // a thing of a kind is read as one of this kind
  public static <T extends Thing> T with(T thing, String field, String value) {
    ObjectNode json = (ObjectNode) JSON.readTree(ThingDocument.write(thing));
    json.put(field, value);
    ThingDocument.Result read = ThingDocument.read(Kind.of(thing), json.toString());
    assertThat(read.faults()).isEmpty();
    assertThat(read.thing()).isNotNull();
    return (T) java.util.Objects.requireNonNull(read.thing());
  }
}
