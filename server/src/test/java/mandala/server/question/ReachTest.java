package mandala.server.question;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import mandala.core.analysis.Peers;
import mandala.core.engine.Engine;
import mandala.core.model.key.PrincipalKey;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** What can be switched on, everything within reach, what is compared with, and people by route. */
@ApiTest
@DirtiesContext
class ReachTest {

  @Autowired private Environment environment;
  @Autowired private JdbcTemplate database;
  @Autowired private LiveModel model;

  private Caller as(String who) {
    database.update("update credential set totp_last_step = -1");
    return Caller.as(who, environment);
  }

  private static String access(String who, String more) {
    return "/api/ask/access?principal=" + who + "&secondFactor=true" + more;
  }

  @Test
  void whatIsSwitchedOnIsHeldAsIfItWere() {
    Caller ilse = as("ilse.varga");
    JsonNode plain = ilse.get(access("noor.haddad", "")).json();
    assertThat(plain.get("switchable")).isNotEmpty();
    long before = plain.at("/figure/rights").longValue();
    long most = 0;
    for (JsonNode it : plain.get("switchable")) {
      assertThat(it.get("on").booleanValue()).isFalse();
      JsonNode with = ilse.get(access("noor.haddad", "&on=" + it.get("key").stringValue())).json();
      most = Math.max(most, with.at("/figure/rights").longValue());
    }
    assertThat(most).isGreaterThan(before);
    assertThat(ilse.get(access("noor.haddad", "")).json().at("/figure/rights").longValue())
        .as("nothing is kept")
        .isEqualTo(before);
  }

  @Test
  void whatIsSwitchedOnShowsInTheRoutesToo() {
    Caller ilse = as("ilse.varga");
    JsonNode plain = ilse.get(access("noor.haddad", "")).json();
    String key = plain.at("/switchable/0/key").stringValue();
    Set<String> more = new HashSet<>();
    collect(ilse.get(access("noor.haddad", "&on=" + key)).json().get("regions"), more);
    int shown = 0;
    for (String each : more) {
      String asked =
          "/api/ask/routes?principal=noor.haddad&secondFactor=true&permission="
              + each.replace(" ", "&resource=");
      if (!ilse.get(asked).json().get("verdict").stringValue().equals("allowed")) {
        JsonNode on = ilse.get(asked + "&on=" + key).json();
        assertThat(on.get("verdict").stringValue()).isEqualTo("allowed");
        assertThat(on.get("live").toString()).contains(key);
        shown++;
      }
    }
    assertThat(shown).isPositive();
  }

  private static void collect(JsonNode regions, Set<String> into) {
    for (JsonNode region : regions) {
      for (JsonNode cell : region.get("cells")) {
        if (cell.get("allowed").intValue() > 0) {
          into.add(cell.get("permission").stringValue() + " " + cell.get("sample").stringValue());
        }
      }
      collect(region.get("below"), into);
    }
  }

  @Test
  void whatCannotBeSwitchedOnIsRefusedByName() {
    Caller ilse = as("ilse.varga");
    Caller.Answer answer = ilse.get(access("noor.haddad", "&on=petra-signs"));
    assertThat(answer.status()).isEqualTo(400);
    assertThat(answer.body()).contains("petra-signs").contains("noor.haddad");
    assertThat(ilse.get(access("noor.haddad", "&on=no-such")).status()).isEqualTo(400);
  }

  @Test
  void everythingWithinReachIsTheirOwnAndWhatComesFromWhomTheyMayActFor() {
    Caller ilse = as("ilse.varga");
    JsonNode own = ilse.get(access("noor.haddad", "")).json();
    JsonNode all = ilse.get(access("noor.haddad", "&actingFor=*")).json();
    assertThat(own.get("everybody").booleanValue()).isFalse();
    assertThat(all.get("everybody").booleanValue()).isTrue();
    assertThat(all.get("through")).hasSize(1);
    JsonNode petra = all.at("/through/0");
    assertThat(petra.get("key").stringValue()).isEqualTo("petra.lowe");
    assertThat(all.at("/figure/rights").longValue())
        .isEqualTo(own.at("/figure/rights").longValue() + petra.get("more").longValue());
    assertThat(petra.get("more").longValue())
        .isPositive()
        .isLessThan(petra.get("rights").longValue());
  }

