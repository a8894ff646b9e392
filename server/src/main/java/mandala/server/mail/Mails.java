package mandala.server.mail;

import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import mandala.core.model.key.PrincipalKey;
import mandala.server.model.Departure;
import mandala.server.platform.BackOff;
import mandala.server.schedule.Queue;
import mandala.server.schedule.Queues;
import mandala.server.schedule.Worker;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Keeps mail and sends it, once. A mail that could not be sent is tried again, later each time; one
 * that the server refuses is not. Where a crash leaves open whether a mail went out, it is sent
 * again under the same Message-ID (RFC 5322, section 3.6.4) and marked as repeated.
 */
@Component
public class Mails implements Worker, Departure {

  private static final Logger LOG = LoggerFactory.getLogger(Mails.class);
  private static final String TASK = "mail";

  /** How often a mail is tried: for about two days. */
  static final int ATTEMPTS = 16;

  private static final Duration LATEST = Duration.ofDays(2);

  private static final BackOff BACK_OFF = new BackOff(Duration.ofMinutes(1), Duration.ofHours(6));

  private static final String COLUMNS =
      "id, person, recipient, subject, body, state, repeated, attempts, made_at, tried_at, fault";

  private final JdbcTemplate database;
  private final Queues queues;
  private final MailServer server;
  private final Clock clock;

  Mails(JdbcTemplate database, Queues queues, MailServer server, Clock clock) {
    this.database = database;
    this.queues = queues;
    this.server = server;
    this.clock = clock;
  }

  /** Has a mail sent; in a transaction, when that commits. */
  @Transactional
  public void send(String person, String recipient, String subject, String body) {
    String id = UUID.randomUUID().toString();
    Instant now = clock.instant();
    database.update(
        "insert into mail (id, person, recipient, subject, body, state, made_at)"
            + " values (?, ?, ?, ?, ?, ?, ?)",
        id,
        person,
        recipient,
        subject,
        body,
        server.isSet() ? "waiting" : "kept",
        now.atOffset(ZoneOffset.UTC));
    if (server.isSet()) {
      queues.put(Queue.TASKS, TASK, id, now);
    }
  }

  /**
   * Has mail sent that stayed in the outbox since there was no mail server: what is as old as mail
   * that is given up stays there.
   */
  @EventListener(ApplicationReadyEvent.class)
  @Transactional
  public void sendKept() {
    if (server.isSet()) {
      Instant now = clock.instant();
      database
          .queryForList(
              "update mail set state = 'waiting' where state = 'kept' and made_at > ? returning id",
              String.class,
              now.minus(LATEST).atOffset(ZoneOffset.UTC))
          .forEach(id -> queues.put(Queue.TASKS, TASK, id, now));
    }
  }

  @Override
  public Queue queue() {
    return Queue.TASKS;
  }

  @Override
  public List<Task<?>> tasks() {
    return List.of(
        Tasks.oneTime(TASK)
            .onFailure(Worker.retrying(BACK_OFF))
            .execute((instance, _) -> trySending(instance.getId())));
  }

  /** Marks it first, so that a crash from here on is seen. */
  private @Nullable Mail take(String id) {
    return database
        .query(
            "update mail set repeated = repeated or state = 'sending', state = 'sending',"
                + " attempts = attempts + 1, tried_at = ? where id = ?"
                + " and state in ('waiting', 'sending') returning "
                + COLUMNS,
            Mails::mail,
            clock.instant().atOffset(ZoneOffset.UTC),
            id)
        .stream()
        .findFirst()
        .orElse(null);
  }

  private void trySending(String id) {
    Mail mail = take(id);
    if (mail == null) {
      return;
    }
    try {
      server.send(mail);
      become(id, "sent", null);
    } catch (MailServer.Refused e) {
      LOG.warn("The mail server refuses mail {}: {}", id, e.getMessage());
      become(id, "refused", e.getMessage());
    } catch (MailServer.Away e) {
      boolean last = mail.attempts() >= ATTEMPTS;
      LOG.warn("Mail {} was not sent, attempt {}: {}", id, mail.attempts(), e.getMessage());
      become(id, last ? "failed" : "waiting", e.getMessage());
      if (!last) {
        throw new IllegalStateException("It is tried again", e);
      }
    }
  }

  private void become(String id, String state, @Nullable String fault) {
    database.update("update mail set state = ?, fault = ? where id = ?", state, fault, id);
  }

  private static Mail mail(ResultSet row, int number) throws SQLException {
    Timestamp tried = row.getTimestamp("tried_at");
    return new Mail(
        row.getString("id"),
        row.getString("person"),
        row.getString("recipient"),
        row.getString("subject"),
        row.getString("body"),
        row.getString("state"),
        row.getBoolean("repeated"),
        row.getInt("attempts"),
        row.getTimestamp("made_at").toInstant(),
        tried == null ? null : tried.toInstant(),
        row.getString("fault"));
  }

  /** {@return the newest mails}, those that wait or went out */
  List<Mail> newest(int most) {
    return database.query(
        "select " + COLUMNS + " from mail order by made_at desc, id desc limit ?",
        Mails::mail,
        most);
  }

  /** {@return the next newest mails after one}, for going through all of them */
  List<Mail> newestAfter(Mail last, int most) {
    return database.query(
        "select "
            + COLUMNS
            + " from mail where (made_at, id) < (?, ?) order by made_at desc, id desc limit ?",
        Mails::mail,
        last.made().atOffset(ZoneOffset.UTC),
        last.id(),
        most);
  }

  /**
   * Deletes mail that was made before an instant and is over; what tells that somebody's address
   * refuses mail stays until a newer one tells otherwise.
   */
  public void deleteMadeBefore(Instant before) {
    database.update(
        """
        delete from mail m where made_at < ? and state in ('sent', 'kept', 'refused', 'failed')
          and (state <> 'refused' or exists (
            select 1 from mail n where n.person = m.person and n.made_at > m.made_at
              and n.state in ('sent', 'refused')))
        """,
        before.atOffset(ZoneOffset.UTC));
  }

  /** {@return why the last mail to somebody was refused}, none where it was not */
  public Optional<String> refusalOf(String person) {
    return database
        .query(
            "select state, fault from mail where person = ? and state in ('sent', 'refused')"
                + " order by made_at desc limit 1",
            (row, _) ->
                row.getString(1).equals("refused")
                    ? Optional.ofNullable(row.getString(2))
                    : Optional.<String>empty(),
            person)
        .stream()
        .findFirst()
        .orElse(Optional.empty());
  }

  @Override
  public void of(Set<PrincipalKey> gone) {
    gone.forEach(it -> database.update("delete from mail where person = ?", it.value()));
  }

  /** {@return whether there is a mail server} */
  boolean isServerSet() {
    return server.isSet();
  }
}
