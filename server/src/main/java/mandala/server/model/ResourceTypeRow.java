package mandala.server.model;

import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import mandala.core.model.ResourceType;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.TypeKey;
import org.jspecify.annotations.Nullable;

/** A row of the table {@code resource_type}. */
@Entity
@Table(name = "resource_type")
class ResourceTypeRow implements ModelRow {

  @Id private String key = "";

  @Embedded private @Nullable AboutColumns about;

  private @Nullable String account;

  static ResourceTypeRow of(ResourceType it) {
    ResourceTypeRow row = new ResourceTypeRow();
    row.key = it.key().value();
    row.about = AboutColumns.of(it.about());
    row.account = it.account() == null ? null : it.account().value();
    return row;
  }

  @Override
  @SuppressWarnings(
      "NullAway") // javac drops Key.@Nullable X from compact constructors' class files
  public ResourceType thing() {
    return new ResourceType(
        new TypeKey(key),
        AboutColumns.aboutOf(about),
        account == null ? null : new AccountKey(account));
  }
}
