package mandala.server.catalog;

import static org.assertj.core.api.Assertions.assertThat;

import mandala.server.ApiTest;
import mandala.server.Caller;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** What screens read of things, places, scopes and rules. */
@ApiTest
@DirtiesContext
class ThingsTest {

  @Autowired private Environment environment;
  @Autowired private JdbcTemplate database;

  private Caller as(String who) {
    database.update("update credential set totp_last_step = -1");
    return Caller.as(who, environment);
  }

  private static String quoted(String json) {
    return json.replace('\'', '"');
  }

  @Test
  void listsAreCutToWhatOneMayRead() {
    Caller ilse = as("ilse.varga");
    Caller dario = as("dario.penn");
    int all = ilse.get("/api/things/groups").json().get("total").intValue();
    JsonNode some = dario.get("/api/things/groups?limit=1000").json();
    assertThat(some.get("total").intValue()).isPositive().isLessThan(all);
    for (JsonNode thing : some.get("things")) {
      assertThat(thing.get("account").stringValue()).isEqualTo("fernwick");
    }
    assertThat(as("noor.haddad").get("/api/things/groups").json().get("total").intValue()).isZero();
    assertThat(ilse.get("/api/things/hats").status()).isEqualTo(404);
    assertThat(
            ilse.get("/api/things/roles?text=mandala.owner")
                .json()
                .at("/things/0/supplied")
                .booleanValue())
        .isTrue();
  }

  @Test
  void whatTheDraftDoesIsMarked() {
    Caller ilse = as("ilse.varga");
    Caller.Answer edited =
        ilse.send(
            "POST",
            "/api/drafts/open/edits",
            quoted(
                "{'edits':[{'kind':'groups','after':{'name':'Zebra crew','account':'quillhaven'}},"
                    + "{'kind':'groups','key':'q-registrars','set':{'name':'Loan keepers'}},"
                    + "{'kind':'assignments','key':'l-press-office','remove':true}]}"));
    assertThat(edited.status()).as(edited.body()).isEqualTo(200);
    JsonNode groups =
        ilse.get("/api/things/groups?draft=open&account=quillhaven&text=e&limit=1000").json();
    assertThat(groups.toString()).contains("\"mark\":\"adds\"", "\"mark\":\"alters\"");
    assertThat(
            ilse.get("/api/things/assignments?draft=open&text=l-press-office")
                .json()
                .at("/things/0/mark")
                .stringValue())
        .isEqualTo("removes");
    assertThat(ilse.get("/api/things/groups?text=zebra").json().get("total").intValue()).isZero();
    JsonNode draft = ilse.get("/api/drafts/open/summary").json();
    ilse.send(
        "PATCH",
        "/api/drafts/" + draft.at("/draft/id").stringValue(),
        quoted("{'state':'discarded'}"));
  }

  @Test
  void aRolesPageTellsWhatItAmountsToAndWhoHoldsIt() {
    Caller ilse = as("ilse.varga");
    JsonNode page = ilse.get("/api/rights/roles/registrar").json();
    assertThat(page.get("content")).isNotEmpty();
    assertThat(page.get("holding").intValue()).isPositive();
    assertThat(page.at("/holders/0/by")).isNotEmpty();
    assertThat(page.get("assignments")).isNotEmpty();
    assertThat(ilse.get("/api/rights/roles/nothing").status()).isEqualTo(404);
    assertThat(ilse.get("/api/rights/roles").json().at("/holders/registrar").intValue())
        .isPositive();
  }

  @Test
  void aGroupsPageTellsWhoIsInItHowAndWhatItGives() {
    Caller ilse = as("ilse.varga");
    JsonNode page = ilse.get("/api/rights/groups/l-night-guards").json();
    assertThat(page.get("size").intValue()).isEqualTo(14);
    assertThat(page.at("/members/0/listed").booleanValue()).isFalse();
    assertThat(page.get("gives")).isNotEmpty();
    assertThat(as("dario.penn").get("/api/rights/groups/l-night-guards").status()).isEqualTo(404);
    JsonNode person = ilse.get("/api/rights/people/ottoline.marsh").json();
    assertThat(person.get("assignments")).hasSizeGreaterThanOrEqualTo(2);
    assertThat(person.get("reports")).hasSizeGreaterThanOrEqualTo(2);
  }

