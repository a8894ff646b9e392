package mandala.server.draft;

import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.PlaceMerge;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Resource;
import mandala.core.model.Supplied;
import mandala.core.model.Thing;
import mandala.core.model.check.Fault;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.TypeKey;
import mandala.document.KeyStem;
import mandala.document.References;
import mandala.document.ThingDocument;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Turns edits into changes of a draft: all of them, or none where one has faults. */
final class EditReader {

  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final SecureRandom RANDOM = new SecureRandom();

  private final Draft.Builder draft;
  private Catalogue now;

  /** New keys of this call as they were written, and as they were given. */
  private final Map<References.Reference, String> given = new HashMap<>();

  private final RequestContext context;

  private EditReader(Draft draft, RequestContext context) {
    this.draft = draft.builder();
    this.context = context;
    this.now = draft.appliedUnchecked(context.state().engine().catalogue());
  }

  /**
   * {@return a draft with edits put in}
   *
   * @param context of whoever sends them: they name what they may read, or what the draft brings
   * @throws Problem if one cannot be read, does not fit, or names what is not there to their eyes
   */
  static Draft in(Draft draft, RequestContext context, List<Edit> edits) {
    EditReader in = new EditReader(draft, context);
    for (int i = 0; i < edits.size(); i++) {
      in.put(edits.get(i), "$.edits[" + i + "]");
    }
    Draft after = in.draft.build();
    in.requireNamed(after, draft);
    return after;
  }

  /**
   * What a draft newly names is there, and may be named by whoever writes it: what is not there and
   * what may not be read give the same answer.
   */
  private void requireNamed(Draft after, Draft before) {
    Map<Draft.Id, Change> earlier = new HashMap<>();
    before.changes().forEach(it -> earlier.put(Draft.Id.of(it), it));
    List<Fault> faults = new ArrayList<>();
    for (Change change : after.changes()) {
      Change was = earlier.get(Draft.Id.of(change));
      if (change instanceof Change.Removed || change.equals(was)) {
        continue;
      }
      Set<References.Reference> known = new HashSet<>();
      if (change instanceof Change.Altered(Thing thing, var _)) {
        known.addAll(References.of(thing));
      }
      if (was != null) {
        was.things().forEach(thing -> known.addAll(References.of(thing)));
      }
      Thing is = change.things().getLast();
      for (References.Reference it : References.of(is)) {
        if (!known.contains(it) && !mayName(it)) {
          faults.add(
              new Fault(
                  "$." + Kind.of(is).field(),
                  "there is no " + it.kind().word() + " '" + it.key() + "' that you may name",
                  "Choose one from the list"));
        }
      }
    }
    if (!faults.isEmpty()) {
      throw Problem.faultyChange(
          "The edit names what is not there",
          "Nothing was added to the draft. Fix the errors listed and try again.",
          faults.stream().distinct().toList());
    }
  }

  private boolean mayName(References.Reference it) {
    if (it.key().isBlank()) {
      return true; // told as a fault of the thing itself
    }
    boolean there =
        switch (it.kind()) {
          case ROLES -> now.roles().containsKey(new RoleKey(it.key()));
          case PERMISSIONS -> now.permissions().containsKey(new PermissionKey(it.key()));
          case PERMISSION_SETS -> now.sets().containsKey(new PermissionSetKey(it.key()));
          case RESOURCE_TYPES -> now.types().contains(new TypeKey(it.key()));
          default -> !now.find(it.kind(), it.key()).isEmpty();
        };
    return there && context.naming().tells(it.kind(), it.key());
  }

  private void put(Edit edit, String path) {
    Kind kind = ThingDocument.kind(edit.kind());
    if (kind == null) {
      throw Problem.badRequest(
          "There is no kind '" + edit.kind() + "'", "At " + path + ". Write it as in a document.");
    }
    Thing was = was(kind, edit, path);
    if (was != null && !context.readPolicy().mayRead(was, now)) {
      throw gone(kind);
    }
    Key key = was == null ? null : was.key();
    String named = key == null ? edit.key() : key.value();
    if (named != null && named.startsWith(Supplied.PREFIX)) {
      throw Problem.conflict(
          "'" + named + "' is supplied and locked",
          "Copy it and change the copy; the copy keeps the link to its origin.");
    }
    if (edit.mergeInto() != null) {
      ResourceKey into = new ResourceKey(edit.mergeInto().isBlank() ? "?" : edit.mergeInto());
      if (!mayName(new References.Reference(Kind.RESOURCES, into.value()))) {
        throw Problem.conflict(
            "There is no place '" + into + "' to merge into", "Choose one from the list.");
      }
      merge(was, into, path);
      return;
    }
    Change change = change(kind, edit, was, path);
    if (change != null) {
      put(change);
    }
  }

