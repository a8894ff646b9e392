package mandala.server.mail;

import static mandala.server.Patience.await;
import static org.assertj.core.api.Assertions.assertThat;

import com.icegreen.greenmail.configuration.GreenMailConfiguration;
import com.icegreen.greenmail.util.GreenMail;
import com.icegreen.greenmail.util.ServerSetup;
import jakarta.mail.internet.MimeMessage;
import java.time.Duration;
import java.util.List;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.MovableClock;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.annotation.Import;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.test.context.TestPropertySource;

/** Mail goes out over SMTP, once, whatever becomes of the mail server meanwhile. */
@ApiTest
@Import(MovableClock.Moves.class)
@TestPropertySource(
    properties = {
      "mandala.smtp.host=127.0.0.1",
      "mandala.smtp.port=3925",
      "mandala.smtp.user=mandala",
      "mandala.smtp.password=secret",
      "mandala.smtp.starttls=false",
      "mandala.smtp.from=mandala@larkmoor.example"
    })
@DirtiesContext
class MailTest {

  private static final String ODILE = "odile.farrow@larkmoor.example";

  @Autowired private Mails mails;
  @Autowired private MovableClock clock;
  @Autowired private JdbcTemplate database;
  @Autowired private Environment environment;

  private GreenMail smtp = fresh();

  private static GreenMail fresh() {
    return new GreenMail(new ServerSetup(3925, "127.0.0.1", ServerSetup.PROTOCOL_SMTP))
        .withConfiguration(
            GreenMailConfiguration.aConfig()
                .withUser("mandala@larkmoor.example", "mandala", "secret"));
  }

  @BeforeEach
  void empty() {
    database.update("delete from task_queue where task_name = 'mail'");
    database.update("delete from mail");
    smtp.start();
  }

  @AfterEach
  void stop() {
    smtp.stop();
  }

  private Mail only() {
    List<Mail> all = mails.newest(10);
    assertThat(all).hasSize(1);
    return all.getFirst();
  }

  private void awaitState(String state) {
    await()
        .until(() -> {
          clock.move(Duration.ofSeconds(20));
          return only().state().equals(state);
        });
  }

  @Test
  void aMailIsSentWithItsOwnMessageIdAndText() throws Exception {
    mails.send("odile.farrow", ODILE, "Größe zählt", "Hello Odile,\n\nthat is all – truly.\n");
    awaitState("sent");
    MimeMessage[] received = smtp.getReceivedMessages();
    assertThat(received).hasSize(1);
    assertThat(received[0].getSubject()).isEqualTo("Größe zählt");
    assertThat(received[0].getContent().toString()).contains("that is all – truly.");
    assertThat(received[0].getMessageID()).isEqualTo("<" + only().id() + "@larkmoor.example>");
    assertThat(received[0].getHeader("Auto-Submitted")).containsExactly("auto-generated");
    assertThat(received[0].getHeader("X-Mandala-Repeated")).isNull();
  }

  @Test
  void whileTheServerIsAwayItWaitsAndThenGoesOutOnce() {
    smtp.stop();
    mails.send("odile.farrow", ODILE, "Later", "Text");
    await().until(() -> only().attempts() > 0 && only().state().equals("waiting"));
    assertThat(only().fault()).isNotBlank();
    smtp = fresh();
    smtp.start();
    awaitState("sent");
    assertThat(smtp.getReceivedMessages()).hasSize(1);
    assertThat(only().repeated()).isFalse();
  }

  @Test
  void whatACrashLeftOpenGoesOutAgainAndIsMarked() throws Exception {
    smtp.stop();
    mails.send("odile.farrow", ODILE, "Perhaps twice", "Text");
    await().until(() -> only().attempts() > 0 && only().state().equals("waiting"));
    database.update("update mail set state = 'sending'"); // as a crash in the middle leaves it
    smtp = fresh();
    smtp.start();
    awaitState("sent");
    assertThat(only().repeated()).isTrue();
    assertThat(smtp.getReceivedMessages()[0].getHeader("X-Mandala-Repeated"))
        .containsExactly("yes");
  }

