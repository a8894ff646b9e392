package mandala.server.mail;

import jakarta.mail.MessagingException;
import jakarta.mail.SendFailedException;
import jakarta.mail.Session;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import java.time.Duration;
import java.util.Date;
import java.util.Properties;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.mail.MailException;
import org.springframework.mail.MailSendException;
import org.springframework.mail.javamail.JavaMailSenderImpl;
import org.springframework.stereotype.Component;

/** The mail server (SMTP, RFC 5321), where one is set; with STARTTLS and sign-in where asked. */
@Component
class MailServer {

  private final String host;
  private final String from;
  private final JavaMailSenderImpl sender = new JavaMailSenderImpl();

  MailServer(
      @Value("${mandala.smtp.host:}") String host,
      @Value("${mandala.smtp.port:587}") int port,
      @Value("${mandala.smtp.user:}") String user,
      @Value("${mandala.smtp.password:}") String password,
      @Value("${mandala.smtp.starttls:true}") boolean startTls,
      @Value("${mandala.smtp.from:mandala@localhost}") String from,
      @Value("${mandala.smtp.patience:10s}") Duration patience) {
    this.host = host;
    this.from = from;
    sender.setHost(host);
    sender.setPort(port);
    sender.setDefaultEncoding("UTF-8");
    Properties properties = sender.getJavaMailProperties();
    if (!user.isEmpty()) {
      sender.setUsername(user);
      sender.setPassword(password);
      properties.put("mail.smtp.auth", "true");
    }
    properties.put("mail.smtp.starttls.enable", Boolean.toString(startTls));
    properties.put("mail.smtp.starttls.required", Boolean.toString(startTls));
    String millis = Long.toString(patience.toMillis());
    properties.put("mail.smtp.connectiontimeout", millis);
    properties.put("mail.smtp.timeout", millis);
    properties.put("mail.smtp.writetimeout", millis);
  }

  /** {@return whether there is one} */
  boolean isSet() {
    return !host.isBlank();
  }

  /** The server does not take this mail, and never will. */
  static final class Refused extends Exception {
    private static final long serialVersionUID = 1;

    Refused(String why) {
      super(why);
    }
  }

  /** The server is away or busy. */
  static final class Away extends Exception {
    private static final long serialVersionUID = 1;

    Away(String why) {
      super(why);
    }
  }

  /** Its id is the Message-ID, whenever it is sent. */
  private static final class Message extends MimeMessage {
    private final String id;

    Message(Session session, String id) {
      super(session);
      this.id = id;
    }

    @Override
    protected void updateMessageID() throws MessagingException {
      setHeader("Message-ID", id);
    }
  }

  /**
   * Sends a mail.
   *
   * @throws Refused if the server does not take it for this address
   * @throws Away if it can't be sent now
   */
  void send(Mail mail) throws Refused, Away {
    try {
      String domain = from.substring(from.indexOf('@') + 1);
      Message message = new Message(sender.getSession(), "<" + mail.id() + "@" + domain + ">");
      message.setFrom(new InternetAddress(from, true));
      message.setRecipient(
          jakarta.mail.Message.RecipientType.TO, new InternetAddress(mail.recipient(), true));
      message.setSubject(mail.subject(), "UTF-8");
      message.setText(mail.body(), "UTF-8");
      message.setSentDate(Date.from(mail.made()));
      message.setHeader("Auto-Submitted", "auto-generated"); // RFC 3834, section 5
      if (mail.repeated()) {
        message.setHeader("X-Mandala-Repeated", "yes");
      }
      sender.send(message);
    } catch (MailSendException e) {
      throwIfRefused(e);
      throw new Away(oneLine(e));
    } catch (MailException e) {
      throw new Away(oneLine(e));
    } catch (MessagingException e) {
      throw new Refused(oneLine(e));
    }
  }

  /** A code from 500 on is for good (RFC 5321, section 4.2.1). */
  private static void throwIfRefused(MailSendException e) throws Refused {
    for (Exception each : e.getMessageExceptions()) {
      if (each instanceof SendFailedException failed) {
        for (Exception at = failed; at != null; ) {
          String said = at.getMessage();
          if (said != null && said.matches("(?s)5\\d\\d.*")) {
            throw new Refused(said.lines().findFirst().orElse(said).strip());
          }
          at = at instanceof MessagingException messaging ? messaging.getNextException() : null;
        }
      }
    }
  }

  private static String oneLine(Exception e) {
    Throwable at = e;
    while (at.getCause() != null) {
      at = at.getCause();
    }
    String said = at.getMessage() == null ? at.getClass().getSimpleName() : at.getMessage();
    String line = said.lines().findFirst().orElse(said).strip();
    return line.length() > 300 ? line.substring(0, 300) + "…" : line;
  }
}
