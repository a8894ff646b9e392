package mandala.server.model;

import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import mandala.core.model.Resource;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.TypeKey;
import mandala.core.model.key.UnitKey;
import mandala.document.Fragments;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A row of the table {@code resource}. */
@Entity
@Table(name = "resource")
class ResourceRow implements ModelRow {

  @Id private String key = "";

  @Embedded private @Nullable AboutColumns about;

  private String type = "";

  private String account = "";

  private @Nullable String parent;

  private @Nullable String owner;

  private @Nullable String unit;

  @JdbcTypeCode(SqlTypes.JSON)
  private String labels = "{}";

  private boolean sealed;

  static ResourceRow of(Resource it) {
    ResourceRow row = new ResourceRow();
    row.key = it.key().value();
    row.about = AboutColumns.of(it.about());
    row.type = it.type().value();
    row.account = it.account().value();
    row.parent = it.parent() == null ? null : it.parent().value();
    row.owner = it.owner() == null ? null : it.owner().value();
    row.unit = it.unit() == null ? null : it.unit().value();
    row.labels = Fragments.ofTexts(it.labels());
    row.sealed = it.sealed();
    return row;
  }

  @Override
  @SuppressWarnings(
      "NullAway") // javac drops Key.@Nullable X from compact constructors' class files
  public Resource thing() {
    return new Resource(
        new ResourceKey(key),
        AboutColumns.aboutOf(about),
        new TypeKey(type),
        new AccountKey(account),
        parent == null ? null : new ResourceKey(parent),
        owner == null ? null : new PrincipalKey(owner),
        unit == null ? null : new UnitKey(unit),
        Fragments.texts(labels),
        sealed);
  }
}
