package mandala.core.model.check;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.core.model.AccessModel;
import mandala.core.model.Kind;
import mandala.core.model.ResourceType;
import mandala.core.model.Supplied;
import mandala.core.model.Thing;
import mandala.core.model.key.Key;

/** Keys are well formed, free, and unique within their kind; role codes are unique. */
final class KeyCheck {

  private static final java.util.regex.Pattern FORM =
      java.util.regex.Pattern.compile("[a-z0-9][a-z0-9._-]*");

  private final AccessModel model;
  private final Faults faults;

  KeyCheck(AccessModel model, Faults faults) {
    this.model = model;
    this.faults = faults;
  }

  void run() {
    for (Kind kind : Kind.values()) {
      check(kind);
    }
    codes();
  }

  private void check(Kind kind) {
    List<? extends Thing> things = model.things(kind);
    Map<String, Integer> first = new HashMap<>();
    for (int i = 0; i < things.size(); i++) {
      Key named = things.get(i).key();
      if (named == null) {
        continue;
      }
      String key = named.value();
      Faults.Place place = faults.at("$." + kind.field()).index(i).field("key");
      if (!FORM.matcher(key).matches()) {
        place.report(
            "the key '" + key + "' is not well formed",
            "Use small letters, digits, '.', '_' and '-', beginning with a letter or digit");
      }
      if (key.startsWith(Supplied.PREFIX)) {
        place.report(
            "the key '" + key + "' begins with '" + Supplied.PREFIX + "'",
            "That beginning is kept for supplied things; choose another key");
      }
      if (reserved(kind, key)) {
        place.report("no " + kind.word() + " may have the key '" + key + "'", "Choose another key");
      }
      Integer before = first.putIfAbsent(key, i);
      if (before != null) {
        place.report(
            "the key '" + key + "' is taken by $." + kind.field() + "[" + before + "]",
            "Give each " + kind.word() + " a key of its own");
      }
    }
  }

  private static boolean reserved(Kind kind, String key) {
    return switch (kind) {
      case ACCOUNTS, UNITS -> key.equals("own");
      case PRINCIPALS -> key.equals("anonymous");
      case RESOURCE_TYPES ->
          ResourceType.IMPLICIT.stream().anyMatch(type -> type.value().equals(key));
      default -> false;
    };
  }

  private void codes() {
    Map<String, Integer> first = new HashMap<>();
    for (int i = 0; i < model.roles().size(); i++) {
      String code = model.roles().get(i).code();
      if (code == null) {
        continue;
      }
      Faults.Place place = faults.at("$.roles").index(i).field("code");
      if (code.isBlank()) {
        place.report("the code is blank", "Give a short code, or leave the field out");
      }
      Integer before = first.putIfAbsent(code, i);
      if (before != null) {
        place.report(
            "the code '" + code + "' is taken by $.roles[" + before + "]",
            "Give each role a code of its own");
      }
    }
  }
}
