package mandala.server.audit;

import java.util.List;
import mandala.core.model.Kind;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/** Blots out what names one person, in what is kept of the past. */
public interface Blotting {

  /** {@return texts of which at least one is in whatever names them}, case aside */
  List<String> tokens();

  /** {@return a line of the trail without them} */
  AuditEvent line(AuditEvent it);

  /** {@return the key to write instead of a principal's}: another one for theirs alone */
  @Nullable String key(@Nullable String principal);

  /** {@return prose without them} */
  @Nullable String text(@Nullable String prose);

  /** {@return a thing of the model as a document writes it, without them} */
  JsonNode thing(Kind kind, JsonNode thing);
}
