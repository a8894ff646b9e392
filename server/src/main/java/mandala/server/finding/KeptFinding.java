package mandala.server.finding;

import java.time.Instant;
import mandala.core.detect.Detection;
import org.jspecify.annotations.Nullable;

/**
 * What a detector found, as it is kept.
 *
 * @param since when it was first found
 * @param revision that was in force then
 * @param resolvedAt when it was no longer found; null while it is
 */
record KeptFinding(Detection it, Instant since, long revision, @Nullable Instant resolvedAt) {}
