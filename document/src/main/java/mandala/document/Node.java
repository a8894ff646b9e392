package mandala.document;

import java.time.Instant;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import mandala.core.model.check.Fault;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * A JSON object being read: each field is asked for by name and kind; what is missing, of another
 * kind or never asked for is a fault with its path. A faulty value reads as if it were not there,
 * so that one run finds all faults.
 */
final class Node {

  private static final java.util.regex.Pattern INSTANT =
      java.util.regex.Pattern.compile("\\d{4}-\\d\\d-\\d\\dT\\d\\d:\\d\\d:\\d\\dZ");

  private static final java.util.regex.Pattern DAY =
      java.util.regex.Pattern.compile("\\d{4}-\\d\\d-\\d\\d");

  private final JsonNode json;
  private final String path;
  private final List<Fault> faults;
  private final Set<String> asked = new LinkedHashSet<>();

  Node(JsonNode json, String path, List<Fault> faults) {
    this.json = json;
    this.path = path;
    this.faults = faults;
  }

  String path(String field) {
    return path + "." + field;
  }

  void report(String where, String what, String next) {
    faults.add(new Fault(where, what, next));
  }

  /** Reports every field that nobody asked for. */
  void close() {
    for (String field : json.propertyNames()) {
      if (!asked.contains(field)) {
        report(
            path(field),
            "the field '" + field + "' is unknown here",
            "Remove it, or use one of: " + String.join(", ", asked));
      }
    }
  }

  boolean has(String field) {
    return get(field) != null;
  }

  private @Nullable JsonNode get(String field) {
    asked.add(field);
    return json.get(field);
  }

  private <T> @Nullable T wrong(String where, JsonNode value, String expected) {
    String text = value.toString();
    String shown = text.length() > 60 ? text.substring(0, 57) + "..." : text;
    report(where, "found " + shown + " instead of " + expected, "Write " + expected);
    return null;
  }

  private <T> T missing(String field, T placeholder) {
    if (!json.has(field)) { // what is there but wrong has been reported
      report(path(field), "the field '" + field + "' is missing", "Add it");
    }
    return placeholder;
  }

  @Nullable String text(String field) {
    JsonNode value = get(field);
    return value == null ? null : text(value, path(field));
  }

  private @Nullable String text(JsonNode value, String where) {
    if (!value.isString()) {
      return wrong(where, value, "a text");
    }
    return Characters.areText(value.stringValue())
        ? value.stringValue()
        : wrong(where, value, Characters.EXPECTED);
  }

  /** A text that must not be blank, made into something. */
  <T> @Nullable T key(String field, Function<String, T> make) {
    JsonNode value = get(field);
    return value == null ? null : key(value, path(field), make);
  }

  <T> @Nullable T key(JsonNode value, String where, Function<String, T> make) {
    String text = text(value, where);
    if (text == null) {
      return null;
    }
    return text.isBlank() ? wrong(where, value, "a key") : make.apply(text);
  }

  <T> T requiredKey(String field, Function<String, T> make) {
    T key = key(field, make);
    return key == null ? missing(field, make.apply("?")) : key;
  }

  boolean flag(String field) {
    Boolean value = optionalFlag(field);
    return value != null && value;
  }

  @Nullable Boolean optionalFlag(String field) {
    JsonNode value = get(field);
    if (value == null) {
      return null;
    }
    return value.isBoolean() ? value.booleanValue() : wrong(path(field), value, "true or false");
  }

  @Nullable Integer number(String field) {
    JsonNode value = get(field);
    if (value == null) {
      return null;
    }
    return value.isInt() ? value.intValue() : wrong(path(field), value, "a whole number");
  }

  /** A whole number of any size that fits, or another where there is none. */
  long wholeNumber(String field, long otherwise) {
    JsonNode value = get(field);
    if (value == null) {
      return otherwise;
    }
    if (!value.isIntegralNumber() || !value.canConvertToLong()) {
      wrong(path(field), value, "a whole number");
      return otherwise;
    }
    return value.longValue();
  }

  /** {@return whether a field is there and says that there is nothing} */
  boolean isNull(String field) {
    JsonNode value = get(field);
    return value != null && value.isNull();
  }

  LocalDate requiredDay(String field) {
    JsonNode value = get(field);
    if (value == null) {
      return missing(field, LocalDate.EPOCH);
    }
    try {
      if (value.isString() && DAY.matcher(value.stringValue()).matches()) {
        return LocalDate.parse(value.stringValue());
      }
    } catch (DateTimeParseException _) {
      // no such day: told below
    }
    wrong(path(field), value, "a day like 2026-05-01");
    return LocalDate.EPOCH;
  }

