package mandala.server.question;

import io.swagger.v3.oas.annotations.media.Schema;
import java.time.Instant;
import java.util.List;
import mandala.server.authorization.RequestContext;
import org.jspecify.annotations.Nullable;

/**
 * What an address asks about everybody: permissions by keys, class or risk, and one of {@code on},
 * {@code below} and {@code collection}.
 *
 * @param permission keys of permissions
 * @param accessClass {@code view}, {@code change} or {@code administer}
 * @param risk {@code low}, {@code medium}, {@code high} or {@code critical}
 * @param on key of one resource
 * @param below key of a resource, with all below it
 * @param collection key of a resource collection
 * @param at the instant asked about; now where absent
 * @param secondFactor whether people show a second factor; true where absent
 */
record HoldersParams(
    @Nullable List<String> permission,
    @Nullable String accessClass,
    @Nullable String risk,
    @Nullable String on,
    @Nullable String below,
    @Nullable String collection,
    @Nullable Instant at,
    @Schema(defaultValue = "true") @Nullable Boolean secondFactor) {

  boolean showsSecondFactor() {
    return secondFactor == null || secondFactor;
  }

  /**
   * {@return the question in a model}
   *
   * @throws mandala.server.platform.Problem if something is unknown, or the viewer may not ask
   *     there
   */
  HoldersQuestion in(RequestContext context) {
    return HoldersQuestion.of(
        permission,
        accessClass,
        risk,
        HoldersQuestion.where(on, below, collection, context),
        context.asked().engine().catalogue(),
        context.naming());
  }
}
