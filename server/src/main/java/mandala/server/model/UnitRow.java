package mandala.server.model;

import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import mandala.core.model.Unit;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;

/** A row of the table {@code unit}. */
@Entity
@Table(name = "unit")
class UnitRow implements ModelRow {

  @Id private String key = "";

  @Embedded private @Nullable AboutColumns about;

  private String account = "";

  private @Nullable String parent;

  static UnitRow of(Unit it) {
    UnitRow row = new UnitRow();
    row.key = it.key().value();
    row.about = AboutColumns.of(it.about());
    row.account = it.account().value();
    row.parent = it.parent() == null ? null : it.parent().value();
    return row;
  }

  @Override
  @SuppressWarnings(
      "NullAway") // javac drops Key.@Nullable X from compact constructors' class files
  public Unit thing() {
    return new Unit(
        new UnitKey(key),
        AboutColumns.aboutOf(about),
        new AccountKey(account),
        parent == null ? null : new UnitKey(parent));
  }
}