  @Nullable Instant instant(String field) {
    JsonNode value = get(field);
    if (value == null) {
      return null;
    }
    String expected = "an instant like 2026-05-01T09:00:00Z";
    if (value.isString() && INSTANT.matcher(value.stringValue()).matches()) {
      try {
        return Instant.parse(value.stringValue());
      } catch (DateTimeParseException _) {
        return wrong(path(field), value, expected);
      }
    }
    return wrong(path(field), value, expected);
  }

  static String word(Enum<?> constant) {
    return constant.name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  <E extends Enum<E>> @Nullable E choice(String field, Class<E> type) {
    JsonNode value = get(field);
    if (value == null) {
      return null;
    }
    List<String> words = new ArrayList<>();
    for (E constant : type.getEnumConstants()) {
      if (value.isString() && word(constant).equals(value.stringValue())) {
        return constant;
      }
      words.add(word(constant));
    }
    return wrong(path(field), value, "one of " + String.join(", ", words));
  }

  <E extends Enum<E>> E choice(String field, Class<E> type, E otherwise) {
    E choice = choice(field, type);
    return choice == null ? otherwise : choice;
  }

  <E extends Enum<E>> E requiredChoice(String field, Class<E> type) {
    E choice = choice(field, type);
    return choice == null ? missing(field, type.getEnumConstants()[0]) : choice;
  }

  <T> List<T> keys(String field, Function<String, T> make) {
    return list(field, (value, where) -> key(value, where, make));
  }

  /** Reads one value of a list. */
  @FunctionalInterface
  interface Read<T> {
    @Nullable T from(JsonNode value, String where);
  }

  <T> List<T> list(String field, Read<T> read) {
    JsonNode value = get(field);
    return value == null ? List.of() : list(value, path(field), read);
  }

  <T> List<T> list(JsonNode value, String where, Read<T> read) {
    if (!value.isArray()) {
      wrong(where, value, "a list");
      return List.of();
    }
    List<T> result = new ArrayList<>();
    for (int i = 0; i < value.size(); i++) {
      T item = read.from(value.get(i), where + "[" + i + "]");
      if (item != null) {
        result.add(item);
      }
    }
    return result;
  }

  <T> List<T> requiredList(String field, Read<T> read) {
    return has(field) ? list(field, read) : missing(field, List.of());
  }

  <T> List<T> objects(String field, Function<Node, T> read) {
    return list(field, (value, where) -> object(value, where, read));
  }

  <T> @Nullable T object(String field, Function<Node, T> read) {
    JsonNode value = get(field);
    return value == null ? null : object(value, path(field), read);
  }

  <T> @Nullable T object(JsonNode value, String where, Function<Node, T> read) {
    if (!value.isObject()) {
      return wrong(where, value, "an object");
    }
    Node node = new Node(value, where, faults);
    T result = read.apply(node);
    node.close();
    return result;
  }

  Optional<JsonNode> raw(String field) {
    return Optional.ofNullable(get(field));
  }

  /** An object of texts by name. */
  Map<String, String> texts(String field) {
    JsonNode value = get(field);
    Map<String, String> texts = new LinkedHashMap<>();
    if (value == null) {
      return texts;
    }
    if (!value.isObject()) {
      wrong(path(field), value, "an object");
      return texts;
    }
    for (Map.Entry<String, JsonNode> entry : value.properties()) {
      String where = path(field) + "." + entry.getKey();
      if (!Characters.areText(entry.getKey())) {
        report(where, "this name can't be kept", "Use " + Characters.EXPECTED);
        continue;
      }
      String text = text(entry.getValue(), where);
      if (text != null) {
        texts.put(entry.getKey(), text);
      }
    }
    return texts;
  }

  /** A reference {@code kind:key}, read by a function that gives null where the kind is unknown. */
  <T> @Nullable T reference(JsonNode value, String where, String kinds, Reference<T> make) {
    String text = text(value, where);
    if (text == null) {
      return null;
    }
    int colon = text.indexOf(':');
    String kind = colon < 0 ? text : text.substring(0, colon);
    String rest = colon < 0 ? "" : text.substring(colon + 1);
    T made = colon >= 0 && rest.isBlank() ? null : make.from(kind, rest);
    return made == null ? wrong(where, value, "one of " + kinds) : made;
  }

  /** Makes a reference of its kind and key; null where it knows no such kind. */
  @FunctionalInterface
  interface Reference<T> {
    @Nullable T from(String kind, String key);
  }
}
