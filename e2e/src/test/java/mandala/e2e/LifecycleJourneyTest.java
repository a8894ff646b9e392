package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Objects;
import mandala.core.model.AccessModel;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.UnitKey;
import mandala.server.model.LiveModel;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.openqa.selenium.Keys;
import org.springframework.jdbc.core.JdbcTemplate;

/** People come by mail, move, leave, come back, and lose everything on a bad day. */
@ExtendWith(Running.class)
class LifecycleJourneyTest {

  private @Nullable AccessModel before;

  @BeforeEach
  void freshCodes(Application application) {
    before = application.model();
    application.part(JdbcTemplate.class).update("update credential set totp_last_step = -1");
  }

  /** Other journeys find the model as it was. */
  @AfterEach
  void restore(Application application) {
    application
        .part(JdbcTemplate.class)
        .update("update draft set state = 'discarded' where state in ('open', 'aside')");
    List.of("watch_act", "watch_warning", "watch_rule", "personnel_list", "personnel_source")
        .forEach(it -> application.part(JdbcTemplate.class).update("delete from " + it));
    application.restore(before);
  }

  private static Principal person(Application application, String key) {
    return Objects.requireNonNull(
        application
            .part(LiveModel.class)
            .engine()
            .catalogue()
            .principals()
            .get(new PrincipalKey(key)));
  }

  /** The way of the link in the newest mail to somebody. */
  private static String link(Application application, String key) {
    String body =
        Objects.requireNonNull(
            application
                .part(JdbcTemplate.class)
                .queryForObject(
                    "select body from mail where person = ? order by made_at desc limit 1",
                    String.class,
                    key));
    int at = body.indexOf("/join?token=");
    return body.substring(at, body.indexOf('\n', at));
  }

  @Test
  void aCopyAndAPastedListComeByTheirMail(Application application, Browser browser) {
    browser.signInAs("Ilse Varga");
    browser.open("/people/petra.lowe");
    browser.choose("main button", "More");
    browser.choose(".ant-dropdown-menu-item", "Copy to a new person");
    browser.read("0 of 13 colleagues have it");
    browser.type("input[aria-label='Name']", "Juno Teasel");
    browser.type("input[aria-label='E-mail address']", "juno.teasel@larkmoor.example");
    browser.choose("main button", "Add to draft");
    browser.read("Juno Teasel");
    browser.open("/bring-in");
    browser.type(
        "textarea[aria-label='Addresses or a table']",
        "Ivo Hart <ivo@larkmoor.example>, odile.farrow@larkmoor.example, not an address");
    browser.read("1 new person · 1 already here · 1 row with errors");
    browser.choose("main button", "Add 1 person to draft");
    browser.read("Export the 2 other rows");
    browser.choose("main button", "Open the draft");
    browser.applyDraft("ilse.varga");
    assertThat(person(application, "juno-teasel").status()).isEqualTo(Principal.Status.INVITED);

    browser.signInAs("Marten Holloway");
    browser.open("/settings");
    browser.read("juno.teasel@larkmoor.example");
    browser.forget();
    browser.open(link(application, "juno-teasel"));
    browser.read("Juno Teasel · ");
    browser.type("#password", "a lamp on the stairs");
    browser.type("#again", "a lamp on the stairs");
    browser.choose("button", "Set password");
    browser.read("Your password is set");
    browser.choose("a", "Sign in");
    browser.type("#name", "juno.teasel@larkmoor.example");
    browser.type("#password", "a lamp on the stairs");
    browser.choose("button", "Sign in");
    browser.read("What can Juno Teasel do");
    assertThat(person(application, "juno-teasel").status()).isEqualTo(Principal.Status.ACTIVE);
  }

