package mandala.server.draft;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import mandala.core.model.AccessModel;
import mandala.core.model.key.PrincipalKey;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.audit.Trail;
import mandala.server.model.LiveModel;
import mandala.server.session.Credentials;
import mandala.server.session.DemoCredentials;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** Drafts over the API: edited, judged, approved, applied, taken back. */
@ApiTest
@DirtiesContext
class DraftsTest {

  @Autowired private Environment environment;
  @Autowired private LiveModel model;
  @Autowired private JdbcTemplate database;
  @Autowired private Trail trail;
  @Autowired private Credentials credentials;

  private static @org.jspecify.annotations.Nullable AccessModel first;

  @BeforeEach
  void asAtFirst() {
    if (first == null) {
      first = now();
    } else if (!now().equals(first)) {
      model.replace(first, true, _ -> {});
    }
    database.update("update draft set state = 'discarded' where state in ('open', 'aside')");
  }

  private Caller as(String who) {
    freshCodesOnly();
    return Caller.as(who, environment);
  }

  private void freshCodesOnly() {
    database.update("update credential set totp_last_step = -1");
  }

  /** Edits as JSON with single quotes. */
  private static Caller.Answer edit(Caller caller, String... edits) {
    return caller.send(
        "POST",
        "/api/drafts/open/edits",
        ("{'edits':[" + String.join(",", edits) + "]}").replace('\'', '"'));
  }

  private static JsonNode draft(Caller caller) {
    return caller.get("/api/drafts/open/summary").json().get("draft");
  }

  private static JsonNode view(Caller caller) {
    return caller.get("/api/drafts/" + draft(caller).get("id").stringValue()).json();
  }

  private Caller.Answer apply(Caller caller, String who) {
    JsonNode view = view(caller);
    return apply(caller, who, view.get("id").stringValue(), view.get("content").stringValue());
  }

  private Caller.Answer apply(Caller caller, String who, String id, String content) {
    freshCodesOnly();
    String code = credentials.demoCode(new PrincipalKey(who), java.time.Instant.now());
    return caller.send(
        "POST",
        "/api/drafts/" + id + "/apply",
        "{\"content\":\"" + content + "\",\"proof\":\"" + code + "\"}");
  }

  private static final String JOIN =
      "{'kind':'groups','key':'q-registrars','add':{'members':['person:tess.aldergate']}}";
  private static final String LEAVE =
      "{'kind':'groups','key':'q-registrars','drop':{'members':['person:tess.aldergate']}}";

  private AccessModel now() {
    return model.engine().catalogue().model().sorted();
  }

  @Test
  void anEditWaitsInTheDraftUntilItIsAppliedAndIsTakenBackAsANewOne() {
    Caller ilse = as("ilse.varga");
    AccessModel before = now();
    assertThat(edit(ilse, JOIN).status()).isEqualTo(200);
    assertThat(now()).isEqualTo(before);
    JsonNode view = view(ilse);
    assertThat(view.at("/changes/0/sentences/0").stringValue())
        .isEqualTo("Tess Aldergate joins Registrars");
    assertThat(view.at("/faults")).isEmpty();
    Caller.Answer applied = apply(ilse, "ilse.varga");
    assertThat(applied.status()).as(applied.body()).isEqualTo(200);
    long revision = applied.json().get("revision").longValue();
    assertThat(now()).isNotEqualTo(before);
    assertThat(draft(ilse)).isNull();
    Caller.Answer back = ilse.send("POST", "/api/drafts/taking-back/" + revision, "");
    assertThat(back.json().at("/changes/0/sentences/0").stringValue())
        .isEqualTo("Tess Aldergate leaves Registrars");
    assertThat(apply(ilse, "ilse.varga").status()).isEqualTo(200);
    assertThat(now()).isEqualTo(before);
    assertThat(
            ilse.get("/api/revisions/" + revision)
                .json()
                .at("/changes/0/sentences/0")
                .stringValue())
        .isEqualTo("Tess Aldergate joins Registrars");
    assertThat(trail.verify().fault()).isEmpty();
  }