  private void merge(@Nullable Thing was, ResourceKey into, String path) {
    if (!(was instanceof Resource it)) {
      throw Problem.badRequest("Only places are merged", "At " + path + ". Name a resource.");
    }
    try {
      PlaceMerge.of(now, it.key(), into).forEach(this::put);
    } catch (IllegalArgumentException e) {
      throw Problem.conflict("The places do not merge", e.getMessage() + ". Choose another place.");
    }
  }

  private void put(Change change) {
    try {
      draft.add(change);
    } catch (IllegalArgumentException e) {
      throw Problem.conflict(
          "The edit does not fit", e.getMessage() + ". Reload the page and try again.");
    }
    now = Draft.of(List.of(change)).appliedUnchecked(now);
  }

  private @Nullable Thing was(Kind kind, Edit edit, String path) {
    if (edit.before() != null && edit.key() == null) {
      for (Thing each :
          kind == Kind.GUESTS
              ? now.guests()
              : kind == Kind.ACTIVATIONS ? now.activations() : List.<Thing>of()) {
        if (context.readPolicy().mayRead(each, now) && context.json(each).equals(edit.before())) {
          return each; // as it was shown, with marks for what is not told
        }
      }
      Thing before = read(kind, edit.before(), path + ".before");
      Key key = before.key();
      Thing found =
          key != null
              ? now.find(before)
              : now.find(kind, principalOf(before)).stream()
                  .filter(before::equals)
                  .findFirst()
                  .orElse(null);
      if (found == null) {
        throw gone(kind);
      }
      return found;
    }
    if (edit.key() == null) {
      return null;
    }
    String wanted = given.getOrDefault(new References.Reference(kind, edit.key()), edit.key());
    return now.find(kind, wanted).stream().findFirst().orElseThrow(() -> gone(kind));
  }

  private static String principalOf(Thing thing) {
    return switch (thing) {
      case mandala.core.model.Guest it -> it.principal().value();
      case mandala.core.model.Activation it -> it.principal().value();
      default -> throw new IllegalStateException("Impossible state: a keyless " + thing);
    };
  }

  /** {@return that something is not there}, or not to the author's eyes: both read the same */
  static Problem gone(Kind kind) {
    return Problem.conflict(
        "There is no " + kind.word() + " to change",
        "Somebody removed or changed it, or your access does not cover it. Reload the page.");
  }

  private @Nullable Change change(Kind kind, Edit edit, @Nullable Thing was, String path) {
    if (Boolean.TRUE.equals(edit.remove())) {
      if (was == null) {
        throw gone(kind);
      }
      return new Change.Removed(was);
    }
    JsonNode wanted = edit.after();
    if (wanted == null) {
      if (was == null) {
        throw Problem.badRequest("An edit says nothing", "At " + path + ". Send 'after'.");
      }
      wanted = patched(was, edit, path);
    } else if (was == null && wanted instanceof ObjectNode fresh) {
      named(kind, fresh);
    }
    wanted = was == null ? wanted : context.restored(was, wanted);
    wanted =
        References.rewritten(
            kind, wanted, (of, it) -> given.getOrDefault(new References.Reference(of, it), it));
    Thing is = read(kind, wanted, path + ".after");
    Key key = is.key();
    if (key != null && key.value().startsWith(Supplied.PREFIX)) {
      throw Problem.conflict(
          "Keys that begin with '" + Supplied.PREFIX + "' are kept", "Choose another key.");
    }
    if (was == null) {
      if (now.find(is) != null) {
        throw Problem.conflict(
            "There is a " + kind.word() + " with the key '" + key + "' already",
            "Choose another key, or change that one.");
      }
      if (key == null && now.find(kind, principalOf(is)).contains(is)) {
        throw Problem.conflict(
            "This " + kind.word() + " is there already", "Choose another, or leave it as it is.");
      }
      return new Change.Added(is);
    }
    if (key != null && !key.equals(was.key())) {
      throw Problem.badRequest(
          "A key does not change", "At " + path + ". Change the name instead.");
    }
    return was.equals(is) ? null : new Change.Altered(was, is);
  }

