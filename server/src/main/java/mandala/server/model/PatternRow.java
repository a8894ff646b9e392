package mandala.server.model;

import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.util.Arrays;
import mandala.core.model.Pattern;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PrincipalKey;
import org.jspecify.annotations.Nullable;

/** A row of the table {@code pattern}. */
@Entity
@Table(name = "pattern")
class PatternRow implements ModelRow {

  @Id private String key = "";

  @Embedded private @Nullable AboutColumns about;

  private @Nullable String account;

  private String[] owners = {};

  static PatternRow of(Pattern it) {
    PatternRow row = new PatternRow();
    row.key = it.key().value();
    row.about = AboutColumns.of(it.about());
    row.account = it.account() == null ? null : it.account().value();
    row.owners = it.owners().stream().map(Key::value).toArray(String[]::new);
    return row;
  }

  @Override
  @SuppressWarnings(
      "NullAway") // javac drops Key.@Nullable X from compact constructors' class files
  public Pattern thing() {
    return new Pattern(
        new PatternKey(key),
        AboutColumns.aboutOf(about),
        account == null ? null : new AccountKey(account),
        Arrays.stream(owners).map(PrincipalKey::new).toList());
  }
}