  @Test
  void theModelIsReadAsItStoodThen() {
    Caller ilse = as("ilse.varga");
    long first = model.state().revision();
    String ask = "/api/ask/access?principal=tess.aldergate&in=quillhaven&secondFactor=true";
    long rights = ilse.get(ask).json().at("/figure/rights").longValue();
    edit(ilse, JOIN);
    long drafted = ilse.get(ask + "&draft=open").json().at("/figure/rights").longValue();
    assertThat(ilse.get(ask).json().at("/figure/rights").longValue()).isEqualTo(rights);
    assertThat(apply(ilse, "ilse.varga").status()).isEqualTo(200);
    assertThat(ilse.get(ask).json().at("/figure/rights").longValue()).isEqualTo(drafted);
    assertThat(ilse.get(ask + "&revision=" + first).json().at("/figure/rights").longValue())
        .isEqualTo(rights);
    assertThat(ilse.get(ask + "&revision=9999").status()).isEqualTo(404);
    assertThat(ilse.get(ask + "&revision=" + first + "&draft=open").status()).isEqualTo(400);
    ilse.send("POST", "/api/drafts/taking-back/" + model.state().revision(), "");
    assertThat(apply(ilse, "ilse.varga").status()).isEqualTo(200);
  }

  @Test
  void oppositeEditsCancel() {
    Caller ilse = as("ilse.varga");
    edit(ilse, JOIN);
    edit(ilse, LEAVE);
    assertThat(view(ilse).get("changes")).isEmpty();
    assertThat(apply(ilse, "ilse.varga").body()).contains("The draft is empty");
  }

  @Test
  void aFaultyEditPutsNothingIn() {
    Caller ilse = as("ilse.varga");
    Caller.Answer answer =
        edit(ilse, JOIN, "{'kind':'groups','key':'q-registrars','set':{'colour':'red'}}");
    assertThat(answer.status()).isEqualTo(422);
    assertThat(answer.json().at("/faults/0/path").stringValue())
        .isEqualTo("$.edits[1].after.colour");
    assertThat(draft(ilse)).isNull();
    assertThat(edit(ilse, "{'kind':'hats','key':'x'}").status()).isEqualTo(400);
    assertThat(edit(ilse, "{'kind':'groups','key':'nobody','set':{}}").status()).isEqualTo(409);
    assertThat(edit(ilse, "{'kind':'roles','key':'mandala.owner','set':{'name':'x'}}").body())
        .contains("locked");
    assertThat(edit(ilse, "{'kind':'roles','after':{'key':'mandala.new','name':'x'}}").status())
        .isEqualTo(409);
  }

