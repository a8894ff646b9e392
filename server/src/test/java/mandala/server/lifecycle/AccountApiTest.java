package mandala.server.lifecycle;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import mandala.core.authority.Authority;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Guest;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import mandala.core.rule.Guests;
import mandala.server.Caller;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Who belongs to an account, and how its ownership passes on. */
class AccountApiTest extends LifecycleCase {

  private static String summary(String account) {
    return "/api/accounts/" + account + "/summary";
  }

  private long count(Predicate<Principal> which) {
    return model.engine().catalogue().principals().values().stream().filter(which).count();
  }

  private List<Guest> guests(AccountKey account, Instant now) {
    return model.engine().catalogue().model().guests().stream()
        .filter(it -> it.window().holdsAt(now))
        .filter(it -> Guests.covers(it, account, model.engine().catalogue()))
        .filter(it -> model.engine().isActive(it.principal(), now))
        .toList();
  }

  private List<PrincipalKey> owners(String account) {
    return Authority.ownersOf(model.engine(), new AccountKey(account), clock.instant());
  }

  @Test
  void theSummaryCountsWhatTheModelHas() {
    Caller ilse = as("ilse.varga");
    Instant now = clock.instant();
    List<String> listed = ok(ilse.get("/api/accounts")).get("accounts").findValuesAsString("key");
    assertThat(listed).hasSizeGreaterThan(3);
    for (Account account : model.engine().catalogue().accounts().values()) {
      if (!listed.contains(account.key().value())) {
        refused(ilse.get(summary(account.key().value())), 404, "There is no account");
        continue;
      }
      JsonNode is = ok(ilse.get(summary(account.key().value())));
      Predicate<Principal> here = it -> it.account().equals(account.key());
      Predicate<Principal> person = here.and(it -> it.kind() == Principal.Kind.PERSON);
      assertThat(is.get("active").longValue())
          .isEqualTo(count(person.and(it -> it.status() == Principal.Status.ACTIVE)));
      assertThat(is.get("suspended").longValue())
          .isEqualTo(count(person.and(it -> it.status() == Principal.Status.SUSPENDED)));
      assertThat(is.get("waiting").longValue())
          .isEqualTo(count(person.and(it -> it.status() == Principal.Status.INVITED)));
      Predicate<Principal> service =
          here.and(it -> it.kind() == Principal.Kind.SERVICE)
              .and(it -> it.status() == Principal.Status.ACTIVE);
      assertThat(is.get("services").longValue()).isEqualTo(count(service));
      assertThat(is.get("servicesWithoutSponsor").longValue())
          .isEqualTo(count(service.and(it -> it.sponsor() == null)));
      List<Guest> guests =
          guests(account.key(), now).stream()
              .filter(it -> ilse.get("/api/rights/people/" + it.principal()).status() == 200)
              .toList();
      assertThat(is.get("guests").longValue())
          .isEqualTo(guests.stream().map(Guest::principal).distinct().count());
      assertThat(is.get("guestsWithoutEnd").longValue())
          .isEqualTo(
              guests.stream()
                  .filter(it -> it.window().until() == null)
                  .map(Guest::principal)
                  .distinct()
                  .count());
      assertThat(is.get("guestsEnding").longValue())
          .isEqualTo(
              guests.stream()
                  .filter(it -> {
                    Instant until = it.window().until();
                    return until != null && !until.isAfter(now.plus(Duration.ofDays(30)));
                  })
                  .map(Guest::principal)
                  .distinct()
                  .count());
      for (JsonNode seats : is.get("seats")) {
        Role role =
            model.engine().catalogue().roles().values().stream()
                .filter(it -> it.key().value().equals(seats.get("key").stringValue()))
                .findFirst()
                .orElseThrow();
        List<Principal> holders =
            model.engine().catalogue().principals().values().stream()
                .filter(it -> model.engine().isActive(it.key(), now))
                .filter(it ->
                    model.engine().rolesHeld(it.key(), now).stream()
                        .anyMatch(held -> comesTo(held, role.key())))
                .toList();
        boolean all =
            holders.stream()
                .allMatch(it -> ilse.get("/api/rights/people/" + it.key()).status() == 200);
        assertThat(seats.has("used")).as(role.key().value()).isEqualTo(all);
        if (all) {
          assertThat(seats.get("used").intValue()).isEqualTo(holders.size());
        }
      }
    }
  }

  private boolean comesTo(RoleKey from, RoleKey role) {
    Role it = model.engine().catalogue().roles().get(from);
    return from.equals(role)
        || (it != null
            && !it.retired()
            && it.inherits().stream().anyMatch(junior -> comesTo(junior, role)));
  }

  @Test
  void whoIsInvitedIsListedWithTheirInvitation() {
    Caller ilse = as("ilse.varga");
    ok(
        post(
            ilse,
            "/api/people/arrivals",
            Map.of(
                "account", "quillhaven",
                "list", "Juno Teasel <juno.teasel@example.org>",
                "columns", Map.of())));
    applied(ilse, "ilse.varga");
    JsonNode invited = ok(ilse.get(summary("quillhaven"))).get("invited");
    assertThat(invited.findValuesAsString("name")).contains("Juno Teasel");
    for (JsonNode it : invited) {
      if (it.get("name").stringValue().equals("Juno Teasel")) {
        assertThat(Instant.parse(it.get("since").stringValue()))
            .isBetween(clock.instant().minusSeconds(60), clock.instant().plusSeconds(60));
      }
    }
  }

  @Test
  void anAccountThatOneMayNotReadSaysNothing() {
    assertThat(as("noor.haddad").get(summary("quillhaven")).status()).isIn(403, 404);
    refused(as("ilse.varga").get(summary("nowhere")), 404, "There is no account");
  }

