package mandala.server.model;

import jakarta.persistence.Column;
import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.util.Arrays;
import mandala.core.model.PermissionSet;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import org.jspecify.annotations.Nullable;

/** A row of the table {@code permission_set}. */
@Entity
@Table(name = "permission_set")
class PermissionSetRow implements ModelRow {

  @Id private String key = "";

  @Embedded private @Nullable AboutColumns about;

  private @Nullable String account;

  @Column(name = "allows")
  private String[] allow = {};

  @Column(name = "denies")
  private String[] deny = {};

  private String[] includes = {};

  static PermissionSetRow of(PermissionSet it) {
    PermissionSetRow row = new PermissionSetRow();
    row.key = it.key().value();
    row.about = AboutColumns.of(it.about());
    row.account = it.account() == null ? null : it.account().value();
    row.allow = it.allow().stream().map(Key::value).toArray(String[]::new);
    row.deny = it.deny().stream().map(Key::value).toArray(String[]::new);
    row.includes = it.includes().stream().map(Key::value).toArray(String[]::new);
    return row;
  }

  @Override
  @SuppressWarnings(
      "NullAway") // javac drops Key.@Nullable X from compact constructors' class files
  public PermissionSet thing() {
    return new PermissionSet(
        new PermissionSetKey(key),
        AboutColumns.aboutOf(about),
        account == null ? null : new AccountKey(account),
        Arrays.stream(allow).map(PermissionKey::new).toList(),
        Arrays.stream(deny).map(PermissionKey::new).toList(),
        Arrays.stream(includes).map(PermissionSetKey::new).toList());
  }
}
