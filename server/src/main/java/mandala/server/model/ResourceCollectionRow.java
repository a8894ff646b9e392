package mandala.server.model;

import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.util.Arrays;
import mandala.core.model.ResourceCollection;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;

/** A row of the table {@code collection}. */
@Entity
@Table(name = "collection")
class ResourceCollectionRow implements ModelRow {

  @Id private String key = "";

  @Embedded private @Nullable AboutColumns about;

  private String account = "";

  private String[] members = {};

  static ResourceCollectionRow of(ResourceCollection it) {
    ResourceCollectionRow row = new ResourceCollectionRow();
    row.key = it.key().value();
    row.about = AboutColumns.of(it.about());
    row.account = it.account().value();
    row.members = it.members().stream().map(Key::value).toArray(String[]::new);
    return row;
  }

  @Override
  public ResourceCollection thing() {
    return new ResourceCollection(
        new CollectionKey(key),
        AboutColumns.aboutOf(about),
        new AccountKey(account),
        Arrays.stream(members).map(ResourceKey::new).toList());
  }
}
