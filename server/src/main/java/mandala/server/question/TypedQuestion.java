package mandala.server.question;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.BiPredicate;
import java.util.function.Function;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Reads a question in any order and wording: keywords decide which question it is, and names are
 * looked up among those that the person typing may see.
 */
final class TypedQuestion {

  /** The six questions. */
  enum Form {
    ACCESS,
    WHO,
    WHY,
    ESCALATION,
    DIFFERENCE,
    SIDE_BY_SIDE;

    /** {@return the word for it}, {@code side-by-side} */
    String word() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
  }

  /**
   * Something by its name.
   *
   * @param note tells it from others of the same name; empty where there is nothing to say
   */
  record Named(String key, String name, String note) {}

  /** Whether something of a key and a name is wanted. */
  interface Fits extends BiPredicate<String, String> {}

  /** What may stand in a question: of what fits, what the reader may know, the nearest first. */
  interface Names {
    /** {@return whoever types} */
    Named self();

    /** {@return people and services that may be asked about} */
    Stream<Named> people(Fits fits);

    /** {@return permissions that may be named} */
    Stream<Named> permissions(Fits fits);

    /** {@return places that may be named}, accounts and units too */
    Stream<Named> places(Fits fits);
  }

  /**
   * What was understood; what is null was not in the text.
   *
   * @param asked whether the form was in the text too, or only follows from the names in it
   * @param unknown words that say nothing
   */
  record Understood(
      Form form,
      boolean asked,
      @Nullable Named person,
      @Nullable Named other,
      @Nullable Named permission,
      @Nullable Named place,
      List<String> unknown) {}

  private record Intent(Form form, Pattern words) {}

  private static final List<Intent> INTENTS =
      List.of(
          new Intent(Form.SIDE_BY_SIDE, words("side by side|next to each other")),
          new Intent(
              Form.DIFFERENCE, words("differ|differs|difference|differences|compare|versus|vs")),
          new Intent(
              Form.ESCALATION,
              words(
                  "escalate|escalation|how (?:could|can|might|would) .*"
                      + "(?:get|gain|obtain|reach|acquire|come to|come by).*")),
          new Intent(Form.WHY, words("why|how come|^(?:can|may|could|is|does) .*")),
          new Intent(
              Form.WHO,
              words("who|whom|whose|holder|holders|which people|anyone|anybody|everyone")),
          new Intent(Form.ACCESS, words("what|access|rights|permissions|able to")));

  /** Words that say nothing by themselves. */
  private static final Set<String> FILLERS =
      Set.of(
          ("a able am cant about access acquire all allowed an and any anybody anyone are at be "
                  + "between by can can't cannot come compare could did differ difference "
                  + "differences differs do does each effective escalate escalation every everyone "
                  + "for from gain get gets had has have he her his holder holders how i if in into "
                  + "is it list may me might my myself next not now obtain of on or other over "
                  + "people permission permissions person reach right rights see she show side tell "
                  + "than that the their them they this to today under versus view vs was what when "
                  + "where which who whom whose why will with within would")
              .split(" "));

  private static final Set<String> SELF = Set.of("i", "me", "my", "myself");

  private static Pattern words(String alternatives) {
    return Pattern.compile("(?:^|.* )(?:" + alternatives + ")(?: .*|$)");
  }

  private final List<String> words;
  private final boolean[] used;
  private final Names names;

  private TypedQuestion(String text, Names names) {
    this.names = names;
    words = wordsOf(text);
    used = new boolean[words.size()];
  }

  /** {@return what a text asks}, null where nothing in it is known */
  static @Nullable Understood of(String text, Names names) {
    return new TypedQuestion(text, names).read();
  }

  private static List<String> wordsOf(String text) {
    String plain =
        text.toLowerCase(Locale.ROOT)
            .replace('’', '\'')
            .replaceAll("'s\\b", "")
            .replaceAll("[?!.,;:“”\"]+(?=\\s|$)", " ")
            .strip();
    return plain.isEmpty() ? List.of() : List.of(plain.split("\\s+"));
  }

  private @Nullable Understood read() {
    Form form = form();
    Named person = words.stream().anyMatch(SELF::contains) ? names.self() : fully(names::people);
    Named other =
        form == Form.DIFFERENCE || form == Form.SIDE_BY_SIDE || form == null
            ? fully(names::people)
            : null;
    Named permission = permission();
    Named place = fully(names::places);
    if (person == null) {
      person = inPart(null);
    }
    if (other == null && (form == Form.DIFFERENCE || form == Form.SIDE_BY_SIDE)) {
      other = inPart(person);
    }
    if (place == null) {
      place = placeInPart();
    }
    if (person == null && permission == null && place == null) {
      return null;
    }
    Form meant = form == null ? formOf(person, other, permission) : form;
    return meant == null
        ? null
        : new Understood(meant, form != null, person, other, permission, place, unknown());
  }

  private @Nullable Form form() {
    String all = String.join(" ", words);
    return INTENTS.stream()
        .filter(it -> it.words().matcher(all).matches())
        .map(Intent::form)
        .findFirst()
        .orElse(null);
  }

