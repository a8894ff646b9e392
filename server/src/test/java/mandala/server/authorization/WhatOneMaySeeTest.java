package mandala.server.authorization;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import mandala.server.ApiTest;
import mandala.server.Caller;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import tools.jackson.databind.JsonNode;

/** Mandala's own rights decide every call (section 11): four people, four views. */
@ApiTest
class WhatOneMaySeeTest {

  private static Caller security;
  private static Caller auditor;
  private static Caller delegated;
  private static Caller plain;

  @BeforeAll
  static void signIn(@Autowired Environment environment, @Autowired JdbcTemplate database) {
    database.update("update credential set totp_last_step = -1");
    security = Caller.as("ilse.varga", environment);
    auditor = Caller.as("vera.lindqvist", environment);
    delegated = Caller.as("dario.penn", environment);
    plain = Caller.as("noor.haddad", environment);
  }

  private static int total(Caller caller, String query) {
    return caller.get("/api/people?" + query).json().get("total").intValue();
  }

  private static List<String> keys(JsonNode array) {
    List<String> keys = new ArrayList<>();
    array.forEach(it -> keys.add(it.get("key").stringValue()));
    return keys;
  }

  private static String ask(String who, String in) {
    return "/api/ask/access?principal=" + who + "&in=" + in + "&secondFactor=true";
  }

  private static String routes(String who, String permission, String resource) {
    return "/api/ask/routes?principal="
        + who
        + "&permission="
        + permission
        + "&resource="
        + resource;
  }

  @Nested
  class SecurityAdministrator {

    @Test
    void seesEverybodyOfTheTrustAndNobodyOfTheInsurer() {
      assertThat(total(security, "account=larkmoor")).isGreaterThan(380);
      assertThat(security.get("/api/people?account=dunlow").status())
          .as("as of an account that there is not")
          .isEqualTo(404);
      assertThat(keys(security.get("/api/accounts").json().get("accounts")))
          .contains("larkmoor", "osier", "tarn")
          .doesNotContain("dunlow");
    }

    @Test
    void mayAskAboutAnybodyThere() {
      assertThat(security.get(ask("noor.haddad", "quillhaven")).status()).isEqualTo(200);
      assertThat(security.get(ask("sunniva.dunlow", "dunlow")).status()).isEqualTo(404);
    }

    @Test
    void withoutTheSecondFactorSeesHerselfOnly(@Autowired Environment environment) {
      Caller without = new Caller(environment);
      without.signIn("ilse.varga", "larkmoor-demo", "");
      assertThat(total(without, "account=larkmoor")).isEqualTo(1);
      assertThat(without.get(ask("noor.haddad", "quillhaven")).status()).isEqualTo(404);
    }

    @Test
    void ofAGuestSeesTheAccountThatLetItIn() {
      JsonNode answer = security.get(ask("gil.moreau", "quillhaven")).json();
      assertThat(answer.get("limited").booleanValue()).isTrue();
      assertThat(answer.get("figure").get("rights").longValue()).isPositive();
      assertThat(security.get(ask("gil.moreau", "dunlow")).status())
          .as("of the insurer she may not know")
          .isEqualTo(404);
    }
  }

  @Nested
  class Auditor {

    @Test
    void seesWhatTheSecurityAdministratorSees() {
      assertThat(total(auditor, "account=larkmoor")).isEqualTo(total(security, "account=larkmoor"));
      assertThat(auditor.get(ask("noor.haddad", "quillhaven")).status()).isEqualTo(200);
      assertThat(auditor.get(routes("noor.haddad", "loan.draft", "q-loan-101")).status())
          .isEqualTo(200);
    }

    @Test
    void cannotChangeAnything() {
      Caller.Answer answer =
          auditor.send("PUT", "/api/model?base=1", "{\"format\": \"mandala-model/1\"}");
      assertThat(answer.status()).isEqualTo(403);
      assertThat(answer.type()).startsWith("application/problem+json");
      assertThat(answer.json().get("detail").stringValue())
          .contains("To replace the model you need", "on every account");
      assertThat(total(auditor, "account=larkmoor")).isGreaterThan(380);
    }
  }

  @Nested
  class DelegatedAdministrator {

    @Test
    void seesTheMuseumOnly() {
      assertThat(total(delegated, ""))
          .isEqualTo(total(delegated, "account=fernwick"))
          .isGreaterThan(60);
      for (String elsewhere : List.of("larkmoor", "quillhaven", "no-account")) {
        Caller.Answer answer = delegated.get("/api/people?account=" + elsewhere);
        assertThat(answer.status()).isEqualTo(404);
        assertThat(answer.body().replace(elsewhere, "X"))
            .isEqualTo(delegated.get("/api/people?account=nix").body().replace("nix", "X"));
      }
      assertThat(keys(delegated.get("/api/accounts").json().get("accounts")))
          .containsExactly("fernwick");
    }

