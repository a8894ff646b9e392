package mandala.server.erasure;

import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import mandala.core.model.Kind;
import mandala.document.References;
import mandala.document.ThingDocument;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Blotting;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;
import tools.jackson.databind.node.StringNode;

/**
 * What names one person, and what is written instead.
 *
 * <ul>
 *   <li>Keys, theirs and those of what was theirs alone, become other keys: in structures wherever
 *       a key is, in prose as a word of their own.
 *   <li>Facts, which are all names, addresses and numbers that they ever had, become {@value #BLOT}
 *       in prose. A fact that somebody else bears too goes only where a key of theirs is beside it.
 *   <li>Of their record stay the key, the account and what past access was decided by: state,
 *       window, unit, manager, pattern, reach, second factor and attributes that rules test.
 * </ul>
 */
final class NamedPerson implements Blotting {

  static final String BLOT = "(erased)";

  /** Fields of a principal that go with their facts (section 10). */
  private static final Set<String> PERSONAL =
      Set.of("email", "lastSeen", "sponsor", "description", "note");

  /** Fields of a thing that are prose. */
  private static final Set<String> PROSE = Set.of("name", "description", "note");

  /** Columns and fields that hold words of the program. */
  static final Set<String> CODES =
      Set.of(
          "kind",
          "state",
          "act",
          "verdict",
          "form",
          "purpose",
          "delivery",
          "mode",
          "effect",
          "status",
          "risk",
          "detector",
          "recommended",
          "outcome",
          "media_type",
          "sha256",
          "hash");

  /** A key of one plain word may be any word of prose, so it is one only behind its kind. */
  private static final Pattern PLAIN = Pattern.compile("\\p{L}+");

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final String principal;
  private final Map<String, String> keys;
  private final List<String> facts;
  private final @Nullable Pattern keyWords;
  private final @Nullable Pattern allFacts;
  private final @Nullable Pattern ownFacts;
  private final Predicate<Identified> inForce;
  private final Set<String> tested;

  /** A thing of the model by its kind and key. */
  record Identified(Kind kind, String key) {}

  /**
   * Somebody who is not in the model in force.
   *
   * @param keys theirs, and those of what was theirs alone, with what is written instead
   * @param facts all names, addresses and numbers that they ever had
   * @param shared whether somebody in the model bears a fact, too
   * @param inForce whether a thing is in the model in force: its prose stays as it is
   * @param tested attributes that rules of groups test: they stay
   */
  NamedPerson(
      String principal,
      Map<String, String> keys,
      Collection<String> facts,
      Predicate<String> shared,
      Predicate<Identified> inForce,
      Set<String> tested) {
    this.tested = Set.copyOf(tested);
    this.principal = principal;
    this.keys = Map.copyOf(keys);
    this.facts = longestFirst(facts.stream().filter(it -> !keys.containsKey(it)));
    this.inForce = inForce;
    keyWords =
        words(
            longestFirst(keys.keySet().stream()).stream().map(NamedPerson::keyWord).toList(),
            "(?<![\\p{L}\\p{N}_-])(?<![\\p{L}\\p{N}][.])",
            "(?![\\p{L}\\p{N}_-]|[.@][\\p{L}\\p{N}])",
            0);
    allFacts = factWords(this.facts);
    ownFacts = factWords(this.facts.stream().filter(it -> !shared.test(it)).toList());
  }

  private static List<String> longestFirst(Stream<String> texts) {
    return texts
        .filter(it -> !it.isBlank())
        .distinct()
        .sorted(Comparator.comparingInt(String::length).reversed().thenComparing(it -> it))
        .toList();
  }

  private static String keyWord(String key) {
    String word = Pattern.quote(key);
    return PLAIN.matcher(key).matches() ? "(?<=person:|service:|\\(removed\\) )" + word : word;
  }

  private static @Nullable Pattern factWords(List<String> facts) {
    return words(
        facts.stream().map(Pattern::quote).toList(),
        "(?<![\\p{L}\\p{N}])",
        "(?![\\p{L}\\p{N}])",
        Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE);
  }

  private static @Nullable Pattern words(
      List<String> words, String before, String after, int flags) {
    return words.isEmpty()
        ? null
        : Pattern.compile(before + "(" + String.join("|", words) + ")" + after, flags);
  }

  @Override
  public List<String> tokens() {
    return Stream.concat(keys.keySet().stream(), facts.stream()).toList();
  }