  @Test
  void aRouteTellsForWhomTheyWouldAct() {
    Caller ilse = as("ilse.varga");
    String asked =
        "/api/ask/routes?principal=noor.haddad&secondFactor=true&permission=loan.approve"
            + "&resource=q-loan-101";
    assertThat(ilse.get(asked).json().get("verdict").stringValue()).isNotEqualTo("allowed");
    JsonNode all = ilse.get(asked + "&actingFor=*").json();
    assertThat(all.get("verdict").stringValue()).isEqualTo("allowed");
    assertThat(all.at("/actingFor/key").stringValue()).isEqualTo("petra.lowe");
  }

  @Test
  void whoMayActForNobodyReachesTheirOwn() {
    Caller ilse = as("ilse.varga");
    JsonNode all = ilse.get(access("tess.aldergate", "&actingFor=*")).json();
    assertThat(all.get("through")).isEmpty();
    assertThat(all.get("hiddenThrough").booleanValue()).isFalse();
    assertThat(all.at("/figure/rights"))
        .isEqualTo(ilse.get(access("tess.aldergate", "")).json().at("/figure/rights"));
  }

  @Test
  void aDelegateSeesTheirOwnReach() {
    Caller noor = as("noor.haddad");
    JsonNode all = noor.get(access("noor.haddad", "&actingFor=*")).json();
    assertThat(all.get("through")).hasSize(1);
    assertThat(noor.get(access("petra.lowe", "&actingFor=*")).status()).isEqualTo(404);
  }

  private static String differ(String one, String other, String more) {
    return "/api/ask/difference?one=" + one + "&other=" + other + more;
  }

  @Test
  void colleaguesHaveWhatThreeInFourHave() {
    Caller ilse = as("ilse.varga");
    JsonNode answer =
        ilse.get(differ("odile.farrow", "colleagues:odile.farrow", "&in=quillhaven")).json();
    assertThat(answer.at("/other/kind").stringValue()).isEqualTo("colleagues");
    assertThat(answer.at("/other/title").stringValue()).contains("of the same title have");
    assertThat(answer.get("lost").longValue()).isPositive();
    assertThat(answer.get("lines").toString()).contains("order.approve");
    assertThat(answer.get("areas")).hasSize(1);
    assertThat(answer.at("/areas/0/name").stringValue()).isEqualTo("Purchasing");
  }

  @Test
  void whatOnlyOneSideHasIsAFigureOfItsOwn() {
    Caller ilse = as("ilse.varga");
    JsonNode answer = ilse.get(differ("odile.farrow", "noor.haddad", "")).json();
    assertThat(answer.at("/less/rights")).isEqualTo(answer.get("lost"));
    assertThat(answer.at("/more/rights")).isEqualTo(answer.get("gained"));
    long areas = 0;
    for (JsonNode area : answer.get("areas")) {
      areas += area.get("lost").longValue();
    }
    assertThat(areas).isEqualTo(answer.get("lost").longValue());
  }

  @Test
  void aRoleIsWhatItGivesOnTheAccount() {
    Caller ilse = as("ilse.varga");
    JsonNode answer = ilse.get(differ("odile.farrow", "role:registrar", "&in=quillhaven")).json();
    assertThat(answer.at("/other/kind").stringValue()).isEqualTo("role");
    assertThat(answer.get("gained").longValue()).isZero();
    JsonNode two =
        ilse.get(differ("role:cataloguer", "role:records-cataloguer", "&in=quillhaven")).json();
    assertThat(two.get("lines")).isEmpty();
    assertThat(ilse.get(differ("role:cataloguer", "role:registrar", "")).status())
        .as("two roles and no account")
        .isEqualTo(400);
  }

