package mandala.server.platform;

import mandala.document.Characters;
import org.springframework.boot.jackson.JacksonComponent;
import tools.jackson.core.JsonParser;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.deser.jdk.StringDeserializer;
import tools.jackson.databind.deser.std.StdScalarDeserializer;

/**
 * Reads texts of request bodies: what can't be stored as text is refused where it stands. Parts of
 * bodies that are read as trees are checked by the document's reader.
 */
@JacksonComponent
class StrictText extends StdScalarDeserializer<String> {

  StrictText() {
    super(String.class);
  }

  @Override
  public String deserialize(JsonParser parser, DeserializationContext context) {
    String text = StringDeserializer.instance.deserialize(parser, context);
    return text == null || Characters.areText(text)
        ? text
        : (String) context.handleWeirdStringValue(String.class, text, Characters.EXPECTED);
  }
}
