package mandala.server.notice;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Collections;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
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
    Delivery delivery = deliveries(whom).of(notice.kind());
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
      Letter letter = letter(whom, notice);
      mails.send(person, recipient, letter.subject(), letter.body());
    }
  }

  /** {@return the mail with which a notice comes} */
  Letter letter(Principal whom, Notice notice) {
    String link = notice.link();
    return Letter.of(
        whom.about().nameOr(whom.key()),
        notice.kind().title(),
        List.of(notice.said()),
        link == null ? null : address + link);
  }

  /** Tells somebody once, however often this is called about the same. */
  @Transactional
  public void tellOnce(String about, String person, Notice notice) {
    int fresh =
        database.update(
            "insert into told_once (about, person, at) values (?, ?, ?) on conflict do nothing",
            about,
            person,
            clock.instant().atOffset(ZoneOffset.UTC));
    if (fresh == 1) {
      tell(person, notice);
    }
  }

  /**
   * How notices come to somebody.
   *
   * @param chosen by themselves; of the other kinds as is usual
   * @param demanded by their accounts at least
   */
  record Deliveries(Map<NoticeKind, Delivery> chosen, Map<NoticeKind, Delivery> demanded) {

    /** {@return how a kind comes}: the stronger of choice and demand */
    Delivery of(NoticeKind kind) {
      Delivery wanted = chosen.getOrDefault(kind, kind.usual());
      return Collections.max(List.of(wanted, demanded.getOrDefault(kind, Delivery.HERE)));
    }
  }

  /** {@return how notices come to somebody} */
  Deliveries deliveries(Principal whom) {
    Catalogue catalogue = model.engine().catalogue();
    Map<NoticeKind, Delivery> demanded = new EnumMap<>(NoticeKind.class);
    for (AccountKey at = whom.account(); at != null; at = parentOf(at, catalogue)) {
      demands(at.value())
          .forEach((kind, it) ->
              demanded.merge(kind, it, (one, other) -> one.compareTo(other) < 0 ? other : one));
    }
    return new Deliveries(
        read("select kind, delivery from notice_choice where person = ?", whom.key().value()),
        demanded);
  }

  private static @Nullable AccountKey parentOf(AccountKey key, Catalogue catalogue) {
    Account account = catalogue.accounts().get(key);
    return account == null ? null : account.parent();
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

  /** {@return what an account demands} */
  Map<NoticeKind, Delivery> demands(String account) {
    return read("select kind, delivery from notice_demand where account = ?", account);
  }

  /** A notice as it is kept; {@code link} is the page that it leads to. */
  record NoticeView(
      long id, String kind, String said, @Nullable String link, Instant at, boolean read) {}

  /** {@return the notices of somebody}, the newest first */
  List<NoticeView> of(String person, int most) {
    return database.query(
        "select id, kind, said, link, at, read_at is not null from notice where person = ?"
            + " order by id desc limit ?",
        (row, _) ->
            new NoticeView(
                row.getLong(1),
                row.getString(2),
                row.getString(3),
                row.getString(4),
                row.getTimestamp(5).toInstant(),
                row.getBoolean(6)),
        person,
        most);
  }

  /** {@return how many notices somebody has not read} */
  long unread(String person) {
    Long unread =
        database.queryForObject(
            "select count(*) from notice where person = ? and read_at is null", Long.class, person);
    return unread == null ? 0 : unread;
  }

  /** Marks a notice as read, and those before it where these are meant, too. */
  void read(String person, long id, boolean andOlder) {
    database.update(
        "update notice set read_at = ? where person = ? and read_at is null and "
            + (andOlder ? "id <= ?" : "id = ?"),
        clock.instant().atOffset(ZoneOffset.UTC),
        person,
        id);
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
      database.update("delete from told_once where person = ?", it.value());
    }
  }
}
