package mandala.server.model;

import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import mandala.core.model.Account;
import mandala.core.model.key.AccountKey;
import org.jspecify.annotations.Nullable;

/** A row of the table {@code account}. */
@Entity
@Table(name = "account")
class AccountRow implements ModelRow {

  @Id private String key = "";

  @Embedded private @Nullable AboutColumns about;

  private @Nullable String parent;

  private boolean suspended;

  private boolean sealed;

  static AccountRow of(Account it) {
    AccountRow row = new AccountRow();
    row.key = it.key().value();
    row.about = AboutColumns.of(it.about());
    row.parent = it.parent() == null ? null : it.parent().value();
    row.suspended = it.suspended();
    row.sealed = it.sealed();
    return row;
  }

  @Override
  @SuppressWarnings(
      "NullAway") // javac drops Key.@Nullable X from compact constructors' class files
  public Account thing() {
    return new Account(
        new AccountKey(key),
        AboutColumns.aboutOf(about),
        parent == null ? null : new AccountKey(parent),
        suspended,
        sealed);
  }
}