    @Test
    void mayAskAboutTheMuseumOnly() {
      assertThat(delegated.get(ask("ada.finch", "fernwick")).status()).isEqualTo(200);
      assertThat(delegated.get(ask("noor.haddad", "quillhaven")).status()).isEqualTo(404);
      assertThat(delegated.get(routes("noor.haddad", "loan.draft", "q-loan-101")).status())
          .isEqualTo(404);
    }

    @Test
    void ofAGuestIsToldOfTheMuseumOnly() {
      JsonNode answer = delegated.get("/api/ask/access?principal=odile.farrow").json();
      assertThat(answer.get("limited").booleanValue()).isTrue();
      assertThat(answer.get("figure").get("sectors")).isNotEmpty();
      for (JsonNode sector : answer.get("figure").get("sectors")) {
        assertThat(sector.get("key").stringValue()).matches("~[0-9]+|account:fernwick");
        assertThat(sector.get("name").stringValue()).doesNotContain("Larkmoor", "Quillhaven");
      }
      assertThat(delegated.get(routes("odile.farrow", "loan.draft", "q-loan-101")).status())
          .isEqualTo(404);
      assertThat(delegated.get(routes("odile.farrow", "loan.approve", "f-loan-101")).status())
          .isEqualTo(200);
    }

    @Test
    void mayNeitherExportNorImport() {
      assertThat(delegated.get("/api/model").status()).isEqualTo(403);
      assertThat(delegated.send("PUT", "/api/model?base=1", "{}").status()).isEqualTo(403);
    }
  }

  @Nested
  class PlainPerson {

    @Test
    void seesHerselfOnly() {
      JsonNode people = plain.get("/api/people?account=quillhaven").json();
      assertThat(keys(people.get("rows"))).containsExactly("noor.haddad");
      assertThat(keys(plain.get("/api/people/choices?text=o").json()))
          .containsExactly("noor.haddad");
      assertThat(plain.get("/api/accounts").json().get("people").booleanValue()).isFalse();
    }

    @Test
    void mayAskAboutHerselfOnly() {
      assertThat(plain.get(ask("noor.haddad", "quillhaven")).status()).isEqualTo(200);
      Caller.Answer other = plain.get(ask("tomas.brandt", "quillhaven"));
      assertThat(other.status()).isEqualTo(404);
      assertThat(other.json().get("detail").stringValue())
          .isEqualTo(
              "There is nobody called 'tomas.brandt' whose access you can ask about. Choose from the"
                  + " list.");
    }

    @Test
    void isNotToldThatSomebodyElseExists() {
      assertThat(plain.get(ask("tomas.brandt", "quillhaven")).body().replace("tomas.brandt", "X"))
          .isEqualTo(
              plain.get(ask("no.such.one", "quillhaven")).body().replace("no.such.one", "X"));
    }

    @Test
    void isToldOfPlacesOnlyWhereSheHoldsSomething() {
      JsonNode answer = plain.get(ask("noor.haddad", "quillhaven")).json();
      assertThat(answer.get("regions")).isNotEmpty();
      for (JsonNode region : answer.get("regions")) {
        int held = 0;
        for (JsonNode cell : region.get("cells")) {
          held +=
              cell.get("allowed").intValue()
                  + cell.get("blocked").intValue()
                  + cell.get("denied").intValue();
        }
        assertThat(held).as(region.get("name").stringValue()).isPositive();
      }
    }

    @Test
    void mayAskWhatSheMayDoForWhoDelegatedToHer() {
      JsonNode answer =
          plain.get(ask("noor.haddad", "quillhaven") + "&actingFor=petra.lowe").json();
      assertThat(answer.has("refusal")).isFalse();
      assertThat(answer.get("figure").get("rights").longValue()).isPositive();
      assertThat(plain.get(ask("noor.haddad", "quillhaven") + "&actingFor=tomas.brandt").status())
          .isEqualTo(404);
    }
  }

  @Test
  void nobodySignedInSeesNothing(@Autowired Environment environment) {
    Caller nobody = new Caller(environment);
    for (String path :
        List.of("/api/people", "/api/accounts", "/api/model", ask("noor.haddad", "quillhaven"))) {
      Caller.Answer answer = nobody.get(path);
      assertThat(answer.status()).as(path).isEqualTo(401);
      assertThat(answer.type()).startsWith("application/problem+json");
    }
  }
}
