package mandala.document;

import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Pattern;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceCollection;
import mandala.core.model.ResourceType;
import mandala.core.model.Role;
import mandala.core.model.Rule;
import mandala.core.model.Term;
import mandala.core.model.Thing;
import mandala.core.model.Unit;
import mandala.core.model.Window;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.util.DefaultIndenter;
import tools.jackson.core.util.DefaultPrettyPrinter;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * Writes a model as a {@code mandala-model/1} document in the canonical order, defaults left out,
 * one field a line, so that two versions can be compared line by line. Reading it back gives the
 * model.
 */
public final class DocumentWriter {

  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final DefaultPrettyPrinter PRINTER =
      new DefaultPrettyPrinter()
          .withObjectIndenter(new DefaultIndenter(" ", "\n"))
          .withArrayIndenter(new DefaultIndenter(" ", "\n"));

  private DocumentWriter() {}

  /** {@return a model as a text}, ending with a line feed */
  public static String write(AccessModel model) {
    return JSON.writer().with(PRINTER).writeValueAsString(tree(model)) + "\n";
  }

  /** Writes a model as UTF-8 and flushes, leaving the stream open. */
  public static void write(AccessModel model, OutputStream out) throws java.io.IOException {
    out.write(write(model).getBytes(StandardCharsets.UTF_8));
    out.flush();
  }

  private static ObjectNode tree(AccessModel model) {
    AccessModel sorted = model.sorted();
    ObjectNode document = JsonNodeFactory.instance.objectNode();
    document.put("format", DocumentReader.FORMAT);
    for (Kind kind : Kind.values()) {
      List<? extends Thing> things = sorted.things(kind);
      if (!things.isEmpty()) {
        ArrayNode array = document.putArray(kind.field());
        things.forEach(thing -> array.add(tree(thing)));
      }
    }
    return document;
  }

  static ObjectNode tree(Thing thing) {
    Out out = new Out();
    Key key = thing.key();
    if (key != null) {
      out.text("key", key.value());
    }
    About about = thing.about();
    out.text("name", about.name()).text("description", about.description());
    switch (thing) {
      case Account it ->
          out.key("parent", it.parent())
              .text("status", it.suspended() ? "suspended" : null)
              .flag("sealed", it.sealed());
      case Unit it -> out.key("account", it.account()).key("parent", it.parent());
      case Pattern it -> out.key("account", it.account()).keys("owners", it.owners());
      case Principal it -> principal(it, out);
      case Guest it ->
          out.key("principal", it.principal())
              .key("account", it.account())
              .flag("withSubaccounts", it.withSubaccounts())
              .window(it.window())
              .key("sponsor", it.sponsor());
      case Group it -> group(it, out);
      case ResourceType it -> out.key("account", it.account());
      case Permission it -> permission(it, out);
      case PermissionSet it ->
          out.key("account", it.account())
              .keys("allow", it.allow())
              .keys("deny", it.deny())
              .keys("includes", it.includes());
      case Role it -> role(it, out);
      case Resource it ->
          out.word("type", it.type().value())
              .key("account", it.account())
              .key("parent", it.parent())
              .key("owner", it.owner())
              .key("unit", it.unit())
              .texts("labels", it.labels())
              .flag("sealed", it.sealed());
      case ResourceCollection it -> out.key("account", it.account()).keys("members", it.members());
      case Assignment it -> assignment(it, out);
      case Activation it ->
          out.key("principal", it.principal())
              .key("assignment", it.assignment())
              .window(it.window());
      case Bridge it ->
          out.key("account", it.account())
              .key("group", it.group())
              .word("gives", Words.of(it.gives()))
              .scope("scope", it.scope())
              .window(it.window())
              .choice("status", it.status(), Bridge.Status.OFFERED);
      case Delegation it -> delegation(it, out);
      case Exclusion it -> exclusion(it, out);
      case Expectation it -> expectation(it, out);
    }
    out.text("note", about.note());
    return out.json;
  }