  @Test
  void aMailThatCannotBeAddressedIsRefusedAndNotTriedAgain() {
    mails.send("odile.farrow", "not an address", "Never", "Text");
    awaitState("refused");
    assertThat(only().attempts()).isEqualTo(1);
    assertThat(mails.refusalOf("odile.farrow")).isPresent();
    database.update("update credential set totp_last_step = -1");
    Caller ilse = Caller.as("ilse.varga", environment);
    assertThat(ilse.get("/api/rights/people/odile.farrow").json().has("mailRefusal")).isTrue();
    assertThat(ilse.get("/api/settings/schedule").status()).as("not hers to manage").isEqualTo(403);
    database.update("update credential set totp_last_step = -1");
    Caller marten = Caller.as("marten.holloway", environment);
    assertThat(marten.get("/api/settings/schedule").body())
        .contains(
            "daily-digest",
            "ended-access",
            "delete-old-results",
            "delete-old-messages",
            "delete-old-tokens");
    mails.send("odile.farrow", ODILE, "Better", "Text");
    await()
        .until(() -> {
          clock.move(Duration.ofSeconds(20));
          return mails.refusalOf("odile.farrow").isEmpty();
        });
  }

  @Test
  void itIsGivenUpAfterTwoDays() {
    smtp.stop();
    mails.send("odile.farrow", ODILE, "Never", "Text");
    database.update("update mail set attempts = ?", Mails.ATTEMPTS - 1);
    awaitState("failed");
    assertThat(only().attempts()).isEqualTo(Mails.ATTEMPTS);
  }

  @Test
  void whoManagesSettingsReadsWhatWentOutAndNobodyElse() {
    mails.send("odile.farrow", ODILE, "For Odile", "A text");
    database.update("update credential set totp_last_step = -1");
    assertThat(Caller.as("noor.haddad", environment).get("/api/settings/mail").status())
        .isEqualTo(403);
    Caller marten = Caller.as("marten.holloway", environment);
    assertThat(marten.get("/api/settings/mail").body()).contains("For Odile", "A text");
  }

  @Test
  void whatTheOutboxKeptGoesOutOnceThereIsAMailServer() throws Exception {
    for (String days : List.of("1 day", "9 days")) {
      database.update(
          "insert into mail (id, person, recipient, subject, body, state, made_at)"
              + " values (?, 'odile.farrow', ?, ?, 'A text', 'kept', now() - cast(? as interval))",
          days,
          ODILE,
          "Of " + days,
          days);
    }
    mails.sendKept();
    assertThat(smtp.waitForIncomingEmail(10_000, 1)).isTrue();
    assertThat(smtp.getReceivedMessages())
        .extracting(MimeMessage::getSubject)
        .containsExactly("Of 1 day");
    await()
        .until(() ->
            mails.newest(10).stream().map(Mail::state).toList().equals(List.of("sent", "kept")));
  }

  @Test
  void mailToOthersDoesNotHideTheirOwn() {
    database.update(
        """
        insert into mail (id, person, recipient, subject, body, state, made_at)
        select 'other' || n, 'sunniva.dunlow', 'sunniva@dunlow.example', 'Not theirs', '', 'kept',
          now() + n * interval '1 second' from generate_series(1, 1450) n
        """);
    database.update(
        """
        insert into mail (id, person, recipient, subject, body, state, made_at)
        select 'own' || n, 'odile.farrow', 'odile@larkmoor.example', 'Theirs', '', 'kept',
          now() - n * interval '1 second' from generate_series(1, 250) n
        """);
    database.update("update credential set totp_last_step = -1");
    var outbox = Caller.as("marten.holloway", environment).get("/api/settings/mail").json();
    assertThat(outbox.get("mails")).hasSize(200);
    assertThat(outbox.at("/mails/0/id").stringValue()).isEqualTo("own1");
    assertThat(outbox.at("/mails/199/id").stringValue()).isEqualTo("own200");
  }
}
