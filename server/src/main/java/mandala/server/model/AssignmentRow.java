package mandala.server.model;

import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import mandala.core.model.Assignment;
import mandala.core.model.key.AssignmentKey;
import mandala.document.Fragments;
import mandala.document.Words;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A row of the table {@code assignment}. */
@Entity
@Table(name = "assignment")
class AssignmentRow implements ModelRow {

  @Id private String key = "";

  @Embedded private @Nullable AboutColumns about;

  private String subject = "";

  private String gives = "";

  @Enumerated(EnumType.STRING)
  private Assignment.Effect effect = Assignment.Effect.values()[0];

  @JdbcTypeCode(SqlTypes.JSON)
  private String scope = "[]";

  @JdbcTypeCode(SqlTypes.JSON)
  private String viewScope = "[]";

  @Embedded private @Nullable WindowColumns window;

  @Enumerated(EnumType.STRING)
  private Assignment.Mode mode = Assignment.Mode.values()[0];

  private boolean crossesSeals;

  static AssignmentRow of(Assignment it) {
    AssignmentRow row = new AssignmentRow();
    row.key = it.key().value();
    row.about = AboutColumns.of(it.about());
    row.subject = Words.of(it.subject());
    row.gives = Words.of(it.gives());
    row.effect = it.effect();
    row.scope = Fragments.ofScope(it.scope());
    row.viewScope = Fragments.ofScope(it.viewScope());
    row.window = WindowColumns.of(it.window());
    row.mode = it.mode();
    row.crossesSeals = it.crossesSeals();
    return row;
  }

  @Override
  public Assignment thing() {
    return new Assignment(
        new AssignmentKey(key),
        AboutColumns.aboutOf(about),
        Words.subject(subject),
        Words.gives(gives),
        effect,
        Fragments.scope(scope),
        Fragments.scope(viewScope),
        WindowColumns.windowOf(window),
        mode,
        crossesSeals);
  }
}