  private static void principal(Principal it, Out out) {
    out.word("kind", Node.word(it.kind()))
        .text("email", it.email())
        .key("account", it.account())
        .key("unit", it.unit())
        .key("manager", it.manager())
        .choice("status", it.status(), Principal.Status.ACTIVE)
        .window(it.window())
        .flag("mfa", it.mfa())
        .texts("attributes", it.attributes())
        .key("pattern", it.pattern())
        .key("sponsor", it.sponsor());
    out.list("reach", it.reach(), DocumentWriter::reach);
    out.instant("lastSeen", it.lastSeen());
  }

  private static void group(Group it, Out out) {
    out.key("account", it.account()).text("status", it.retired() ? "retired" : null);
    out.words("owners", it.owners().stream().map(Key::value).toList());
    out.words("members", it.members().stream().map(Words::of).toList());
    if (it.rule() != null) {
      out.json.set("rule", rule(it.rule()));
    }
  }

  static ObjectNode rule(Rule rule) {
    ObjectNode json = JsonNodeFactory.instance.objectNode();
    ArrayNode tests = json.putArray(rule.match() == Rule.Match.ALL ? "all" : "any");
    rule.tests().forEach(it -> tests.add(test(it)));
    return json;
  }

  static ObjectNode reach(Principal.Reach reach) {
    return new Out().key("unit", reach.unit()).word("level", Node.word(reach.level())).json;
  }

  static ObjectNode exemption(Exclusion.Exemption exempt) {
    return new Out()
        .key("principal", exempt.principal())
        .instant("until", exempt.until())
        .text("reason", exempt.reason())
        .json;
  }

  static ArrayNode sides(List<List<PermissionKey>> sides) {
    ArrayNode json = JsonNodeFactory.instance.arrayNode();
    for (List<PermissionKey> side : sides) {
      ArrayNode permissions = json.addArray();
      side.forEach(permission -> permissions.add(permission.value()));
    }
    return json;
  }

  private static ObjectNode test(Rule.Test test) {
    Out out = new Out();
    out.word("attribute", test.attribute()).word("op", Node.word(test.op()));
    switch (test.op()) {
      case IN -> {
        ArrayNode values = out.json.putArray("value");
        test.values().forEach(values::add);
      }
      case IS, IS_NOT, STARTS_WITH, UNDER -> out.word("value", test.values().getFirst());
      case PRESENT, ABSENT -> {
        // no value
      }
    }
    return out.json;
  }

  private static void permission(Permission it, Out out) {
    out.key("account", it.account())
        .keys("on", it.on())
        .word("class", Node.word(it.accessClass()))
        .word("risk", Node.word(it.risk()))
        .keys("implies", it.implies())
        .keys("requires", it.requires());
    if (it.delegable() != null) {
      out.json.put("delegable", it.delegable());
    }
  }

  private static void role(Role it, Out out) {
    out.text("code", it.code())
        .key("account", it.account())
        .key("basedOn", it.basedOn())
        .text("status", it.retired() ? "retired" : null)
        .keys("owners", it.owners())
        .keys("sets", it.sets())
        .keys("inherits", it.inherits())
        .flag("requiresMfa", it.requiresMfa())
        .keys("prerequisites", it.prerequisites())
        .number("minHolders", it.minHolders())
        .number("maxHolders", it.maxHolders());
  }

  private static void assignment(Assignment it, Out out) {
    out.word("subject", Words.of(it.subject()))
        .word("gives", Words.of(it.gives()))
        .choice("effect", it.effect(), Assignment.Effect.ALLOW)
        .scope("scope", it.scope());
    if (!it.viewScope().isEmpty()) {
      out.scope("viewScope", it.viewScope());
    }
    out.window(it.window())
        .choice("mode", it.mode(), Assignment.Mode.STANDING)
        .flag("crossesSeals", it.crossesSeals());
  }

