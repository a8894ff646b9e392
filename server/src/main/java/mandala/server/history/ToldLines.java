package mandala.server.history;

import java.util.List;
import java.util.Set;
import mandala.core.model.Kind;
import mandala.core.model.key.PrincipalKey;
import mandala.document.References;
import mandala.document.ThingDocument;
import mandala.server.authorization.RequestContext;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * Lines of the trail as one viewer may read them (section 11). A line that also concerns accounts
 * whose trail the viewer may not read, or that names what they may not read, keeps who, when and
 * what kind of act; what was said, and the things themselves, are left out. One's own lines are
 * whole.
 */
final class ToldLines {

  private final RequestContext context;
  private final Set<String> accounts;

  /**
   * Tells lines to a viewer.
   *
   * @param accounts whose trail the viewer may read
   */
  ToldLines(RequestContext context, List<String> accounts) {
    this.context = context;
    this.accounts = Set.copyOf(accounts);
  }

  TrailReader.TrailLine of(TrailReader.Kept kept) {
    TrailReader.TrailLine line = kept.line();
    if (isWhole(kept)) {
      return line;
    }
    Kind kind = line.kind() == null ? null : ThingDocument.kind(line.kind());
    boolean named =
        kind != null && line.thing() != null && context.naming().tells(kind, line.thing());
    return new TrailReader.TrailLine(
        line.seq(),
        line.at(),
        person(line.who()),
        line.who() == null || person(line.who()) != null ? line.whoName() : null,
        person(line.actingFor()),
        line.act(),
        line.revision(),
        line.kind(),
        named ? line.thing() : null,
        named ? line.name() : null,
        "Also concerns what you can't see",
        null,
        null,
        null,
        line.hash());
  }

  private @Nullable String person(@Nullable String key) {
    return key == null || !context.naming().tells(Kind.PRINCIPALS, key) ? null : key;
  }

  private boolean isWhole(TrailReader.Kept kept) {
    TrailReader.TrailLine line = kept.line();
    String who = line.who();
    if ((who != null && context.readPolicy().isViewer(new PrincipalKey(who)))
        || context.readPolicy().readsAll()) {
      return true;
    }
    return accounts.containsAll(kept.accounts())
        && namesWhatMayBeTold(line.kind(), line.before())
        && namesWhatMayBeTold(line.kind(), line.after());
  }

  private boolean namesWhatMayBeTold(@Nullable String field, @Nullable JsonNode thing) {
    Kind kind = field == null ? null : ThingDocument.kind(field);
    return thing == null
        || kind == null
        || References.in(kind, thing).stream()
            .allMatch(it -> context.naming().tells(it.kind(), it.key()));
  }
}