  /** Gives a new thing a key that is free: from its name where it has one. */
  private void named(Kind kind, ObjectNode fresh) {
    if (kind == Kind.GUESTS || kind == Kind.ACTIVATIONS) {
      return;
    }
    if (fresh.has("key")) {
      asWritten(kind, fresh);
      return;
    }
    String name = KeyStem.of(fresh.path("name").asString(""));
    String stem = name.isEmpty() ? kind.word().substring(0, 1) : name;
    String key = name.isEmpty() ? stem + "-" + random() : stem;
    while (!now.find(kind, key).isEmpty()) {
      key = stem + "-" + random();
    }
    fresh.put("key", key);
  }

  /**
   * Keys are one space over all accounts. Where one is taken by something that the author may not
   * read, theirs gets an ending instead of a refusal, which would tell what there is elsewhere.
   */
  private void asWritten(Kind kind, ObjectNode fresh) {
    String written = fresh.get("key").asString("");
    List<? extends Thing> taken =
        written.isBlank() ? List.of() : List.copyOf(now.find(kind, written));
    if (taken.stream().allMatch(it -> context.readPolicy().mayRead(it, now))) {
      return;
    }
    String key = written + "-" + random();
    given.put(new References.Reference(kind, written), key);
    fresh.put("key", key);
  }

  static String random() {
    return Long.toString(RANDOM.nextLong(1L << 40), 36);
  }

  private static JsonNode patched(Thing was, Edit edit, String path) {
    ObjectNode tree = (ObjectNode) JSON.readTree(ThingDocument.write(was));
    for (Map.Entry<String, JsonNode> field : fields(edit.set())) {
      if (field.getValue().isNull()) {
        tree.remove(field.getKey());
      } else {
        tree.set(field.getKey(), field.getValue());
      }
    }
    for (Map.Entry<String, JsonNode> field : fields(edit.add())) {
      ArrayNode list = list(tree, field.getKey(), path);
      for (JsonNode entry : field.getValue()) {
        boolean there = false;
        for (JsonNode each : list) {
          there |= each.equals(entry);
        }
        if (!there) {
          list.add(entry);
        }
      }
    }
    for (Map.Entry<String, JsonNode> field : fields(edit.drop())) {
      ArrayNode kept = JSON.createArrayNode();
      for (JsonNode each : list(tree, field.getKey(), path)) {
        boolean goes = false;
        for (JsonNode entry : field.getValue()) {
          goes |= each.equals(entry);
        }
        if (!goes) {
          kept.add(each);
        }
      }
      tree.set(field.getKey(), kept);
    }
    for (String field : List.copyOf(tree.propertyNames())) {
      if (tree.get(field).isArray() && tree.get(field).isEmpty() && !field.endsWith("cope")) {
        tree.remove(field);
      }
    }
    return tree;
  }

  private static ArrayNode list(ObjectNode tree, String field, String path) {
    if (!tree.has(field)) {
      return tree.putArray(field);
    }
    if (tree.get(field) instanceof ArrayNode list) {
      return list;
    }
    throw Problem.badRequest("'" + field + "' is not a list", "At " + path + ". Use 'set'.");
  }

  private static Iterable<Map.Entry<String, JsonNode>> fields(@Nullable JsonNode object) {
    return object == null || !object.isObject() ? List.of() : object.properties();
  }

  private static Thing read(Kind kind, JsonNode json, String path) {
    ThingDocument.Result read = ThingDocument.read(kind, json, path);
    Thing thing = read.thing();
    if (thing == null) {
      throw Problem.faultyChange(
          "The " + kind.word() + " cannot be kept so",
          "Nothing was added to the draft. Fix the errors listed and try again.",
          read.faults());
    }
    return thing;
  }
}
