package mandala.server.model;

import jakarta.persistence.Embedded;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.SequenceGenerator;
import jakarta.persistence.Table;
import mandala.core.model.Guest;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import org.jspecify.annotations.Nullable;

/** A row of the table {@code guest}. */
@Entity
@Table(name = "guest")
class GuestRow implements ModelRow {

  @Id
  @SequenceGenerator(name = "guest_seq", sequenceName = "guest_seq", allocationSize = 50)
  @GeneratedValue(generator = "guest_seq")
  private @Nullable Long id;

  @Embedded private @Nullable AboutColumns about;

  private String principal = "";

  private String account = "";

  private boolean withSubaccounts;

  @Embedded private @Nullable WindowColumns window;

  private @Nullable String sponsor;

  static GuestRow of(Guest it) {
    GuestRow row = new GuestRow();
    row.about = AboutColumns.of(it.about());
    row.principal = it.principal().value();
    row.account = it.account().value();
    row.withSubaccounts = it.withSubaccounts();
    row.window = WindowColumns.of(it.window());
    row.sponsor = it.sponsor() == null ? null : it.sponsor().value();
    return row;
  }

  @Override
  @SuppressWarnings(
      "NullAway") // javac drops Key.@Nullable X from compact constructors' class files
  public Guest thing() {
    return new Guest(
        AboutColumns.aboutOf(about),
        new PrincipalKey(principal),
        new AccountKey(account),
        withSubaccounts,
        WindowColumns.windowOf(window),
        sponsor == null ? null : new PrincipalKey(sponsor));
  }
}
