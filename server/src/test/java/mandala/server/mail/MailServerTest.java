package mandala.server.mail;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.Writer;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What a mail server answers decides if a mail is tried again (RFC 5321, section 4.2.1). */
class MailServerTest {

  private static final Duration PATIENCE = Duration.ofSeconds(10);

  private static final Mail MAIL =
      new Mail(
          "m1",
          "odile.farrow",
          "odile@larkmoor.example",
          "Subject",
          "Text",
          "sending",
          false,
          1,
          Instant.EPOCH,
          null,
          null);

  /** A mail server that answers one recipient with one line, or not at all. */
  private static final class Answering implements AutoCloseable {
    private final ServerSocket socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress());
    private final String recipientAnswer;

    Answering(String recipientAnswer) throws IOException {
      this.recipientAnswer = recipientAnswer;
      Thread.ofVirtual().start(this::serve);
    }

    MailServer client() {
      return client(PATIENCE);
    }

    MailServer client(Duration patience) {
      return new MailServer(
          "127.0.0.1", socket.getLocalPort(), "", "", false, "mandala@larkmoor.example", patience);
    }

    private void serve() {
      try (Socket call = socket.accept();
          BufferedReader in =
              new BufferedReader(
                  new InputStreamReader(call.getInputStream(), StandardCharsets.US_ASCII));
          Writer out =
              new java.io.OutputStreamWriter(call.getOutputStream(), StandardCharsets.US_ASCII)) {
        answer(out, "220 ready");
        for (String line = in.readLine(); line != null; line = in.readLine()) {
          if (!line.startsWith("RCPT")) {
            answer(out, "250 ok");
          } else if (!recipientAnswer.isEmpty()) {
            answer(out, recipientAnswer);
          }
        }
      } catch (IOException _) {
        // the caller has hung up
      }
    }

    private static void answer(Writer out, String line) throws IOException {
      out.write(line + "\r\n");
      out.flush();
    }

    @Override
    public void close() throws IOException {
      socket.close();
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"550 5.1.1 No such user here", "553 mailbox name not allowed"})
  void whatIsRefusedForGoodSaysTheServersWords(String answer) throws IOException {
    try (Answering server = new Answering(answer)) {
      assertThatThrownBy(() -> server.client().send(MAIL))
          .isInstanceOf(MailServer.Refused.class)
          .hasMessage(answer);
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"450 mailbox busy", "451 try again later"})
  void whatIsRefusedForNowIsTriedAgain(String answer) throws IOException {
    try (Answering server = new Answering(answer)) {
      assertThatThrownBy(() -> server.client().send(MAIL)).isInstanceOf(MailServer.Away.class);
    }
  }

  @Test
  void whereNobodyListensItIsTriedAgain() throws IOException {
    int port;
    try (ServerSocket free = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
      port = free.getLocalPort();
    }
    MailServer server =
        new MailServer("127.0.0.1", port, "", "", false, "mandala@localhost", PATIENCE);
    assertThat(server.isSet()).isTrue();
    assertThatThrownBy(() -> server.send(MAIL)).isInstanceOf(MailServer.Away.class);
    assertThat(new MailServer("", 587, "", "", true, "mandala@localhost", PATIENCE).isSet())
        .isFalse();
  }

  @Test
  void oneThatAnswersTooLateIsAway() throws IOException {
    try (Answering slow = new Answering("")) {
      MailServer client = slow.client(Duration.ofMillis(200));
      assertThatThrownBy(() -> client.send(MAIL)).isInstanceOf(MailServer.Away.class);
    }
  }
}
