package mandala.server.platform;

import com.fasterxml.jackson.databind.JavaType;
import io.swagger.v3.core.converter.AnnotatedType;
import io.swagger.v3.core.converter.ModelConverter;
import io.swagger.v3.core.converter.ModelConverterContext;
import io.swagger.v3.core.util.Json;
import io.swagger.v3.oas.models.media.Schema;
import java.lang.reflect.RecordComponent;
import java.util.Iterator;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Says in the API description that every part of a record is there, unless it is nullable. */
@Component
class RequiredParts implements ModelConverter {

  @Override
  public @Nullable Schema<?> resolve(
      AnnotatedType type, ModelConverterContext context, Iterator<ModelConverter> chain) {
    Schema<?> schema = chain.hasNext() ? chain.next().resolve(type, context, chain) : null;
    JavaType java = Json.mapper().constructType(type.getType());
    if (schema == null || java == null || !java.getRawClass().isRecord()) {
      return schema;
    }
    Schema<?> defined = context.getDefinedModels().get(java.getRawClass().getSimpleName());
    for (Schema<?> each : defined == null ? List.of(schema) : List.of(schema, defined)) {
      if (each.getProperties() != null) {
        require(each, java.getRawClass());
      }
    }
    return schema;
  }

  private static void require(Schema<?> schema, Class<?> record) {
    for (RecordComponent part : record.getRecordComponents()) {
      boolean nullable = part.getAnnotatedType().isAnnotationPresent(Nullable.class);
      boolean known = schema.getRequired() != null && schema.getRequired().contains(part.getName());
      if (!nullable && !known) {
        schema.addRequiredItem(part.getName());
      }
    }
  }
}
