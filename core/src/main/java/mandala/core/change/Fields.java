package mandala.core.change;

import java.lang.reflect.RecordComponent;
import java.util.LinkedHashMap;
import java.util.Map;
import mandala.core.model.Thing;
import org.jspecify.annotations.Nullable;

/** The fields of a thing by name. */
final class Fields {

  private Fields() {}

  static Map<String, @Nullable Object> of(Thing thing) {
    Map<String, @Nullable Object> fields = new LinkedHashMap<>();
    try {
      for (RecordComponent part : thing.getClass().getRecordComponents()) {
        fields.put(part.getName(), part.getAccessor().invoke(thing));
      }
    } catch (ReflectiveOperationException e) {
      throw new IllegalStateException("Impossible state: a record hides its parts", e);
    }
    return fields;
  }
}
