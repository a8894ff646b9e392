package mandala.server.model;

import jakarta.persistence.Column;
import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import mandala.core.model.Exclusion;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ExclusionKey;
import mandala.document.Fragments;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A row of the table {@code exclusion}. */
@Entity
@Table(name = "exclusion")
class ExclusionRow implements ModelRow {

  @Id private String key = "";

  @Embedded private @Nullable AboutColumns about;

  private @Nullable String account;

  @JdbcTypeCode(SqlTypes.JSON)
  private String sides = "[]";

  private int atMost;

  @Enumerated(EnumType.STRING)
  @Column(name = "place")
  private Exclusion.Where where = Exclusion.Where.values()[0];

  @JdbcTypeCode(SqlTypes.JSON)
  private String exempt = "[]";

  static ExclusionRow of(Exclusion it) {
    ExclusionRow row = new ExclusionRow();
    row.key = it.key().value();
    row.about = AboutColumns.of(it.about());
    row.account = it.account() == null ? null : it.account().value();
    row.sides = Fragments.ofSides(it.sides());
    row.atMost = it.atMost();
    row.where = it.where();
    row.exempt = Fragments.ofExemptions(it.exempt());
    return row;
  }

  @Override
  @SuppressWarnings(
      "NullAway") // javac drops Key.@Nullable X from compact constructors' class files
  public Exclusion thing() {
    return new Exclusion(
        new ExclusionKey(key),
        AboutColumns.aboutOf(about),
        account == null ? null : new AccountKey(account),
        Fragments.sides(sides),
        atMost,
        where,
        Fragments.exemptions(exempt));
  }
}