  @Test
  void theRegistrarIsMovedWithAGraceTime(Application application, Browser browser) {
    LocalDate day = LocalDate.now(ZoneOffset.UTC).plusDays(20);
    browser.signInAs("Ilse Varga");
    browser.open("/people/odile.farrow/move");
    browser.read("What they have now");
    browser.click("main button[data-field='Account']");
    browser.pick("Fernwick", "Fernwick Gallery");
    browser.read("no unit");
    browser.type("input[aria-label='End of the grace time']", day.toString());
    browser.press(Keys.ENTER);
    browser.read("Keep until the end of the grace time");
    browser.choose("main button", "Add to draft");
    browser.applyDraft("ilse.varga");
    Principal moved = person(application, "odile.farrow");
    assertThat(moved.account()).isEqualTo(new AccountKey("fernwick"));
    assertThat(application.part(LiveModel.class).engine().catalogue().guests())
        .anyMatch(it ->
            it.principal().equals(moved.key())
                && it.account().equals(new AccountKey("quillhaven"))
                && it.window().until() != null);
    browser.open("/people/odile.farrow");
    browser.read("Loses what they keep for the grace time after the move");
    browser.choose("button", "Take back");
    browser.readNoMore("Loses what they keep");
  }

  /** The manager of a shop: nobody who signs in elsewhere in these journeys. */
  private static Principal shopManager(Application application) {
    return application.model().principals().stream()
        .filter(it -> "Shop manager".equals(it.attributes().get("title")))
        .filter(it -> it.account().equals(new AccountKey("brack")))
        .findFirst()
        .orElseThrow();
  }

  @Test
  void whoManagesOthersIsPartedWithAndComesBack(Application application, Browser browser) {
    Principal manager = shopManager(application);
    String key = manager.key().value();
    List<Principal> reports =
        application.model().principals().stream()
            .filter(it -> manager.key().equals(it.manager()))
            .toList();
    assertThat(reports).isNotEmpty();
    browser.signInAs("Ilse Varga");
    browser.open("/people/" + key + "/part");
    Principal first = reports.getFirst();
    browser.read("Manager of " + first.about().nameOr(first.key()));
    browser.click("button[data-field='Who takes over everything']");
    browser.pick("Lorne", "Lorne Whitby");
    browser.choose("main button", "Add to draft");
    browser.applyDraft("ilse.varga");
    assertThat(person(application, key).status()).isEqualTo(Principal.Status.LEFT);
    assertThat(reports)
        .allSatisfy(it ->
            assertThat(person(application, it.key().value()).manager())
                .isEqualTo(new PrincipalKey("lorne.whitby")));
    browser.open("/people/" + key);
    browser.choose("main button", "More");
    browser.choose(".ant-dropdown-menu-item", "Invite again");
    browser.read("Nothing comes back by itself");
    browser.choose("main button", "Add to draft");
    browser.applyDraft("ilse.varga");
    assertThat(person(application, key).status()).isEqualTo(Principal.Status.INVITED);
  }

  @Test
  void aRuleSuspendsFourteenAndIsReverted(Application application, Browser browser) {
    List<Principal> guards = // none of whom was here since the day before yesterday
        application.model().principals().stream()
            .filter(it -> new UnitKey("l-night").equals(it.unit()))
            .toList();
    assertThat(guards).hasSize(14);
    browser.signInAs("Ilse Varga");
    browser.open("/watch-rules/new");
    browser.read("It would warn");
    browser.choose("main button", "do not warn");
    browser.click("button[data-field='Group']");
    browser.pick("Night guards", "Night guards");
    browser.read("in Night guards");
    browser.click("button[data-field='After']");
    browser.type("input[aria-label='After']", "1");
    browser.press(Keys.ENTER);
    browser.read("It would act on 14 people today.");
    browser.type("input[aria-label='Title']", "Night guards away");
    browser.choose("main button", "Make rule");
    browser.read("acts with the rights of Ilse Varga");
    browser.choose("main button", "Look now");
    browser.read("acted on 14 people");
    assertThat(guards)
        .allMatch(
            it -> person(application, it.key().value()).status() == Principal.Status.SUSPENDED);
    browser.choose("section[aria-label='What it did'] a", "revision");
    browser.choose("button", "Revert in a new draft");
    browser.applyDraft("ilse.varga");
    assertThat(guards)
        .allMatch(it -> person(application, it.key().value()).status() == Principal.Status.ACTIVE);
  }

