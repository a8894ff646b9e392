package mandala.server.notice;

import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.server.mail.Letter;
import mandala.server.mail.Mails;
import mandala.server.model.LiveModel;
import mandala.server.schedule.RecurringWork;
import mandala.server.schedule.Timetable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Sends each person one mail a day with what came since and was not read. */
@Component
class DailyDigest implements RecurringWork {

  /** Maximum number of notices spelled out in one mail. */
  private static final int MOST = 30;

  private final JdbcTemplate database;
  private final TransactionTemplate transactions;
  private final Mails mails;
  private final LiveModel model;
  private final Timetable timetable;
  private final String address;

  DailyDigest(
      JdbcTemplate database,
      TransactionTemplate transactions,
      Mails mails,
      LiveModel model,
      @Value("${mandala.zone}") ZoneId zone,
      @Value("${mandala.url}") String address) {
    this.database = database;
    this.transactions = transactions;
    this.mails = mails;
    this.model = model;
    this.timetable = Timetable.daily(LocalTime.of(7, 0), zone, Timetable.Missed.CATCH_UP);
    this.address = address;
  }

  @Override
  public String name() {
    return "daily-digest";
  }

  @Override
  public String description() {
    return "Sends each person one mail with the notices that came since and were not read.";
  }

  @Override
  public Timetable timetable() {
    return timetable;
  }

  @Override
  public void run(Instant due) {
    for (String person :
        database.query(
            "select distinct person from notice where digest", (row, _) -> row.getString(1))) {
      transactions.executeWithoutResult(_ -> send(person));
    }
  }

  private void send(String person) {
    Map<String, List<String>> said = new LinkedHashMap<>();
    database.query(
        "with due as (update notice set digest = false where person = ? and digest"
            + " returning id, kind, said, read_at)"
            + " select kind, said from due where read_at is null order by id",
        row -> {
          said.computeIfAbsent(
                  NoticeKind.of(row.getString(1)).map(NoticeKind::title).orElse("Notices"),
                  _ -> new ArrayList<>())
              .add(row.getString(2));
        },
        person);
    Principal whom = model.engine().catalogue().principals().get(new PrincipalKey(person));
    String recipient = whom == null ? null : whom.email();
    if (said.isEmpty() || whom == null || recipient == null) {
      return;
    }
    int many = said.values().stream().mapToInt(List::size).sum();
    List<String> paragraphs = new ArrayList<>();
    paragraphs.add(
        many == 1 ? "One thing happened since yesterday." : many + " things happened lately.");
    int told = 0;
    for (Map.Entry<String, List<String>> kind : said.entrySet()) {
      StringBuilder paragraph = new StringBuilder(kind.getKey()).append(':');
      for (String it : kind.getValue()) {
        if (told < MOST) {
          paragraph.append("\n  - ").append(it);
        }
        told++;
      }
      paragraphs.add(paragraph.toString());
    }
    if (told > MOST) {
      paragraphs.add((told - MOST) + " more are in Mandala.");
    }
    Letter letter =
        Letter.of(
            whom.about().nameOr(whom.key()),
            many == 1 ? "One notice from Mandala" : many + " notices from Mandala",
            paragraphs,
            address + "/you/notices");
    mails.send(person, recipient, letter.subject(), letter.body());
  }
}
