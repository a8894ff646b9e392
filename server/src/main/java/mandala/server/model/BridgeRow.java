package mandala.server.model;

import jakarta.persistence.Column;
import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import mandala.core.model.Bridge;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.GroupKey;
import mandala.document.Fragments;
import mandala.document.Words;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A row of the table {@code bridge}. */
@Entity
@Table(name = "bridge")
class BridgeRow implements ModelRow {

  @Id private String key = "";

  @Embedded private @Nullable AboutColumns about;

  private String account = "";

  @Column(name = "source_group")
  private String group = "";

  private String gives = "";

  @JdbcTypeCode(SqlTypes.JSON)
  private String scope = "[]";

  @Embedded private @Nullable WindowColumns window;

  @Enumerated(EnumType.STRING)
  private Bridge.Status status = Bridge.Status.values()[0];

  static BridgeRow of(Bridge it) {
    BridgeRow row = new BridgeRow();
    row.key = it.key().value();
    row.about = AboutColumns.of(it.about());
    row.account = it.account().value();
    row.group = it.group().value();
    row.gives = Words.of(it.gives());
    row.scope = Fragments.ofScope(it.scope());
    row.window = WindowColumns.of(it.window());
    row.status = it.status();
    return row;
  }

  @Override
  public Bridge thing() {
    return new Bridge(
        new BridgeKey(key),
        AboutColumns.aboutOf(about),
        new AccountKey(account),
        new GroupKey(group),
        Words.gives(gives),
        Fragments.scope(scope),
        WindowColumns.windowOf(window),
        status);
  }
}
