package mandala.server.catalog;

import java.time.Instant;
import mandala.core.model.Assignment;
import mandala.document.ChangeText;
import mandala.server.authorization.RequestContext;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * An assignment in words.
 *
 * @param subject its reference, {@code group:K}, and its name
 * @param where its scopes in words
 * @param cannot why the viewer may not change or end it, null where they may
 * @param state {@code in force}, {@code not yet} or {@code over}
 */
record AssignmentView(
    String key,
    String subject,
    String subjectName,
    String gives,
    String givesName,
    boolean denies,
    String where,
    @Nullable Instant from,
    @Nullable Instant until,
    boolean justInTime,
    boolean crossesSeals,
    String state,
    @Nullable String mark,
    @Nullable String cannot,
    JsonNode thing) {

  static AssignmentView of(Assignment it, RequestContext context) {
    Instant at = context.readPolicy().now();
    ChangeText text = context.text();
    ThingView view = ThingView.of(it, context);
    Instant from = it.window().from();
    Instant until = it.window().until();
    return new AssignmentView(
        it.key().value(),
        view.thing().path("subject").asString(""),
        text.subject(it.subject()),
        view.thing().path("gives").asString(""),
        text.gives(it.gives()),
        it.effect() == Assignment.Effect.DENY,
        text.scope(it.scope())
            + (it.viewScope().isEmpty() ? "" : "; for viewing " + text.scope(it.viewScope())),
        from,
        until,
        it.mode() == Assignment.Mode.JUST_IN_TIME,
        it.crossesSeals(),
        it.window().holdsAt(at)
            ? "in force"
            : from != null && at.isBefore(from) ? "not yet" : "over",
        view.mark(),
        view.cannot(),
        view.thing());
  }
}
