package mandala.server.model;

import jakarta.persistence.Column;
import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.util.Arrays;
import mandala.core.model.Expectation;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.document.Fragments;
import mandala.document.Words;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A row of the table {@code expectation}. */
@Entity
@Table(name = "expectation")
class ExpectationRow implements ModelRow {

  @Id private String key = "";

  @Embedded private @Nullable AboutColumns about;

  private @Nullable String account;

  @Enumerated(EnumType.STRING)
  private Expectation.Form form = Expectation.Form.values()[0];

  private String[] subjects = {};

  private String[] permissions = {};

  @JdbcTypeCode(SqlTypes.JSON)
  private String scope = "[]";

  @Column(name = "at_least")
  private @Nullable Integer min;

  @Column(name = "at_most")
  private @Nullable Integer max;

  static ExpectationRow of(Expectation it) {
    ExpectationRow row = new ExpectationRow();
    row.key = it.key().value();
    row.about = AboutColumns.of(it.about());
    row.account = it.account() == null ? null : it.account().value();
    row.form = it.form();
    row.subjects = it.subjects().stream().map(Words::of).toArray(String[]::new);
    row.permissions = it.permissions().stream().map(Key::value).toArray(String[]::new);
    row.scope = Fragments.ofScope(it.scope());
    row.min = it.min();
    row.max = it.max();
    return row;
  }

  @Override
  @SuppressWarnings(
      "NullAway") // javac drops Key.@Nullable X from compact constructors' class files
  public Expectation thing() {
    return new Expectation(
        new ExpectationKey(key),
        AboutColumns.aboutOf(about),
        account == null ? null : new AccountKey(account),
        form,
        Arrays.stream(subjects).map(Words::subject).toList(),
        Arrays.stream(permissions).map(PermissionKey::new).toList(),
        Fragments.scope(scope),
        min,
        max);
  }
}
