package mandala.server.model;

import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.UnitKey;
import mandala.document.Fragments;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A row of the table {@code principal}. */
@Entity
@Table(name = "principal")
class PrincipalRow implements ModelRow {

  @Id private String key = "";

  @Embedded private @Nullable AboutColumns about;

  @Enumerated(EnumType.STRING)
  private Principal.Kind kind = Principal.Kind.values()[0];

  private String account = "";

  private @Nullable String unit;

  private @Nullable String manager;

  @Enumerated(EnumType.STRING)
  private Principal.Status status = Principal.Status.values()[0];

  @Embedded private @Nullable WindowColumns window;

  private boolean mfa;

  @JdbcTypeCode(SqlTypes.JSON)
  private String attributes = "{}";

  private @Nullable String pattern;

  @JdbcTypeCode(SqlTypes.JSON)
  private String reach = "[]";

  private @Nullable String email;

  private @Nullable Instant lastSeen;

  private @Nullable String sponsor;

  static PrincipalRow of(Principal it) {
    PrincipalRow row = new PrincipalRow();
    row.key = it.key().value();
    row.about = AboutColumns.of(it.about());
    row.kind = it.kind();
    row.account = it.account().value();
    row.unit = it.unit() == null ? null : it.unit().value();
    row.manager = it.manager() == null ? null : it.manager().value();
    row.status = it.status();
    row.window = WindowColumns.of(it.window());
    row.mfa = it.mfa();
    row.attributes = Fragments.ofTexts(it.attributes());
    row.pattern = it.pattern() == null ? null : it.pattern().value();
    row.reach = Fragments.ofReach(it.reach());
    row.email = it.email();
    row.lastSeen = it.lastSeen();
    row.sponsor = it.sponsor() == null ? null : it.sponsor().value();
    return row;
  }

  @Override
  @SuppressWarnings(
      "NullAway") // javac drops Key.@Nullable X from compact constructors' class files
  public Principal thing() {
    return new Principal(
        new PrincipalKey(key),
        AboutColumns.aboutOf(about),
        kind,
        new AccountKey(account),
        unit == null ? null : new UnitKey(unit),
        manager == null ? null : new PrincipalKey(manager),
        status,
        WindowColumns.windowOf(window),
        mfa,
        Fragments.texts(attributes),
        pattern == null ? null : new PatternKey(pattern),
        Fragments.reach(reach),
        email,
        lastSeen,
        sponsor == null ? null : new PrincipalKey(sponsor));
  }
}
