package mandala.server.model;

import jakarta.persistence.Embeddable;
import java.time.Instant;
import mandala.core.model.Window;
import org.jspecify.annotations.Nullable;

/** The columns of a window. */
@Embeddable
class WindowColumns {

  private @Nullable Instant fromAt;
  private @Nullable Instant untilAt;

  static WindowColumns of(Window window) {
    WindowColumns columns = new WindowColumns();
    columns.fromAt = window.from();
    columns.untilAt = window.until();
    return columns;
  }

  /** {@return the window}; columns that are all null are read as no columns at all */
  static Window windowOf(@Nullable WindowColumns columns) {
    return columns == null ? Window.ALWAYS : new Window(columns.fromAt, columns.untilAt);
  }
}
