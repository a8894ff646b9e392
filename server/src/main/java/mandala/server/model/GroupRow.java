package mandala.server.model;

import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.util.Arrays;
import mandala.core.model.Group;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.document.Fragments;
import mandala.document.Words;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A row of the table {@code access_group}. */
@Entity
@Table(name = "access_group")
class GroupRow implements ModelRow {

  @Id private String key = "";

  @Embedded private @Nullable AboutColumns about;

  private String account = "";

  private boolean retired;

  private String[] members = {};

  @JdbcTypeCode(SqlTypes.JSON)
  private @Nullable String rule;

  private String[] owners = {};

  static GroupRow of(Group it) {
    GroupRow row = new GroupRow();
    row.key = it.key().value();
    row.about = AboutColumns.of(it.about());
    row.account = it.account().value();
    row.retired = it.retired();
    row.members = it.members().stream().map(Words::of).toArray(String[]::new);
    row.rule = it.rule() == null ? null : Fragments.ofRule(it.rule());
    row.owners = it.owners().stream().map(Key::value).toArray(String[]::new);
    return row;
  }

  @Override
  public Group thing() {
    return new Group(
        new GroupKey(key),
        AboutColumns.aboutOf(about),
        new AccountKey(account),
        retired,
        Arrays.stream(members).map(Words::member).toList(),
        rule == null ? null : Fragments.rule(rule),
        Arrays.stream(owners).map(PrincipalKey::new).toList());
  }
}
