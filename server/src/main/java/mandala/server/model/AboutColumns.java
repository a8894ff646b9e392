package mandala.server.model;

import jakarta.persistence.Embeddable;
import mandala.core.model.About;
import org.jspecify.annotations.Nullable;

/** The columns of what people say of a thing. */
@Embeddable
class AboutColumns {

  private @Nullable String name;
  private @Nullable String description;
  private @Nullable String note;

  static AboutColumns of(About about) {
    AboutColumns columns = new AboutColumns();
    columns.name = about.name();
    columns.description = about.description();
    columns.note = about.note();
    return columns;
  }

  /** {@return what is said}; columns that are all null are read as no columns at all */
  static About aboutOf(@Nullable AboutColumns columns) {
    return columns == null
        ? About.NONE
        : new About(columns.name, columns.description, columns.note);
  }
}