  /** Somebody in the trust who has no colleagues. */
  private PrincipalKey lonely() {
    Engine engine = model.engine();
    return engine.catalogue().principals().values().stream()
        .filter(it -> !it.account().value().equals("dunlow"))
        .filter(it -> Peers.of(engine, it, Instant.now()).people().isEmpty())
        .findFirst()
        .orElseThrow()
        .key();
  }

  @Test
  void whatCannotBeComparedIsSaid() {
    Caller ilse = as("ilse.varga");
    assertThat(ilse.get(differ("odile.farrow", "role:no-such", "")).status()).isEqualTo(404);
    assertThat(ilse.get(differ("odile.farrow", "pattern:no-such", "")).status()).isEqualTo(404);
    assertThat(ilse.get(differ("odile.farrow", "shape:round", "")).status()).isEqualTo(400);
    JsonNode few = ilse.get(differ("noor.haddad", "colleagues:" + lonely(), "")).json();
    assertThat(few.get("title").stringValue()).isEqualTo("Too few colleagues");
    Caller noor = as("noor.haddad");
    assertThat(noor.get(differ("noor.haddad", "role:registrar", "")).status())
        .as("one who may read nothing but herself")
        .isIn(403, 404);
  }

  @Test
  void everybodyWhoCanStandsWithWhatGivesIt() {
    Caller ilse = as("ilse.varga");
    JsonNode answer = ilse.get("/api/ask/who?permission=loan.draft&on=q-loan-101").json();
    Set<String> allowed = new HashSet<>();
    answer.get("allowed").forEach(it -> allowed.add(it.get("key").stringValue()));
    Set<String> routed = new HashSet<>();
    for (JsonNode route : answer.get("routes")) {
      assertThat(route.get("source").stringValue()).isNotBlank();
      for (JsonNode who : route.get("people")) {
        routed.add(who.stringValue());
        String routes =
            ilse.get(
                    "/api/ask/routes?secondFactor=true&permission=loan.draft&resource=q-loan-101"
                        + "&principal="
                        + who.stringValue())
                .json()
                .get("live")
                .toString();
        assertThat(routes).contains(route.get("source").stringValue());
      }
    }
    assertThat(routed).isEqualTo(allowed).isNotEmpty();
    assertThat(ilse.get("/api/ask/who?risk=critical&below=account:quillhaven").json().get("routes"))
        .as("of many pairs none is the route")
        .isEmpty();
  }

  @Test
  void everyAnswerGoesOutAsAFile() {
    Caller ilse = as("ilse.varga");
    String why =
        "principal=petra.lowe&permission=loan.approve&resource=q-loan-101&secondFactor=true";
    List<String> asked =
        List.of(
            "/api/ask/access/export?principal=odile.farrow&in=quillhaven",
            "/api/ask/routes/export?" + why,
            "/api/ask/remedies/export?" + why,
            "/api/ask/who/export?permission=loan.draft&on=q-loan-101",
            "/api/ask/difference/export?one=odile.farrow&other=noor.haddad",
            "/api/ask/escalation/export?principal=marten.holloway&permission=loan.approve"
                + "&resource=o-loan-103");
    for (String path : asked) {
      Caller.Answer csv = ilse.get(path + "&format=csv");
      assertThat(csv.status()).as(path).isEqualTo(200);
      assertThat(csv.type()).contains("text/csv");
      List<String> lines = new ArrayList<>(csv.body().lines().toList());
      assertThat(lines).as(path).hasSizeGreaterThan(1);
      assertThat(ilse.get(path + "&format=xlsx").type()).contains("spreadsheetml");
      assertThat(ilse.get(path + "&format=doc").status()).isEqualTo(400);
    }
    assertThat(
            ilse.get("/api/ask/who/export?permission=loan.draft&on=q-loan-101&format=csv").body())
        .contains("can, by Registrars");
  }
}
