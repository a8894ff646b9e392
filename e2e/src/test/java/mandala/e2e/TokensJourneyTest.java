package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.jdbc.core.JdbcTemplate;

/** A token is made for a program, used by it, seen to be used, and revoked. */
@ExtendWith(Running.class)
class TokensJourneyTest {

  @BeforeEach
  void withoutTokens(Application application) {
    JdbcTemplate database = application.part(JdbcTemplate.class);
    database.update("update credential set totp_last_step = -1");
    database.update("delete from token");
  }

  private static int called(Application application, String secret, String path) throws Exception {
    try (HttpClient client = HttpClient.newHttpClient()) {
      return client
          .send(
              HttpRequest.newBuilder(URI.create(application.address() + path))
                  .header("Authorization", "Bearer " + secret)
                  .build(),
              HttpResponse.BodyHandlers.discarding())
          .statusCode();
    }
  }

  @Test
  void aTokenIsMadeUsedAndRevoked(Browser browser, Application application) throws Exception {
    browser.signInAs("Marten Holloway");
    browser.open("/settings");
    browser.read("No tokens yet");
    browser.choose("section[aria-label='Tokens'] button", "New token");
    browser.type("input[aria-label='Name']", "Monthly report");
    browser.choose(".ant-modal button", "Choose a service");
    browser.pick("Ticketing", "Ticketing");
    browser.click("input[aria-label='Accounts']");
    browser.choose(".ant-select-item-option", "Quillhaven Sea Museum");
    browser.press(org.openqa.selenium.Keys.ESCAPE);
    browser.choose(".ant-checkbox-wrapper", "Read people, places and rights");
    browser.choose("button", "Make token");
    browser.read("It is shown once");
    String secret = browser.see("[aria-label='Token']").getText().strip();
    assertThat(secret).startsWith("mandala_");
    browser.choose("button", "I have copied it");
    browser.gone("[aria-label='Token']");
    assertThat(browser.text()).doesNotContain(secret);

    assertThat(called(application, secret, "/api/accounts")).isEqualTo(200);
    assertThat(called(application, secret, "/api/trail")).isEqualTo(403);
    browser.reload();
    browser.read("from 127.0.0.1");

    browser.click("button[aria-label='Revoke Monthly report']");
    browser.choose(".ant-popconfirm button", "Revoke");
    browser.read("Revoked");
    assertThat(called(application, secret, "/api/accounts")).isEqualTo(401);
  }
}
