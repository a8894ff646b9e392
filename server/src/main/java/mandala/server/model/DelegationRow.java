package mandala.server.model;

import jakarta.persistence.Column;
import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.util.Arrays;
import mandala.core.model.Delegation;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.PrincipalKey;
import mandala.document.Fragments;
import mandala.document.Words;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A row of the table {@code delegation}. */
@Entity
@Table(name = "delegation")
class DelegationRow implements ModelRow {

  @Id private String key = "";

  @Embedded private @Nullable AboutColumns about;

  private String principal = "";

  private String delegate = "";

  @Column(name = "limit_to")
  private String @Nullable [] limit;

  @JdbcTypeCode(SqlTypes.JSON)
  private String scope = "[]";

  @Embedded private @Nullable WindowColumns window;

  static DelegationRow of(Delegation it) {
    DelegationRow row = new DelegationRow();
    row.key = it.key().value();
    row.about = AboutColumns.of(it.about());
    row.principal = it.principal().value();
    row.delegate = it.delegate().value();
    row.limit =
        switch (it.limit()) {
          case Delegation.Limit.All() -> null;
          case Delegation.Limit.Listed(var gives) ->
              gives.stream().map(Words::of).toArray(String[]::new);
        };
    row.scope = Fragments.ofScope(it.scope());
    row.window = WindowColumns.of(it.window());
    return row;
  }

  @Override
  public Delegation thing() {
    return new Delegation(
        new DelegationKey(key),
        AboutColumns.aboutOf(about),
        new PrincipalKey(principal),
        new PrincipalKey(delegate),
        limit == null
            ? new Delegation.Limit.All()
            : new Delegation.Limit.Listed(Arrays.stream(limit).map(Words::gives).toList()),
        Fragments.scope(scope),
        WindowColumns.windowOf(window));
  }
}
