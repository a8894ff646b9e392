package mandala.bench;

import java.lang.reflect.Array;
import java.lang.reflect.Field;
import java.lang.reflect.Modifier;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import org.jspecify.annotations.Nullable;

/**
 * What the parts of a model and its snapshot weigh. A part is what can be reached from its fields
 * and not from those of the parts before it: what several share counts for the first.
 */
final class Heap {

  private static final Map<String, List<String>> PARTS = new LinkedHashMap<>();

  static {
    PARTS.put("catalogue: things by key, who refers to whom", List.of("catalogue"));
    PARTS.put("rights and what is given, as rows", List.of("rights", "grantIds", "given", "rows"));
    PARTS.put("directory: people and groups", List.of("directory", "people"));
    PARTS.put("places", List.of("places", "live", "unitParents", "placeLog"));
    PARTS.put("lines by subject", List.of("allow", "deny", "times"));
    PARTS.put(
        "lines by place and ground",
        List.of("allowAt", "denyAt", "allowOf", "denyOf", "anchors", "grounds", "covers"));
  }

  private static final int HEADER = 12;
  private static final int ARRAY_HEADER = 16;
  private static final int REFERENCE = 4;

  private final IdentityHashMap<Object, Boolean> seen = new IdentityHashMap<>(1 << 20);
  private final Map<Class<?>, Shape> shapes = new HashMap<>();
  private final ArrayDeque<Object> open = new ArrayDeque<>();

  /** The size of an instance and the fields that refer to others. */
  private record Shape(long bytes, List<Field> references) {}

  /** Adds a figure for each part, and the heap as the collector sees it, to compare. */
  static void measure(AccessModel model, Engine engine, Results results) {
    Heap heap = new Heap();
    long sum = heap.add(model);
    results.put("heap: the records of the model", "MB", sum / 1e6);
    Object snapshot = Objects.requireNonNull(value(field(engine.getClass(), "it"), engine));
    for (Map.Entry<String, List<String>> part : PARTS.entrySet()) {
      long bytes = 0;
      for (String name : part.getValue()) {
        bytes += heap.add(value(field(snapshot.getClass(), name), snapshot));
      }
      results.put("heap: " + part.getKey(), "MB", bytes / 1e6);
      sum += bytes;
    }
    results.put("heap: together", "MB", sum / 1e6);
  }

  /** {@return the bytes of all that can be reached and was not seen before}: pointers of 4 bytes */
  private long add(@Nullable Object root) {
    long bytes = 0;
    meet(root);
    while (!open.isEmpty()) {
      Object next = open.pop();
      if (next.getClass().isArray()) {
        bytes += array(next);
      } else {
        Shape shape = shapes.computeIfAbsent(next.getClass(), Heap::shape);
        bytes += shape.bytes();
        shape.references().forEach(field -> meet(value(field, next)));
      }
    }
    return bytes;
  }

  private void meet(@Nullable Object it) {
    if (it == null || it instanceof Class || it instanceof Enum) {
      return;
    }
    if (seen.put(it, true) == null) {
      open.push(it);
    }
  }

  private long array(Object it) {
    Class<?> of = it.getClass().getComponentType();
    if (it instanceof Object[] all) {
      for (Object each : all) {
        meet(each);
      }
    }
    return aligned(ARRAY_HEADER + (long) Array.getLength(it) * size(of));
  }

  private static long aligned(long bytes) {
    return (bytes + 7) & ~7;
  }

  private static int size(Class<?> type) {
    if (!type.isPrimitive()) {
      return REFERENCE;
    }
    return type == long.class || type == double.class
        ? 8
        : type == int.class || type == float.class
            ? 4
            : type == short.class || type == char.class ? 2 : 1;
  }

  private static Shape shape(Class<?> type) {
    long bytes = HEADER;
    List<Field> references = new ArrayList<>();
    for (Class<?> at = type; at != null; at = at.getSuperclass()) {
      for (Field field : at.getDeclaredFields()) {
        if (!Modifier.isStatic(field.getModifiers())) {
          bytes += size(field.getType());
          if (!field.getType().isPrimitive()) {
            field.setAccessible(true);
            references.add(field);
          }
        }
      }
    }
    return new Shape(aligned(bytes), references);
  }

  private static @Nullable Object value(Field field, Object owner) {
    try {
      return field.get(owner);
    } catch (IllegalAccessException e) {
      throw new IllegalStateException("Impossible state: no access to " + field, e);
    }
  }

  private static Field field(Class<?> owner, String name) {
    try {
      Field field = owner.getDeclaredField(name);
      field.setAccessible(true);
      return field;
    } catch (NoSuchFieldException e) {
      throw new IllegalStateException("Impossible state: no field " + name, e);
    }
  }
}
