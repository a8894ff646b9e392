package mandala.server.notice;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.server.mail.Letter;
import mandala.server.mail.Mails;
import mandala.server.model.Departure;
import mandala.server.model.LiveModel;
import mandala.server.notice.NoticeKind.Delivery;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Tells people, as they chose within what their accounts demand. */
@Component
public class Notices implements Departure {

  private final JdbcTemplate database;
  private final Mails mails;
  private final LiveModel model;
  private final Clock clock;
  private final String address;

  Notices(
      JdbcTemplate database,
      Mails mails,
      LiveModel model,
      Clock clock,
      @Value("${mandala.url}") String address) {
    this.database = database;
    this.mails = mails;
    this.model = model;
    this.clock = clock;
    this.address = address;
  }

  /**
   * Something that somebody is told.
   *
   * @param said one sentence that names only what they may read
   * @param link the page that it leads to, from the root, or null
   */
  public record Notice(NoticeKind kind, String said, @Nullable String link) {}

  /** Tells somebody; who is not in the model, or not active, is not told. */
  @Transactional
  public void tell(String person, Notice notice) {
    Principal whom = model.engine().catalogue().principals().get(new PrincipalKey(person));
    Instant now = clock.instant();
    if (whom == null
        || whom.kind() != Principal.Kind.PERSON
        || !model.engine().isActive(whom.key(), now)) {
      return;
    }
    Delivery delivery = deliveryFor(whom, notice.kind());
    database.update(
        "insert into notice (person, kind, said, link, at, digest) values (?, ?, ?, ?, ?, ?)",
        person,
        notice.kind().word(),
        notice.said(),
        notice.link(),
        now.atOffset(ZoneOffset.UTC),
        delivery == Delivery.DIGEST);
    String recipient = whom.email();
    if (delivery == Delivery.MAIL && recipient != null) {
      String link = notice.link();
      Letter letter =
          Letter.of(
              whom.about().nameOr(whom.key()),
              notice.kind().title(),
              List.of(notice.said()),
              link == null ? null : address + link);
      mails.send(person, recipient, letter.subject(), letter.body());
    }
  }

  /** Tells somebody once, however often this is called about the same. */
  @Transactional
  public void tellOnce(String about, String person, Notice notice) {
    int fresh =
        database.update(
            "insert into told_once (about, at) values (?, ?) on conflict do nothing",
            about + " " + person,
            clock.instant().atOffset(ZoneOffset.UTC));
    if (fresh == 1) {
      tell(person, notice);
    }
  }

  /** {@return how notices of a kind come to somebody}: the stronger of choice and demand */
  Delivery deliveryFor(Principal whom, NoticeKind kind) {
    Delivery chosen = choices(whom.key().value()).getOrDefault(kind, kind.usual());
    Delivery demanded = demandOn(whom, kind);
    return demanded != null && demanded.compareTo(chosen) > 0 ? demanded : chosen;
  }

  /** {@return what the accounts of somebody demand}, the strongest; null where none does */
  @Nullable Delivery demandOn(Principal whom, NoticeKind kind) {
    Catalogue catalogue = model.engine().catalogue();
    Delivery strongest = null;
    for (ResourceKey at = ResourceKey.of(whom.account()); at != null; at = catalogue.parentOf(at)) {
      AccountKey account = catalogue.accountOf(at);
      Delivery demanded = account == null ? null : demands(account.value()).get(kind);
      if (demanded != null && (strongest == null || demanded.compareTo(strongest) > 0)) {
        strongest = demanded;
      }
    }
    return strongest;
  }

  private Map<NoticeKind, Delivery> read(String sql, String of) {
    Map<NoticeKind, Delivery> found = new EnumMap<>(NoticeKind.class);
    database.query(
        sql,
        row -> {
          NoticeKind kind = NoticeKind.of(row.getString(1)).orElse(null);
          Delivery delivery = Delivery.of(row.getString(2)).orElse(null);
          if (kind != null && delivery != null) {
            found.put(kind, delivery);
          }
        },
        of);
    return found;
  }

  /** {@return what somebody chose} */
  Map<NoticeKind, Delivery> choices(String person) {
    return read("select kind, delivery from notice_choice where person = ?", person);
  }

  /** {@return what an account demands} */
  Map<NoticeKind, Delivery> demands(String account) {
    return read("select kind, delivery from notice_demand where account = ?", account);
  }

  void choose(String person, NoticeKind kind, Delivery delivery) {
    database.update(
        "insert into notice_choice (person, kind, delivery) values (?, ?, ?)"
            + " on conflict (person, kind) do update set delivery = excluded.delivery",
        person,
        kind.word(),
        delivery.word());
  }

  /** Sets what an account demands; {@link Delivery#HERE} demands nothing. */
  @Transactional
  void demand(String account, NoticeKind kind, Delivery delivery) {
    database.update(
        "delete from notice_demand where account = ? and kind = ?", account, kind.word());
    if (delivery != Delivery.HERE) {
      database.update(
          "insert into notice_demand (account, kind, delivery) values (?, ?, ?)",
          account,
          kind.word(),
          delivery.word());
    }
  }

  @Override
  public void of(Set<PrincipalKey> gone) {
    for (PrincipalKey it : gone) {
      database.update("delete from notice where person = ?", it.value());
      database.update("delete from notice_choice where person = ?", it.value());
      database.update("delete from told_once where about like '% ' || ?", it.value());
    }
  }
}
