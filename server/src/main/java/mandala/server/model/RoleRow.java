package mandala.server.model;

import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.util.Arrays;
import mandala.core.model.Role;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import org.jspecify.annotations.Nullable;

/** A row of the table {@code role}. */
@Entity
@Table(name = "role")
class RoleRow implements ModelRow {

  @Id private String key = "";

  @Embedded private @Nullable AboutColumns about;

  private @Nullable String account;

  private @Nullable String code;

  private @Nullable String basedOn;

  private boolean retired;

  private String[] sets = {};

  private String[] inherits = {};

  private boolean requiresMfa;

  private String[] prerequisites = {};

  private @Nullable Integer minHolders;

  private @Nullable Integer maxHolders;

  private String[] owners = {};

  static RoleRow of(Role it) {
    RoleRow row = new RoleRow();
    row.key = it.key().value();
    row.about = AboutColumns.of(it.about());
    row.account = it.account() == null ? null : it.account().value();
    row.code = it.code();
    row.basedOn = it.basedOn() == null ? null : it.basedOn().value();
    row.retired = it.retired();
    row.sets = it.sets().stream().map(Key::value).toArray(String[]::new);
    row.inherits = it.inherits().stream().map(Key::value).toArray(String[]::new);
    row.requiresMfa = it.requiresMfa();
    row.prerequisites = it.prerequisites().stream().map(Key::value).toArray(String[]::new);
    row.minHolders = it.minHolders();
    row.maxHolders = it.maxHolders();
    row.owners = it.owners().stream().map(Key::value).toArray(String[]::new);
    return row;
  }

  @Override
  @SuppressWarnings(
      "NullAway") // javac drops Key.@Nullable X from compact constructors' class files
  public Role thing() {
    return new Role(
        new RoleKey(key),
        AboutColumns.aboutOf(about),
        account == null ? null : new AccountKey(account),
        code,
        basedOn == null ? null : new RoleKey(basedOn),
        retired,
        Arrays.stream(sets).map(PermissionSetKey::new).toList(),
        Arrays.stream(inherits).map(RoleKey::new).toList(),
        requiresMfa,
        Arrays.stream(prerequisites).map(RoleKey::new).toList(),
        minHolders,
        maxHolders,
        Arrays.stream(owners).map(PrincipalKey::new).toList());
  }
}