  @Test
  void whatIsNotThereAndWhatMayNotBeReadIsNamedByNobody() {
    Caller ilse = as("ilse.varga");
    Caller.Answer refused =
        edit(
            ilse,
            "{'kind':'groups','key':'q-registrars','add':{'members':['person:nobody']}}",
            "{'kind':'assignments','after':{'subject':'group:nobodies','gives':'role:nothing',"
                + "'scope':[{'tree':'nowhere'},{'unit':'none'},{'account':'no'},"
                + "{'collection':'c'}]}}",
            "{'kind':'resources','after':{'type':'what','account':'no','parent':'nowhere'}}");
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.body())
        .contains("'nobody'", "'nobodies'", "'nothing'", "'nowhere'", "'none'", "'no'", "'c'")
        .contains("'what'");
    assertThat(draft(ilse)).as("nothing is half put in").isNull();
    Caller dario = as("dario.penn");
    String add =
        "{'kind':'groups','after':{'name':'x','account':'fernwick','members':['person:%s']}}";
    Caller.Answer hidden = edit(dario, add.formatted("noor.haddad"));
    assertThat(hidden.status()).isEqualTo(422);
    assertThat(hidden.body().replace("noor.haddad", "X"))
        .as("he may not read her")
        .isEqualTo(edit(dario, add.formatted("no.one")).body().replace("no.one", "X"));
    assertThat(edit(dario, add.formatted("ada.finch")).status()).isEqualTo(200);
  }

  @Test
  void whatDanglesIsToldInPlaceAndCannotBeApplied() {
    Caller ilse = as("ilse.varga");
    edit(
        ilse,
        "{'kind':'groups','after':{'key':'x-crew','name':'Crew','account':'quillhaven'}}",
        "{'kind':'assignments','after':{'subject':'group:x-crew','gives':'role:reader',"
            + "'scope':[{'tree':'q-rooms'}]}}");
    String id = draft(ilse).get("id").stringValue();
    ilse.send(
        "POST",
        "/api/drafts/" + id + "/drop",
        "{'kind':'groups','key':'x-crew'}".replace('\'', '"'));
    assertThat(ilse.get("/api/things/groups?draft=open").status())
        .as("pages go on, so that it can be mended")
        .isEqualTo(200);
    JsonNode view = view(ilse);
    assertThat(view.get("changes")).hasSize(1);
    assertThat(view.get("faults").toString()).contains("x-crew");
    assertThat(view.at("/faults/0/next").stringValue()).isNotEmpty();
    assertThat(ilse.get("/api/drafts/open/impact").json().get("state").stringValue())
        .isEqualTo("faulty");
    Caller.Answer answer = apply(ilse, "ilse.varga");
    assertThat(answer.status()).isEqualTo(422);
    assertThat(answer.json().get("faults")).isNotEmpty();
  }

  @Test
  void aDelegatedAdministratorIsStoppedAtTheBorderWithTheRuleAndWhoCould() {
    Caller dario = as("dario.penn");
    String inside = "{'kind':'groups','after':{'name':'Friday crew','account':'fernwick'}}";
    assertThat(edit(dario, inside).status()).isEqualTo(200);
    assertThat(view(dario).at("/changes/0/refusals")).isEmpty();
    assertThat(view(dario).at("/changes/0/key").stringValue()).isEqualTo("friday-crew");
    Caller.Answer outside = edit(dario, JOIN);
    Caller.Answer nowhere = edit(dario, JOIN.replace("q-registrars", "nowhere"));
    assertThat(outside.status()).as("he may not even read it").isEqualTo(409);
    assertThat(outside.body()).as("nor learn that it is there").isEqualTo(nowhere.body());
    assertThat(
            edit(dario, "{'kind':'groups','after':{'name':'Sea','account':'quillhaven'}}").body())
        .as("nor name what is beyond the border")
        .isEqualTo(
            edit(dario, "{'kind':'groups','after':{'name':'Sea','account':'nowhere'}}")
                .body()
                .replace("nowhere", "quillhaven"));
    edit(
        dario,
        "{'kind':'assignments','after':{'subject':'person:ada.finch','gives':'role:reader',"
            + "'scope':[{'everything':true}]}}");
    String refusal = view(dario).at("/changes/1/refusals/0").stringValue();
    assertThat(refusal).contains("“Assign access” on ").doesNotContain("Ilse Varga");
    assertThat(refusal).as("of whom he may not read").contains("Ask an administrator there.");
    Caller.Answer answer = apply(dario, "dario.penn");
    assertThat(answer.status()).isEqualTo(403);
    assertThat(answer.json().get("detail").stringValue()).contains("Assign access");
  }

  @Test
  void whoMayNotReadWhatADraftNamesIsNotToldWhatItDoes() {
    Caller noor = as("noor.haddad");
    edit(
        noor,
        "{'kind':'assignments','after':{'subject':'person:noor.haddad',"
            + "'gives':'role:night-guard','scope':[{'account':'quillhaven'}]}}");
    JsonNode impact = noor.get("/api/drafts/open/impact?wait=5000").json();
    assertThat(impact.get("state").stringValue()).isEqualTo("hidden");
    assertThat(impact.get("people")).isEmpty();
    assertThat(noor.get("/api/drafts/open/summary").json().get("impact").stringValue())
        .isEqualTo("You can't read everything it names");
    assertThat(noor.get("/api/drafts/open/impact/odile.farrow").status()).isEqualTo(404);
  }

  @Test
  void aWrongProofChangesNothing() {
    Caller ilse = as("ilse.varga");
    edit(ilse, JOIN);
    JsonNode view = view(ilse);
    long revision = model.state().revision();
    Caller.Answer answer =
        ilse.send(
            "POST",
            "/api/drafts/" + view.get("id").stringValue() + "/apply",
            "{\"content\":" + view.get("content") + ",\"proof\":\"000000\"}");
    assertThat(answer.status()).isEqualTo(400);
    assertThat(answer.body()).contains("code is not right");
    assertThat(model.state().revision()).isEqualTo(revision);
    Caller.Answer other =
        apply(ilse, "ilse.varga", view.get("id").stringValue(), "of something else");
    assertThat(other.status()).isEqualTo(409);
    assertThat(other.body()).contains("changed meanwhile");
  }

  private static final String CRITICAL =
      "{'kind':'assignments','after':{'subject':'person:tess.aldergate',"
          + "'gives':'role:mandala.security-administrator','scope':[{'account':'larkmoor'}]}}";

  @Test
  void whoWroteADraftIsNotItsSecondPersonAlsoWhereSomebodyElseOwnsItNow() {
    Caller marten = as("marten.holloway");
    edit(marten, CRITICAL, "{'kind':'principals','key':'tess.aldergate','set':{'mfa':true}}");
    String id = draft(marten).get("id").stringValue();
    assertThat(marten.send("PATCH", "/api/drafts/" + id, "{\"owner\":\"noor.haddad\"}").status())
        .as("nor to somebody who may not read it")
        .isEqualTo(409);
    assertThat(marten.send("PATCH", "/api/drafts/" + id, "{\"owner\":\"ilse.varga\"}").status())
        .isEqualTo(200);
    Caller ilse = as("ilse.varga");
    JsonNode hers = ilse.get("/api/drafts/" + id).json();
    assertThat(hers.get("mine").booleanValue()).isTrue();
    String content = "{\"content\":" + hers.get("content") + "}";
    Caller.Answer refused = marten.send("POST", "/api/drafts/" + id + "/approval", content);
    assertThat(refused.status()).as(refused.body()).isEqualTo(403);
    assertThat(refused.body()).contains("that you wrote or changed");
    assertThat(marten.get("/api/drafts").json().get("waiting").toString()).doesNotContain(id);
    assertThat(marten.get("/api/drafts/" + id).json().get("mayApprove").booleanValue()).isFalse();
  }

  @Test
  void whatIsCriticalWaitsForASecondPersonWhoApprovesExactlyThat() {
    Caller ilse = as("ilse.varga");
    edit(ilse, CRITICAL, "{'kind':'principals','key':'tess.aldergate','set':{'mfa':true}}");
    JsonNode view = view(ilse);
    assertThat(view.at("/reasons/0").stringValue()).contains("critical");
    assertThat(view.get("approvers").toString()).contains("marten.holloway").doesNotContain("ilse");
    assertThat(apply(ilse, "ilse.varga").body()).contains("A second person must approve");
    String id = view.get("id").stringValue();
    String content = "{\"content\":" + view.get("content") + "}";
    assertThat(ilse.send("POST", "/api/drafts/" + id + "/approval", content).status())
        .as("nobody approves their own")
        .isEqualTo(403);
    Caller vera = as("vera.lindqvist");
    assertThat(vera.send("POST", "/api/drafts/" + id + "/approval", content).status())
        .isEqualTo(403);
    Caller marten = as("marten.holloway");
    assertThat(marten.get("/api/drafts").json().at("/waiting/0/id").stringValue()).isEqualTo(id);
    assertThat(marten.send("POST", "/api/drafts/" + id + "/approval", content).status())
        .isEqualTo(200);
    edit(ilse, JOIN);
    assertThat(view(ilse).at("/approvals/0/counts").booleanValue()).isFalse();
    assertThat(apply(ilse, "ilse.varga").body())
        .as("a later change voids the approval")
        .contains("A second person must approve");
    String changed = "{\"content\":" + view(ilse).get("content") + "}";
    assertThat(marten.send("POST", "/api/drafts/" + id + "/approval", content).status())
        .as("of what is no more")
        .isEqualTo(409);
    assertThat(marten.send("POST", "/api/drafts/" + id + "/approval", changed).status())
        .isEqualTo(200);
    AccessModel before = now();
    Caller.Answer applied = apply(ilse, "ilse.varga");
    assertThat(applied.status()).as(applied.body()).isEqualTo(200);
    ilse.send("POST", "/api/drafts/taking-back/" + model.state().revision(), "");
    assertThat(apply(ilse, "ilse.varga").status()).isEqualTo(200);
    assertThat(now()).isEqualTo(before);
  }

  @Test
  void twoWhoCollideAreAskedAndNothingIsOverwritten() {
    Caller ilse = as("ilse.varga");
    Caller marten = as("marten.holloway");
    edit(ilse, "{'kind':'groups','key':'q-registrars','set':{'name':'Keepers of loans'}}", JOIN);
    edit(
        marten,
        "{'kind':'groups','key':'q-registrars','set':{'name':'Loan keepers'},"
            + "'add':{'members':['person:corin.bladen']}}");
    assertThat(apply(marten, "marten.holloway").status()).isEqualTo(200);
    JsonNode view = view(ilse);
    assertThat(view.at("/clashes/0/fields").toString()).isEqualTo("[\"name\"]");
    assertThat(view.at("/clashes/0/theirs").toString()).contains("Loan keepers");
    assertThat(apply(ilse, "ilse.varga").status()).isEqualTo(409);
    assertThat(edit(ilse, LEAVE).status()).isEqualTo(409);
    String id = view.get("id").stringValue();
    Caller.Answer resolved =
        ilse.send(
            "POST",
            "/api/drafts/" + id + "/rebase",
            "{\"choices\":[{\"which\":{\"kind\":\"groups\",\"key\":\"q-registrars\"},"
                + "\"mine\":true}]}");
    assertThat(resolved.status()).as(resolved.body()).isEqualTo(200);
    assertThat(resolved.json().at("/changes/0/after/members").toString())
        .contains("tess.aldergate", "corin.bladen");
    assertThat(apply(ilse, "ilse.varga").status()).isEqualTo(200);
    ilse.send("POST", "/api/drafts/taking-back/" + model.state().revision(), "");
    assertThat(apply(ilse, "ilse.varga").status()).isEqualTo(200);
    ilse.send("POST", "/api/drafts/taking-back/" + (model.state().revision() - 2), "");
    assertThat(apply(ilse, "ilse.varga").status()).isEqualTo(200);
  }

  @Test
  void impactTellsWhoGainsAndWhoseDraftSheIs() {
    Caller ilse = as("ilse.varga");
    edit(ilse, JOIN);
    JsonNode impact = ilse.get("/api/drafts/open/impact?wait=10000").json();
    assertThat(impact.get("state").stringValue()).isEqualTo("done");
    assertThat(impact.get("gaining").intValue()).isEqualTo(1);
    assertThat(impact.get("gained").longValue()).isPositive();
    assertThat(impact.at("/people/0/key").stringValue()).isEqualTo("tess.aldergate");
    long sum = 0;
    for (JsonNode permission : impact.get("permissions")) {
      sum += permission.get("gained").longValue();
    }
    assertThat(sum).isEqualTo(impact.get("gained").longValue());
    JsonNode person = ilse.get("/api/drafts/open/impact/tess.aldergate").json();
    assertThat(person.get("gained").longValue()).isEqualTo(impact.get("gained").longValue());
    JsonNode line = person.at("/lines/0");
    String routes =
        "/api/ask/routes?principal=tess.aldergate&secondFactor=true&permission="
            + line.get("permission").stringValue()
            + "&resource="
            + line.get("sample").stringValue();
    assertThat(ilse.get(routes).json().get("verdict").stringValue()).isNotEqualTo("allowed");
    assertThat(ilse.get(routes + "&draft=open").json().get("verdict").stringValue())
        .isEqualTo("allowed");
  }

  @Test
  void draftsAreNamedSetAsideSharedHandedOverAndDiscussed() {
    Caller ilse = as("ilse.varga");
    edit(ilse, JOIN);
    String id = view(ilse).get("id").stringValue();
    String path = "/api/drafts/" + id;
    assertThat(
            ilse.send("PATCH", path, "{\"name\":\"Autumn\",\"state\":\"aside\"}")
                .json()
                .get("state")
                .stringValue())
        .isEqualTo("aside");
    assertThat(draft(ilse)).isNull();
    Caller marten = as("marten.holloway");
    assertThat(marten.get(path).json().get("name").stringValue()).isEqualTo("Autumn");
    marten.send("POST", path + "/comments", "{\"said\":\"Why her?\"}");
    assertThat(ilse.get(path).json().at("/comments/0/said").stringValue()).isEqualTo("Why her?");
    Caller dario = as("dario.penn");
    assertThat(dario.get(path).status()).as("he may not read what it is about").isEqualTo(404);
    assertThat(dario.get("/api/ask/access?principal=dario.penn&draft=" + id).status())
        .isEqualTo(404);
    assertThat(marten.send("PATCH", path, "{\"name\":\"Mine\"}").status()).isEqualTo(403);
    assertThat(ilse.send("PATCH", path, "{\"owner\":\"marten.holloway\"}").status()).isEqualTo(200);
    assertThat(marten.send("PATCH", path, "{\"state\":\"open\"}").json().get("mine").booleanValue())
        .isTrue();
    assertThat(marten.send("PATCH", path, "{\"state\":\"discarded\"}").status()).isEqualTo(200);
    assertThat(edit(marten, JOIN).status()).as("a new one is begun").isEqualTo(200);
    assertThat(view(marten).get("id").stringValue()).isNotEqualTo(id);
  }

  @Test
  void theLastOwnerStays() {
    Caller marten = as("marten.holloway");
    edit(marten, "{'kind':'principals','key':'marten.holloway','set':{'status':'suspended'}}");
    assertThat(view(marten).at("/refusals/0").stringValue()).contains("would have no owner");
    assertThat(apply(marten, "marten.holloway").status()).isEqualTo(403);
  }

  @Test
  void aRoleThatWasInUseIsRetired() {
    Caller ilse = as("ilse.varga");
    Caller.Answer answer = edit(ilse, "{'kind':'roles','key':'registrar','remove':true}");
    assertThat(answer.status()).isEqualTo(409);
    assertThat(answer.body()).contains("Retire it instead");
  }

  @Test
  void theTrailSaysWhoDidWhatAndShowsWhatWasTamperedWith() {
    Caller ilse = as("ilse.varga");
    edit(ilse, JOIN);
    assertThat(apply(ilse, "ilse.varga").status()).isEqualTo(200);
    long revision = model.state().revision();
    JsonNode page = as("noor.haddad").get("/api/trail?revision=" + revision).json();
    assertThat(page.get("total").longValue()).isEqualTo(0);
    Caller vera = as("vera.lindqvist");
    JsonNode line = vera.get("/api/trail?revision=" + revision).json().at("/lines/0");
    assertThat(line.get("said").stringValue()).isEqualTo("Tess Aldergate joins Registrars");
    assertThat(line.get("whoName").stringValue()).isEqualTo("Ilse Varga");
    assertThat(line.at("/after/members").toString()).contains("tess.aldergate");
    assertThat(
            vera.get("/api/trail?place=account:quillhaven&text=REGISTRARS")
                .json()
                .get("total")
                .longValue())
        .isPositive();
    assertThat(vera.get("/api/trail?act=signed-in&who=ilse.varga").json().get("total").longValue())
        .isPositive();
    assertThat(vera.get("/api/trail?from=yesterday").status()).isEqualTo(400);
    assertThat(trail.verify().fault()).isEmpty();
    database.update(
        "update trail set said = 'Nothing' where revision = ? and act = 'changed'", revision);
    assertThat(trail.verify().fault().orElseThrow()).contains("not as it was written");
    database.update(
        "update trail set said = 'Tess Aldergate joins Registrars' where revision = ?"
            + " and act = 'changed'",
        revision);
    assertThat(trail.verify().fault()).isEmpty();
    long last = trail.verify().lines();
    database.update("create table cut as select * from trail where seq = ?", last);
    database.update("delete from trail where seq = ?", last);
    assertThat(trail.verify().fault().orElseThrow()).contains("ends at line " + (last - 1));
    database.update("insert into trail select * from cut");
    assertThat(trail.verify().fault()).isEmpty();
    ilse.send("POST", "/api/drafts/taking-back/" + revision, "");
    assertThat(apply(ilse, "ilse.varga").status()).isEqualTo(200);
  }

  @Test
  void theWholeTrailGoesIntoAFile() {
    Caller vera = as("vera.lindqvist");
    long total = vera.get("/api/trail").json().get("total").longValue();
    for (String format : List.of("csv", "xlsx")) {
      JsonNode job = vera.job("/api/trail/exports", "{\"format\":\"" + format + "\"}");
      assertThat(job.get("state").stringValue()).isEqualTo("done");
      String path = "/api/jobs/" + job.get("id").stringValue();
      assertThat(vera.get(path).json().get("done").longValue()).isGreaterThanOrEqualTo(total);
      Caller.Answer file = vera.get(path + "/file");
      assertThat(file.status()).isEqualTo(200);
      if (format.equals("csv")) {
        assertThat(file.body().lines().count()).isGreaterThan(total);
        assertThat(file.body()).startsWith("line,at,who");
      } else {
        assertThat(file.body()).contains("<worksheet");
      }
      assertThat(as("noor.haddad").get(path).status()).isEqualTo(404);
    }
  }

  @Test
  void whatOneIsRefusedAndWhatOneAsksAboutOthersStandsInTheTrail() {
    Caller ilse = as("ilse.varga");
    ilse.get("/api/ask/access?principal=noor.haddad&in=quillhaven");
    as("noor.haddad").get("/api/model");
    Caller vera = as("vera.lindqvist");
    assertThat(
            vera.get("/api/trail?act=asked&who=ilse.varga&thing=noor.haddad")
                .json()
                .get("total")
                .longValue())
        .isPositive();
    assertThat(vera.get("/api/trail?act=refused&who=noor.haddad").json().get("total").longValue())
        .isPositive();
    Caller noor = as("noor.haddad");
    JsonNode own = noor.get("/api/trail").json();
    assertThat(own.get("limited").booleanValue()).isTrue();
    for (JsonNode line : own.get("lines")) {
      assertThat(line.get("who").stringValue()).isEqualTo("noor.haddad");
    }
    assertThat(noor.signIn("noor.haddad", DemoCredentials.PASSWORD + "x", "").status())
        .isEqualTo(401);
  }
}
