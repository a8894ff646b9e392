package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.eatthepath.otp.TimeBasedOneTimePasswordGenerator;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.InvalidKeyException;
import java.time.Instant;
import javax.crypto.spec.SecretKeySpec;
import mandala.document.DocumentWriter;
import mandala.server.model.LiveModel;
import mandala.server.session.OwnerLink;
import org.apache.commons.codec.binary.Base32;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.jdbc.core.JdbcTemplate;

/** An empty Mandala: the link, the first owner, and a document with faults. */
class OwnerJourneyTest {

  @TempDir private Path folder;

  private static String code(String secret) throws InvalidKeyException {
    return new TimeBasedOneTimePasswordGenerator()
        .generateOneTimePasswordString(
            new SecretKeySpec(new Base32().decode(secret), "RAW"), Instant.now());
  }

  @Test
  void theFirstOwnerIsCreatedSignsInAndImports() throws IOException, InvalidKeyException {
    try (Application application = Application.start("journeys_empty", false);
        Browser browser = new Browser(application)) {
      browser.open("/welcome?token=" + application.part(OwnerLink.class).renew());
      String secret = browser.see("fieldset code").getText();
      browser.type("#accountName", "Harbour Trust");
      browser.type("#accountKey", "harbour");
      browser.type("#name", "Ola Nordmann");
      browser.type("#key", "ola");
      browser.type("#password", "a long password");
      browser.type("#code", code(secret));
      browser.click("form button[type=submit]");

      browser.see("form[aria-label='Sign in']");
      assertThat(browser.text()).doesNotContain("This is the demo");
      browser.type("input[autocomplete=username]", "ola");
      browser.type("input[autocomplete=current-password]", "a long password");
      browser.type("input[autocomplete=one-time-code]", code(secret));
      browser.click("form[aria-label='Sign in'] button[type=submit]");
      browser.read("What can Ola Nordmann do in Harbour Trust");
      browser.read("14 rights");

      Path faulty = folder.resolve("faulty.json");
      Files.writeString(faulty, "{\"format\": \"mandala-model/1\", \"units\": [{\"key\": \"u\"}]}");
      browser.choose("nav[aria-label='Main'] a", "Settings");
      browser.upload("input[type=file]", faulty);
      browser.type("#import-proof", "123456");
      browser.choose("button", "Import and replace");
      browser.choose("button", "Replace model");
      browser.read("The document has a fault");
      browser.read("$.units[0].account");

      Path good = folder.resolve("good.json");
      Files.writeString(
          good,
          DocumentWriter.write(application.part(LiveModel.class).engine().catalogue().model()));
      application.part(JdbcTemplate.class).update("update credential set totp_last_step = -1");
      browser.open("/settings");
      browser.upload("input[type=file]", good);
      browser.type("#import-proof", code(secret));
      browser.choose("button", "Import and replace");
      browser.choose("button", "Replace model");
      browser.read("as revision 2");
      browser.choose("nav[aria-label='Main'] a", "You");
      browser.choose("a, [role=tab]", "Long work");
      browser.choose("h2 a", "Import of a whole model");
      browser.read("as revision 2");

      browser.open("/welcome?token=anything");
      browser.read("This link has expired.");
    }
  }
}
