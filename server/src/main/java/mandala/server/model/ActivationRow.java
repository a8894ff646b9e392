package mandala.server.model;

import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.SequenceGenerator;
import jakarta.persistence.Table;
import mandala.core.model.Activation;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PrincipalKey;
import org.jspecify.annotations.Nullable;

/** A row of the table {@code activation}. */
@Entity
@Table(name = "activation")
class ActivationRow implements ModelRow {

  @Id
  @SequenceGenerator(name = "activation_seq", sequenceName = "activation_seq", allocationSize = 50)
  @GeneratedValue(generator = "activation_seq")
  private @Nullable Long id;

  @Embedded private @Nullable AboutColumns about;

  private String principal = "";

  private String assignment = "";

  @Embedded private @Nullable WindowColumns window;

  static ActivationRow of(Activation it) {
    ActivationRow row = new ActivationRow();
    row.about = AboutColumns.of(it.about());
    row.principal = it.principal().value();
    row.assignment = it.assignment().value();
    row.window = WindowColumns.of(it.window());
    return row;
  }

  @Override
  public Activation thing() {
    return new Activation(
        AboutColumns.aboutOf(about),
        new PrincipalKey(principal),
        new AssignmentKey(assignment),
        WindowColumns.windowOf(window));
  }
}
