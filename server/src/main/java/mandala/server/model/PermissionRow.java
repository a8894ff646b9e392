package mandala.server.model;

import jakarta.persistence.Column;
import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.util.Arrays;
import mandala.core.model.Permission;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.TypeKey;
import org.jspecify.annotations.Nullable;

/** A row of the table {@code permission}. */
@Entity
@Table(name = "permission")
class PermissionRow implements ModelRow {

  @Id private String key = "";

  @Embedded private @Nullable AboutColumns about;

  private @Nullable String account;

  @Column(name = "applies_to")
  private String[] on = {};

  @Enumerated(EnumType.STRING)
  private Permission.AccessClass accessClass = Permission.AccessClass.values()[0];

  @Enumerated(EnumType.STRING)
  private Permission.Risk risk = Permission.Risk.values()[0];

  private String[] implies = {};

  private String[] requires = {};

  private @Nullable Boolean delegable;

  static PermissionRow of(Permission it) {
    PermissionRow row = new PermissionRow();
    row.key = it.key().value();
    row.about = AboutColumns.of(it.about());
    row.account = it.account() == null ? null : it.account().value();
    row.on = it.on().stream().map(Key::value).toArray(String[]::new);
    row.accessClass = it.accessClass();
    row.risk = it.risk();
    row.implies = it.implies().stream().map(Key::value).toArray(String[]::new);
    row.requires = it.requires().stream().map(Key::value).toArray(String[]::new);
    row.delegable = it.delegable();
    return row;
  }

  @Override
  @SuppressWarnings(
      "NullAway") // javac drops Key.@Nullable X from compact constructors' class files
  public Permission thing() {
    return new Permission(
        new PermissionKey(key),
        AboutColumns.aboutOf(about),
        account == null ? null : new AccountKey(account),
        Arrays.stream(on).map(TypeKey::new).toList(),
        accessClass,
        risk,
        Arrays.stream(implies).map(PermissionKey::new).toList(),
        Arrays.stream(requires).map(PermissionKey::new).toList(),
        delegable);
  }
}