  @Test
  void theTreeIsReadLevelByLevel() {
    Caller ilse = as("ilse.varga");
    JsonNode top = ilse.get("/api/places/below?place=account:larkmoor").json();
    assertThat(top.get("total").intValue()).isEqualTo(top.get("places").size());
    assertThat(top.toString()).contains("account:quillhaven", "l-vans", "unit:l-night");
    JsonNode van = ilse.get("/api/places?place=l-van-1").json();
    assertThat(van.at("/place/parent").stringValue()).isEqualTo("l-vans");
    assertThat(van.at("/path/0/key").stringValue()).isEqualTo("account:larkmoor");
    assertThat(ilse.get("/api/places?place=nowhere").status()).isEqualTo(404);
    assertThat(as("dario.penn").get("/api/places?place=l-van-1").status()).isEqualTo(404);
    assertThat(ilse.get("/api/places/choices?text=blue%20van").json().at("/0/key").stringValue())
        .isEqualTo("l-van-1");
  }

  @Test
  void theMatrixTellsOwnFromInheritedCells() {
    Caller ilse = as("ilse.varga");
    ilse.send(
        "POST",
        "/api/drafts/open/edits",
        quoted(
            "{'edits':[{'kind':'assignments','after':{'key':'cell','subject':'person:noor.haddad',"
                + "'gives':'permission:mandala.access.ask','scope':[{'only':'q-rooms'}]}}]}"));
    JsonNode matrix = ilse.get("/api/places/matrix?place=q-rooms&draft=open").json();
    assertThat(matrix.get("permissions")).isNotEmpty();
    boolean own = false;
    boolean inherited = false;
    for (JsonNode row : matrix.get("rows")) {
      for (JsonNode cell : row.get("cells")) {
        own |= cell.get("way").stringValue().equals("own") && cell.get("changed").booleanValue();
        inherited |= cell.get("way").stringValue().equals("inherited");
      }
    }
    assertThat(own).isTrue();
    assertThat(inherited).isTrue();
    JsonNode draft = ilse.get("/api/drafts/open/summary").json();
    ilse.send(
        "PATCH",
        "/api/drafts/" + draft.at("/draft/id").stringValue(),
        quoted("{'state':'discarded'}"));
  }

  @Test
  void aScopeIsCountedAndNothingIsNeverEverything() {
    Caller ilse = as("ilse.varga");
    JsonNode nothing = ilse.send("POST", "/api/places/scope", quoted("{'scope':[]}")).json();
    assertThat(nothing.get("count").intValue()).isZero();
    assertThat(nothing.get("everything").booleanValue()).isFalse();
    JsonNode all =
        ilse.send("POST", "/api/places/scope", quoted("{'scope':[{'everything':true}]}")).json();
    assertThat(all.get("everything").booleanValue()).isTrue();
    assertThat(all.get("sealedOff").intValue()).as("Osier House is sealed").isPositive();
    JsonNode vans =
        ilse.send("POST", "/api/places/scope", quoted("{'scope':[{'tree':'l-vans'}]}")).json();
    assertThat(vans.get("count").intValue()).isEqualTo(3);
    assertThat(
            ilse.send("POST", "/api/places/scope", quoted("{'scope':[{'tree':'nowhere'}]}"))
                .status())
        .isEqualTo(400);
    assertThat(ilse.send("POST", "/api/places/scope", quoted("{'scope':[{'blank':'x'}]}")).status())
        .isEqualTo(422);
  }

  @Test
  void allThatADelegatedAdministratorSeesIsNotEverything() {
    JsonNode gallery =
        as("dario.penn")
            .send("POST", "/api/places/scope", quoted("{'scope':[{'tree':'account:fernwick'}]}"))
            .json();
    assertThat(gallery.get("cut").booleanValue()).isTrue();
    assertThat(gallery.get("count")).isEqualTo(gallery.get("all"));
    assertThat(gallery.get("everything").booleanValue()).isFalse();
  }

  @Test
  void aRuleTellsWhomItTakesIn() {
    Caller ilse = as("ilse.varga");
    String rule =
        "{'account':'larkmoor','rule':{'all':[{'attribute':'title','op':'is',"
            + "'value':'Night guard'}]}}";
    JsonNode takes = ilse.send("POST", "/api/places/rule", quoted(rule)).json();
    assertThat(takes.get("count").intValue()).isEqualTo(14);
    assertThat(takes.get("first")).hasSize(14);
    assertThat(as("dario.penn").send("POST", "/api/places/rule", quoted(rule)).status())
        .isEqualTo(422);
  }
}