  /** {@return what names alone may ask}, null for a place alone */
  private static @Nullable Form formOf(
      @Nullable Named person, @Nullable Named other, @Nullable Named permission) {
    if (other != null) {
      return Form.DIFFERENCE;
    }
    if (permission != null) {
      return person == null ? Form.WHO : Form.WHY;
    }
    return person == null ? null : Form.ACCESS;
  }

  private List<String> unknown() {
    List<String> unknown = new ArrayList<>();
    for (int at = 0; at < words.size(); at++) {
      if (!used[at] && !FILLERS.contains(words.get(at))) {
        unknown.add(words.get(at));
      }
    }
    return unknown;
  }

  /** {@return the thing with the longest name that the text contains}; marks its words as used */
  private @Nullable Named fully(Function<Fits, Stream<Named>> things) {
    String free = " " + unusedText() + " ";
    Named best =
        longest(
            things.apply((key, name) ->
                free.contains(" " + key + " ")
                    || (free.contains(beginningOf(name))
                        && free.contains(" " + String.join(" ", wordsOf(name)) + " "))));
    if (best != null && !take(wordsOf(best.name()))) {
      take(List.of(best.key()));
    }
    return best;
  }

  /** {@return the first letters of a name}, to pass over most names without reading them */
  private static String beginningOf(String name) {
    return name.substring(0, Math.min(3, name.length())).toLowerCase(Locale.ROOT);
  }

  private static @Nullable Named longest(Stream<Named> things) {
    return things
        .reduce((one, next) -> next.name().length() > one.name().length() ? next : one)
        .orElse(null);
  }

  /** {@return the text without used words}; a gap is a character that no name has */
  private String unusedText() {
    List<String> shown = new ArrayList<>();
    for (int at = 0; at < words.size(); at++) {
      shown.add(used[at] ? "\u0000" : words.get(at));
    }
    return String.join(" ", shown);
  }

  private boolean take(List<String> run) {
    for (int at = 0; at + run.size() <= words.size(); at++) {
      boolean same = true;
      for (int i = 0; same && i < run.size(); i++) {
        same = !used[at + i] && words.get(at + i).equals(run.get(i));
      }
      if (same && !run.isEmpty()) {
        java.util.Arrays.fill(used, at, at + run.size(), true);
        return true;
      }
    }
    return false;
  }

  /** {@return somebody, other than one, by first or last name}; marks that word as used */
  private @Nullable Named inPart(@Nullable Named not) {
    Set<String> left = left();
    Named found =
        left.isEmpty()
            ? null
            : names
                .people((key, name) ->
                    !(not != null && key.equals(not.key())) && namesOneOf(name, left))
                .findFirst()
                .orElse(null);
    if (found != null) {
      wordsOf(found.name()).forEach(it -> take(List.of(it)));
    }
    return found;
  }

  private static boolean namesOneOf(String name, Set<String> words) {
    String lower = name.toLowerCase(Locale.ROOT);
    return words.stream().anyMatch(lower::contains)
        && wordsOf(name).stream().anyMatch(words::contains);
  }

  private Set<String> left() {
    Set<String> left = new HashSet<>(unknown());
    left.removeIf(it -> it.length() < 3);
    return left;
  }

  /** {@return a place whose name has the first unused word}; marks its words as used */
  private @Nullable Named placeInPart() {
    List<String> left = unknown();
    if (left.isEmpty() || left.getFirst().length() < 4) {
      return null;
    }
    String first = left.getFirst();
    Named found =
        names.places((_, name) -> namesOneOf(name, Set.of(first))).findFirst().orElse(null);
    if (found != null) {
      List<String> its = wordsOf(found.name());
      left.stream().filter(its::contains).forEach(it -> take(List.of(it)));
    }
    return found;
  }

  /**
   * {@return the permission whose words the text contains}, in any order and ending; the longest of
   * several. Marks its words as used, but for one that begins a place's name, such as “Loan 114”
   */
  private @Nullable Named permission() {
    Set<String> stems = new HashSet<>();
    for (int at = 0; at < words.size(); at++) {
      if (!used[at]) {
        stems.add(stem(words.get(at)));
      }
    }
    Named best =
        longest(
            names.permissions((key, name) ->
                words.contains(key)
                    || wordsOf(name).stream().map(TypedQuestion::stem).allMatch(stems::contains)));
    if (best != null) {
      Set<String> its = new HashSet<>();
      wordsOf(best.name()).forEach(it -> its.add(stem(it)));
      for (int at = 0; at < words.size(); at++) {
        boolean number = at + 1 < words.size() && words.get(at + 1).matches("\\d.*");
        used[at] |=
            words.get(at).equals(best.key()) || (its.contains(stem(words.get(at))) && !number);
      }
    }
    return best;
  }

  /** {@return a word without its ending}: edit, edits, edited and editing are one */
  private static String stem(String word) {
    for (String ending : List.of("ing", "ed", "es", "s", "e")) {
      if (word.length() - ending.length() >= 3 && word.endsWith(ending)) {
        return word.substring(0, word.length() - ending.length());
      }
    }
    return word;
  }
}