  private static void delegation(Delegation it, Out out) {
    out.key("principal", it.principal()).key("delegate", it.delegate());
    switch (it.limit()) {
      case Delegation.Limit.All() -> out.word("limit", "all");
      case Delegation.Limit.Listed(var gives) -> {
        ArrayNode limit = out.json.putArray("limit");
        gives.forEach(given -> limit.add(Words.of(given)));
      }
    }
    out.scope("scope", it.scope()).window(it.window());
  }

  private static void exclusion(Exclusion it, Out out) {
    out.key("account", it.account());
    out.json.set("sides", sides(it.sides()));
    out.number("atMost", it.atMost() == 1 ? null : it.atMost());
    out.word("where", Node.word(it.where()));
    out.list("exempt", it.exempt(), DocumentWriter::exemption);
  }

  private static void expectation(Expectation it, Out out) {
    out.key("account", it.account()).word("form", Node.word(it.form()));
    out.words("subjects", it.subjects().stream().map(Words::of).toList());
    out.keys("permissions", it.permissions())
        .scope("scope", it.scope())
        .number("min", it.min())
        .number("max", it.max());
  }

  static ObjectNode clause(Clause clause) {
    Out out = new Out();
    for (Term term : clause.terms()) {
      switch (term) {
        case Term.Everything() -> out.flag("everything", true);
        case Term.InAccount(var key) -> out.key("account", key);
        case Term.OwnAccount() -> out.word("account", "own");
        case Term.Tree(var key) -> out.key("tree", key);
        case Term.Only(var key) -> out.key("only", key);
        case Term.InCollection(var key) -> out.key("collection", key);
        case Term.OfType(var key) -> out.key("type", key);
        case Term.InUnit(var key) -> out.key("unit", key);
        case Term.OwnUnit() -> out.word("unit", "own");
        case Term.OwnedBy(var owner) -> out.word("owner", Node.word(owner));
        case Term.Labelled(var labels) -> {
          ObjectNode names = out.json.putObject("labels");
          labels.forEach(names::put);
        }
      }
    }
    return out.json;
  }

  /** Writes fields, leaving out what is null, false, empty or the default. */
  private static final class Out {
    final ObjectNode json = JsonNodeFactory.instance.objectNode();

    Out word(String field, String value) {
      json.put(field, value);
      return this;
    }

    Out text(String field, @Nullable String value) {
      return value == null ? this : word(field, value);
    }

    Out key(String field, @Nullable Key key) {
      return key == null ? this : word(field, key.value());
    }

    Out flag(String field, boolean value) {
      if (value) {
        json.put(field, true);
      }
      return this;
    }

    Out number(String field, @Nullable Integer value) {
      if (value != null) {
        json.put(field, value);
      }
      return this;
    }

    Out instant(String field, @Nullable Instant value) {
      return value == null ? this : word(field, value.toString());
    }

    Out window(Window window) {
      return instant("from", window.from()).instant("until", window.until());
    }

    <E extends Enum<E>> Out choice(String field, E value, E otherwise) {
      return value == otherwise ? this : word(field, Node.word(value));
    }

    Out keys(String field, List<? extends Key> keys) {
      return words(field, keys.stream().map(Key::value).toList());
    }

    Out words(String field, List<String> words) {
      if (!words.isEmpty()) {
        words.forEach(json.putArray(field)::add);
      }
      return this;
    }

    Out texts(String field, Map<String, String> texts) {
      if (!texts.isEmpty()) {
        texts.forEach(json.putObject(field)::put);
      }
      return this;
    }

    Out scope(String field, List<Clause> scope) {
      ArrayNode clauses = json.putArray(field);
      scope.forEach(it -> clauses.add(clause(it)));
      return this;
    }

    <T> void list(String field, List<T> things, Function<T, ObjectNode> write) {
      if (!things.isEmpty()) {
        ArrayNode array = json.putArray(field);
        things.forEach(thing -> array.add(write.apply(thing)));
      }
    }
  }
}