  private String proof(JsonNode draft, String who) {
    return "{\"content\":" + draft.get("content") + ",\"proof\":\"" + code(who) + "\"}";
  }

  @Test
  void ownershipPassesOnAndTheLastOwnerStays() {
    Caller ilse = as("ilse.varga");
    List<PrincipalKey> were = owners("larkmoor");
    assertThat(were).isNotEmpty();
    String from = were.getFirst().value();
    Principal heir =
        model.engine().catalogue().principals().values().stream()
            .filter(it -> it.account().value().equals("larkmoor"))
            .filter(it -> it.kind() == Principal.Kind.PERSON && it.mfa())
            .filter(it -> it.status() == Principal.Status.ACTIVE && it.window().until() == null)
            .filter(it -> !were.contains(it.key()))
            .findFirst()
            .orElseThrow();
    String path = "/api/accounts/larkmoor/owner";
    JsonNode made = ok(post(ilse, path, Map.of("from", from, "to", heir.key().value())));
    String draft = "/api/drafts/" + made.get("draft").stringValue();
    JsonNode shown = ok(ilse.get(draft));
    assertThat(shown.toString()).contains(heir.about().nameOr(heir.key()));
    refused(
        ilse.send("POST", "/api/drafts/open/apply", proof(shown, "ilse.varga")), 409, "critical");
    Caller marten = as("marten.holloway");
    ok(marten.send("POST", draft + "/approval", proof(ok(marten.get(draft)), "marten.holloway")));
    applied(as("ilse.varga"), "ilse.varga");
    assertThat(owners("larkmoor"))
        .contains(heir.key())
        .doesNotContain(were.getFirst())
        .hasSize(were.size());
    JsonNode is = ok(ilse.get(summary("larkmoor"))).get("owners");
    assertThat(is.findValuesAsString("key")).contains(heir.key().value());
  }

  @Test
  void onlyAnOwnerHandsOverAndOnlyToWhoCouldOwn() {
    Caller ilse = as("ilse.varga");
    String path = "/api/accounts/larkmoor/owner";
    String owner = owners("larkmoor").getFirst().value();
    refused(post(ilse, path, Map.of("from", "noor.haddad", "to", owner)), 409, "does not own this");
    Principal without =
        model.engine().catalogue().principals().values().stream()
            .filter(it -> it.kind() == Principal.Kind.PERSON && !it.mfa())
            .findFirst()
            .orElseThrow();
    refused(
        post(ilse, path, Map.of("from", owner, "to", without.key().value())),
        400,
        "can't own an account");
    refused(post(ilse, path, Map.of("from", owner, "to", owner)), 400, "can't own an account");
    refused(post(ilse, path, Map.of("from", owner, "to", "nobody")), 404, "There is nobody");
    refused(post(ilse, path, Map.of("from", owner)), 400, "to");
  }

  private static Map<String, Object> copy(String name, String parent, String administrator) {
    return Map.of(
        "name", name,
        "parent", parent,
        "administrator", administrator,
        "parts", List.of("units", "groups", "roles"));
  }

  @Test
  void anAccountIsMadeLikeAnother() {
    Caller marten = as("marten.holloway");
    JsonNode made =
        ok(
            post(
                marten,
                "/api/accounts/quillhaven/copies",
                copy("Harrow Lane Annexe", "larkmoor", "ilse.varga")));
    assertThat(made.get("account").stringValue()).isEqualTo("harrow-lane-annexe");
    AccountKey fresh = new AccountKey("harrow-lane-annexe");
    AccountKey old = new AccountKey("quillhaven");
    String draft = "/api/drafts/" + made.get("draft").stringValue();
    JsonNode shown = ok(marten.get(draft));
    Caller ilse = as("ilse.varga");
    ok(ilse.send("POST", draft + "/approval", proof(ok(ilse.get(draft)), "ilse.varga")));
    assertThat(shown.toString()).contains("Harrow Lane Annexe");
    applied(as("marten.holloway"), "marten.holloway");

    Catalogue in = model.engine().catalogue();
    assertThat(in.accounts().get(fresh)).isNotNull();
    assertThat(in.units().values().stream().filter(it -> it.account().equals(fresh)))
        .hasSameSizeAs(
            in.units().values().stream().filter(it -> it.account().equals(old)).toList());
    assertThat(in.groups().values().stream().filter(it -> it.account().equals(fresh)))
        .hasSameSizeAs(
            in.groups().values().stream().filter(it -> it.account().equals(old)).toList());
    assertThat(count(it -> it.account().equals(fresh))).as("people stay where they are").isZero();
    assertThat(ok(ilse.get(summary("harrow-lane-annexe"))).get("active").intValue()).isZero();
  }

  @Test
  void anAccountNeedsANameAndAnAdministratorWhoBelongsToIt() {
    Caller ilse = as("ilse.varga");
    String path = "/api/accounts/quillhaven/copies";
    refused(post(ilse, path, copy("", "larkmoor", "ilse.varga")), 400, "name");
    refused(
        post(ilse, path, copy("Annexe", "quillhaven", staffOf("fernwick"))),
        400,
        "would not belong to the account");
    refused(post(ilse, path, copy("Annexe", "nowhere", "ilse.varga")), 404, "no account");
    refused(post(ilse, path, copy("Annexe", "larkmoor", "nobody")), 404, "There is nobody");
    assertThat(ilse.get("/api/drafts/open").json().path("changes")).isEmpty();
  }

  private String staffOf(String account) {
    return model.engine().catalogue().principals().values().stream()
        .filter(it -> it.account().value().equals(account))
        .filter(it -> it.kind() == Principal.Kind.PERSON)
        .map(it -> it.key().value())
        .findFirst()
        .orElseThrow();
  }
}