  /** {@return the first people of Quillhaven as their personnel office lists them} */
  private static String staff(List<Principal> people) {
    StringBuilder list = new StringBuilder("Personnel number,Name,E-mail\n");
    for (Principal it : people) {
      list.append("Q-%s,%s,%s\n".formatted(it.key(), it.about().nameOr(it.key()), it.email()));
    }
    return list.toString();
  }

  @Test
  void aPersonnelListThatWouldRemoveTooManyIsStopped(Application application, Browser browser)
      throws IOException {
    List<Principal> staff =
        application.model().principals().stream()
            .filter(it -> it.account().equals(new AccountKey("quillhaven")))
            .filter(it -> it.kind() == Principal.Kind.PERSON && it.email() != null)
            .filter(it -> it.status() != Principal.Status.LEFT)
            .toList();
    Path file = application.personnel().resolve("quillhaven").resolve("staff.csv");
    Files.createDirectories(file.getParent());
    Files.writeString(file, staff(staff));
    browser.signInAs("Ilse Varga");
    browser.open("/people");
    browser.choose("main button", "Personnel lists");
    browser.choose("main button", "New list");
    browser.click("main button[data-field='Account']");
    browser.pick("Quillhaven", "Quillhaven");
    browser.choose("main button", "take it from a folder");
    browser.click("button[data-field='Then']");
    browser.pick("applied", "applied");
    browser.type("input[aria-label='Title']", "Quillhaven staff");
    browser.choose("main button", "Save list");
    browser.read("looked for in personnel/quillhaven/");
    browser.choose("main button", "Look for a new file");
    browser.read("%d change".formatted(staff.size()));
    browser.read("applied in revision");
    assertThat(staff)
        .allMatch(it ->
            person(application, it.key().value())
                .attributes()
                .get("number")
                .equals("Q-" + it.key()));

    Files.writeString(file, staff(staff.subList(0, 3)));
    browser.choose("main button", "Look for a new file");
    int gone = staff.size() - 3;
    browser.read("It would remove %d of %d people, more than 5 %%.".formatted(gone, staff.size()));
    browser.choose("main button", "Look at it");
    browser.read("missing from the list");
    browser.choose("main button", "Take it all the same");
    browser.read("Take a list by which %d people leave?".formatted(gone));
    browser.choose(".ant-popover button", "Back");
    browser.choose("main button", "Dismiss");
    browser.read("dismissed");
    assertThat(staff)
        .noneMatch(it -> person(application, it.key().value()).status() == Principal.Status.LEFT);
  }

  @Test
  void everythingEndsNow(Application application, Browser browser) {
    browser.signInAs("Noor Haddad");
    browser.read("What can Noor Haddad do");
    browser.signInAs("Ilse Varga");
    browser.open("/people/noor.haddad");
    browser.choose("main button", "More");
    browser.choose(".ant-dropdown-menu-item", "End all access now");
    browser.type("input[aria-label='Reason']", "Lost laptop");
    application.part(JdbcTemplate.class).update("update credential set totp_last_step = -1");
    browser.choose(".ant-modal button", "Use it");
    browser.choose(".ant-modal button", "End all access now");
    browser.read("Noor Haddad has no access now");
    assertThat(person(application, "noor.haddad").status()).isEqualTo(Principal.Status.SUSPENDED);
    assertThat(
            application
                .part(JdbcTemplate.class)
                .queryForObject(
                    "select count(*) from spring_session where principal_name = 'noor.haddad'",
                    Integer.class))
        .isZero();
  }

  @Test
  void twoRecordsBecomeOne(Application application, Browser browser) {
    browser.signInAs("Ilse Varga");
    browser.open("/people/ada.finch");
    browser.choose("main button", "More");
    browser.choose(".ant-dropdown-menu-item", "Merge into another record");
    browser.type(".ant-modal input[role=combobox]", "Pia Lund");
    browser.choose(".ant-select-item-option", "Pia Lund");
    browser.read("the memberships, assignments and duties of both");
    browser.choose(".ant-modal button", "Add to draft");
    browser.applyDraft("ilse.varga");
    assertThat(
            application
                .part(LiveModel.class)
                .engine()
                .catalogue()
                .principals()
                .containsKey(new PrincipalKey("ada.finch")))
        .isFalse();
  }
}