  @Override
  public @Nullable String key(@Nullable String it) {
    return it == null || !it.equals(principal) ? it : keys.get(it);
  }

  @Override
  public @Nullable String text(@Nullable String prose) {
    return prose == null ? null : text(prose, names(prose));
  }

  /** {@return whether some text has a key of theirs} */
  boolean names(String text) {
    return keyWords != null && keyWords.matcher(text).find();
  }

  /**
   * {@return prose without them}
   *
   * @param about whether it is surely about them: then a fact that others bear goes, too
   */
  String text(String prose, boolean about) {
    String it = prose;
    Pattern pattern = about ? allFacts : ownFacts;
    if (pattern != null) {
      it = pattern.matcher(it).replaceAll(Matcher.quoteReplacement(BLOT));
    }
    return keyWords == null
        ? it
        : keyWords.matcher(it).replaceAll(at -> Matcher.quoteReplacement(replaced(at.group(1))));
  }

  private String replaced(String key) {
    return keys.getOrDefault(key, key);
  }

  @Override
  public AuditEvent line(AuditEvent it) {
    Kind kind = it.kind() == null ? null : ThingDocument.kind(it.kind());
    boolean theirs = principal.equals(it.who());
    boolean theirRecord = kind == Kind.PRINCIPALS && principal.equals(it.thing());
    boolean about =
        theirs
            || theirRecord
            || principal.equals(it.actingFor())
            || Stream.of(it.thing(), it.said(), it.before(), it.after())
                .anyMatch(text -> text != null && names(text));
    return new AuditEvent(
        it.act(),
        key(it.who()),
        theirs ? BLOT : prose(it.whoName(), about),
        key(it.actingFor()),
        it.revision(),
        it.kind(),
        it.thing() == null ? null : identity(kind, it.thing()),
        theirRecord ? BLOT : prose(it.name(), about),
        it.accounts(),
        it.places(),
        theirRecord && it.act() == AuditEvent.Act.CHANGED
            ? "Changed what is erased"
            : text(it.said(), about),
        document(kind, it.before(), about),
        document(kind, it.after(), about),
        theirs ? null : it.address(),
        it.entryDigest(),
        it.modelDigest());
  }

  private @Nullable String prose(@Nullable String text, boolean about) {
    return text == null ? null : text(text, about);
  }

  private @Nullable String document(@Nullable Kind kind, @Nullable String json, boolean about) {
    if (json == null) {
      return null;
    }
    JsonNode tree = tree(json);
    if (tree == null) {
      return text(json, about);
    }
    return (kind == null ? walked(tree, about) : thing(kind, tree, about, true)).toString();
  }

  private static @Nullable JsonNode tree(String json) {
    try {
      return json.startsWith("{") || json.startsWith("[") ? JSON.readTree(json) : null;
    } catch (JacksonException _) {
      return null;
    }
  }

  /** The key of a thing, as it is written from now on. */
  private String identity(@Nullable Kind kind, String key) {
    return kind == Kind.PRINCIPALS && !key.equals(principal) ? key : replaced(key);
  }

  @Override
  public JsonNode thing(Kind kind, JsonNode thing) {
    String key = thing.path("key").asString("");
    // in force it would no longer be what led to what it is now
    boolean rewritable =
        key.isEmpty() ? principal.equals(thing.path("principal").asString("")) : !stays(kind, key);
    return thing(kind, thing, names(thing.toString()), rewritable);
  }

  private boolean stays(Kind kind, String key) {
    return inForce.test(new Identified(kind, key));
  }

  private JsonNode thing(Kind kind, JsonNode thing, boolean about, boolean prose) {
    if (!(References.rewritten(kind, thing, (of, key) -> isOfKeys(of) ? identity(of, key) : key)
        instanceof ObjectNode it)) {
      return walked(thing, about);
    }
    String key = it.path("key").asString("");
    if (kind == Kind.PRINCIPALS) {
      return key.equals(principal) ? blank(it) : it;
    }
    if (isOfKeys(kind) && !key.isEmpty()) {
      it.put("key", replaced(key));
    }
    if (prose) {
      PROSE.stream()
          .filter(field -> it.path(field).isString())
          .forEach(field -> it.put(field, text(it.get(field).stringValue(), about)));
    }
    return it;
  }

  private static boolean isOfKeys(Kind kind) {
    return kind == Kind.PRINCIPALS || kind == Kind.ASSIGNMENTS || kind == Kind.DELEGATIONS;
  }

  private ObjectNode blank(ObjectNode record) {
    record.remove(PERSONAL);
    if (record.get("attributes") instanceof ObjectNode attributes) {
      attributes.retain(tested);
      if (attributes.isEmpty()) {
        record.remove("attributes");
      }
    }
    record.put("key", replaced(principal));
    if (record.has("name")) {
      record.put("name", BLOT);
    }
    return record;
  }

  /**
   * {@return a value without them, as it is kept}: JSON, or prose
   *
   * @param about whether it is beside a key of theirs
   */
  String value(String value, boolean about) {
    JsonNode tree = tree(value);
    if (tree == null) {
      return keys.containsKey(value) ? replaced(value) : text(value, about);
    }
    JsonNode walked = walked(tree, about || names(value));
    return walked.equals(tree) ? value : walked.toString();
  }

  private JsonNode walked(JsonNode at, boolean about) {
    return switch (at) {
      case ObjectNode it -> {
        ObjectNode to = JsonNodeFactory.instance.objectNode();
        it.properties()
            .forEach(each ->
                to.set(
                    text(each.getKey(), false),
                    CODES.contains(each.getKey())
                        ? each.getValue()
                        : walked(each.getValue(), about)));
        yield it.path("key").asString("").equals(principal) ? blank(to) : to;
      }
      case ArrayNode it -> {
        ArrayNode to = JsonNodeFactory.instance.arrayNode();
        it.forEach(each -> to.add(walked(each, about)));
        yield to;
      }
      case StringNode it -> StringNode.valueOf(value(it.stringValue(), about));
      default -> at;
    };
  }

  /** Gathers what names somebody from all records that they ever had. */
  static final class Gathering {

    /** Length of the shortest fact, in letters: a shorter one would be in any prose. */
    private static final int SHORTEST = 3;

    private final String principal;
    private final String erased;
    private final Map<String, String> keys = new HashMap<>();
    private final Set<String> facts = new LinkedHashSet<>();

    /** Facts that may mean anything in other prose: of one word, and all but names. */
    private final Set<String> words = new HashSet<>();

    Gathering(String principal, String erased) {
      this.principal = principal;
      this.erased = erased;
      keys.put(principal, erased);
    }

    /** Takes what one thing tells of them. */
    void add(Kind kind, JsonNode thing, Predicate<Identified> inForce) {
      String key = thing.path("key").asString("");
      if (kind == Kind.PRINCIPALS && key.equals(principal)) {
        fact(thing.path("name").asString(""), false);
        fact(thing.path("email").asString(""), false);
        fact(thing.path("note").asString(""), true);
        fact(thing.path("description").asString(""), true);
        thing.path("attributes").properties().forEach(it -> number(it.getValue().asString("")));
      }
      boolean theirs =
          (kind == Kind.ASSIGNMENTS && isSubject(thing.path("subject").asString("")))
              || (kind == Kind.DELEGATIONS
                  && thing.path("principal").asString("").equals(principal));
      if (theirs && !key.isEmpty() && !inForce.test(new Identified(kind, key))) {
        keys.computeIfAbsent(key, _ -> erased + "." + keys.size());
      }
    }

    private boolean isSubject(String subject) {
      return subject.equals("person:" + principal) || subject.equals("service:" + principal);
    }

    /** A value with a digit is a number of theirs, or where to reach them; others are words. */
    private void number(String value) {
      if (value.chars().anyMatch(Character::isDigit)) {
        fact(value, true);
      }
    }

    private void fact(String text, boolean common) {
      if (text.length() < SHORTEST) {
        return;
      }
      facts.add(text);
      if (common || !(text.contains(" ") || text.contains("@"))) {
        words.add(text.toLowerCase(Locale.ROOT));
      }
    }

    NamedPerson person(
        Collection<String> borne, Predicate<Identified> inForce, Set<String> tested) {
      Set<String> others = new HashSet<>(words);
      borne.forEach(it -> others.add(it.toLowerCase(Locale.ROOT)));
      return new NamedPerson(
          principal,
          keys,
          facts,
          it -> others.contains(it.toLowerCase(Locale.ROOT)),
          inForce,
          tested);
    }
  }
}
