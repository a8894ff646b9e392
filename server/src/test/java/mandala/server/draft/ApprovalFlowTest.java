package mandala.server.draft;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import mandala.core.model.AccessModel;
import mandala.core.model.key.PrincipalKey;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.model.LiveModel;
import mandala.server.session.Credentials;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** Drafts between people: several at a time, explained, sent, declined, approved, restored. */
@ApiTest
@DirtiesContext
class ApprovalFlowTest {

  private static final String JOIN =
      "{'kind':'groups','key':'q-registrars','add':{'members':['person:tess.aldergate']}}";
  private static final String CRITICAL =
      "{'kind':'assignments','after':{'key':'tess-security','subject':'person:tess.aldergate',"
          + "'gives':'role:mandala.security-administrator','scope':[{'account':'larkmoor'}]}}";

  @Autowired private Environment environment;
  @Autowired private LiveModel model;
  @Autowired private JdbcTemplate database;
  @Autowired private Credentials credentials;

  private static @org.jspecify.annotations.Nullable AccessModel first;

  @BeforeEach
  void asAtFirst() {
    AccessModel now = model.state().engine().catalogue().model().sorted();
    if (first == null) {
      first = now;
    } else if (!now.equals(first)) {
      model.replace(first, true, _ -> {});
    }
    database.update("update draft set state = 'applied' where state <> 'applied'");
    database.update("delete from approval_policy");
  }

  private Caller as(String who) {
    database.update("update credential set totp_last_step = -1");
    return Caller.as(who, environment);
  }

  private static Caller.Answer send(Caller caller, String method, String path, String body) {
    return caller.send(method, path, body.replace('\'', '"'));
  }

  private static JsonNode done(Caller caller, String method, String path, String body) {
    Caller.Answer answer = send(caller, method, path, body);
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    return answer.json();
  }

  /** Adds an edit to a draft, and gives the draft's path. */
  private static String edit(Caller caller, String into, String edit) {
    String target = into.isEmpty() ? "" : "'into':'" + into + "',";
    JsonNode open =
        done(caller, "POST", "/api/drafts/open/edits", "{" + target + "'edits':[" + edit + "]}");
    return "/api/drafts/" + open.at("/draft/id").stringValue();
  }

  private Caller.Answer apply(Caller caller, String who, String path) {
    database.update("update credential set totp_last_step = -1");
    String code = credentials.demoCode(new PrincipalKey(who), Instant.now());
    String content = caller.get(path).json().get("content").stringValue();
    return send(
        caller, "POST", path + "/apply", "{'content':'" + content + "','proof':'" + code + "'}");
  }

  private static String id(String path) {
    return path.substring(path.lastIndexOf('/') + 1);
  }

  @Test
  void whoMayNotApplyADraftProposesItToSomebodyWhoMay() {
    Caller anselm = as("anselm.reeve");
    String path = edit(anselm, "", JOIN);
    JsonNode proposed = anselm.get(path).json();
    assertThat(proposed.get("changes").get(0).get("refusals")).isNotEmpty();
    var could =
        proposed.get("appliers").valueStream().map(it -> it.get("key").stringValue()).toList();
    assertThat(could).contains("ilse.varga").doesNotContain("anselm.reeve", "dario.penn");
    done(anselm, "PATCH", path, "{'owner':'ilse.varga'}");
    Caller ilse = as("ilse.varga");
    JsonNode hers = ilse.get(path).json();
    assertThat(hers.get("mine").booleanValue()).isTrue();
    assertThat(hers.get("appliers")).as("she may apply it herself").isEmpty();
    assertThat(apply(ilse, "ilse.varga", path).status()).isEqualTo(200);
  }

  @Test
  void whatNobodyElseMayDoIsProposedToNobody() {
    Caller anselm = as("anselm.reeve");
    String path = edit(anselm, "", "{'kind':'accounts','after':{'key':'root','name':'Root'}}");
    JsonNode root = anselm.get(path).json();
    assertThat(root.get("changes").get(0).get("refusals").toString()).contains("command line");
    assertThat(root.get("appliers")).isEmpty();
    String owners = edit(anselm, "new", "{'kind':'assignments','key':'l-owners','remove':true}");
    JsonNode ownerless = anselm.get(owners).json();
    assertThat(ownerless.get("refusals").toString()).contains("no owner");
    assertThat(ownerless.get("appliers")).isEmpty();
  }

  @Test
  void aDraftIsSentDeclinedChangedSentAgainApprovedAndSaysSo() {
    Caller ilse = as("ilse.varga");
    String path = edit(ilse, "", CRITICAL);
    String to = "{'approvers':['marten.holloway']}";
    JsonNode sent = done(ilse, "POST", path + "/requests", to);
    assertThat(sent.at("/requests/0/state").stringValue()).isEqualTo("waiting");
    assertThat(send(ilse, "POST", path + "/requests", "{'approvers':['ilse.varga']}").status())
        .as("nobody approves their own")
        .isEqualTo(400);
    Caller.Answer soon = send(ilse, "POST", path + "/requests/marten.holloway/reminder", "");
    assertThat(soon.status()).isEqualTo(409);
    database.update("update draft_request set asked_at = asked_at - interval '2 hours'");
    assertThat(
            done(ilse, "POST", path + "/requests/marten.holloway/reminder", "")
                .at("/requests/0/remindedAt")
                .isString())
        .isTrue();

    Caller marten = as("marten.holloway");
    JsonNode waits = marten.get("/api/drafts").json().at("/waiting/0");
    assertThat(waits.get("id").stringValue()).isEqualTo(id(path));
    assertThat(waits.at("/request/remindedAt").isString()).isTrue();
    assertThat(toApprove(marten)).isEqualTo(1);
    String content = marten.get(path).json().get("content").stringValue();
    assertThat(send(marten, "POST", path + "/decline", "{'content':'old','reason':'No'}").status())
        .as("of other content")
        .isEqualTo(409);
    done(
        marten,
        "POST",
        path + "/decline",
        "{'content':'" + content + "','reason':'Give her the role in one account'}");
    assertThat(toApprove(marten)).isZero();
    assertThat(marten.get("/api/drafts").json().get("waiting").toString()).doesNotContain(id(path));
    JsonNode declined = ilse.get(path).json().at("/requests/0");
    assertThat(declined.get("state").stringValue()).isEqualTo("declined");
    assertThat(declined.get("because").stringValue()).isEqualTo("Give her the role in one account");
    assertThat(apply(ilse, "ilse.varga", path).body()).contains("A second person must approve");

    edit(ilse, "", "{'kind':'principals','key':'tess.aldergate','set':{'note':'Archivist'}}");
    assertThat(ilse.get(path).json().at("/requests/0/state").stringValue()).isEqualTo("outdated");
    done(ilse, "POST", path + "/requests", to);
    done(
        ilse,
        "PATCH",
        path,
        "{'name':'Security for Tess','reason':'Ilse is on leave','reference':'LK-204'}");
    String changed = marten.get(path).json().get("content").stringValue();
    done(marten, "POST", path + "/approval", "{'content':'" + changed + "'}");
    assertThat(ilse.get(path).json().at("/requests/0/state").stringValue()).isEqualTo("approved");
    Caller.Answer applied = apply(ilse, "ilse.varga", path);
    assertThat(applied.status()).as(applied.body()).isEqualTo(200);

    JsonNode revision = ilse.get("/api/revisions/" + model.state().revision()).json();
    assertThat(revision.at("/revision/reason").stringValue()).isEqualTo("Ilse is on leave");
    assertThat(revision.at("/revision/reference").stringValue()).isEqualTo("LK-204");
    assertThat(revision.at("/revision/approvedBy/0").stringValue()).isEqualTo("Marten Holloway");
    assertThat(ilse.get("/api/trail?act=applied").json().at("/lines/0/said").stringValue())
        .isEqualTo(
            "Applied “Security for Tess”. Reason: Ilse is on leave. Reference: LK-204."
                + " Approved by Marten Holloway");
    assertThat(ilse.get("/api/trail?act=declined").body()).contains("one account");
    assertThat(ilse.get("/api/trail?act=sent").body()).contains("to Marten Holloway");
  }

  private static int toApprove(Caller caller) {
    return caller.get("/api/drafts/open/summary").json().get("toApprove").intValue();
  }

  @Test
  void whoMayNotApproveDoesNotDeclineEitherAndOnlyTheOwnerSends() {
    Caller ilse = as("ilse.varga");
    String path = edit(ilse, "", CRITICAL);
    String content = ilse.get(path).json().get("content").stringValue();
    String no = "{'content':'" + content + "','reason':'No'}";
    assertThat(send(as("vera.lindqvist"), "POST", path + "/decline", no).status()).isEqualTo(403);
    assertThat(send(ilse, "POST", path + "/decline", no).status()).isEqualTo(403);
    Caller marten = as("marten.holloway");
    assertThat(
            send(marten, "POST", path + "/requests", "{'approvers':['marten.holloway']}").status())
        .isEqualTo(403);
    assertThat(send(marten, "POST", path + "/decline", "{'content':'x','reason':' '}").status())
        .isEqualTo(400);
  }

  @Test
  void anEditGoesWhereItBelongs() {
    Caller ilse = as("ilse.varga");
    String one = edit(ilse, "", JOIN);
    String two =
        edit(
            ilse, "new", "{'kind':'principals','key':'tess.aldergate','set':{'note':'Archivist'}}");
    assertThat(two).isNotEqualTo(one);
    assertThat(ilse.get(one).json().get("state").stringValue()).isEqualTo("aside");
    assertThat(edit(ilse, id(one), "{'kind':'groups','key':'q-registrars','set':{'note':'N'}}"))
        .as("and is then the active one")
        .isEqualTo(one);
    assertThat(ilse.get("/api/drafts/open").json().get("id").stringValue()).isEqualTo(id(one));
    Caller.Answer faulty =
        send(
            ilse,
            "POST",
            "/api/drafts/open/edits",
            "{'into':'new','edits':[{'kind':'groups','after':{'nonsense':1}}]}");
    assertThat(faulty.status()).isEqualTo(422);
    assertThat(ilse.get("/api/drafts/open").json().get("id").stringValue())
        .as("nothing is begun by what is refused")
        .isEqualTo(id(one));
    Caller marten = as("marten.holloway");
    assertThat(
            send(
                    marten,
                    "POST",
                    "/api/drafts/open/edits",
                    "{'into':'" + id(one) + "','edits':[" + JOIN + "]}")
                .status())
        .as("another's draft")
        .isEqualTo(403);
  }

  @Test
  void aDraftWithoutANameSaysWhatItDoes() {
    Caller ilse = as("ilse.varga");
    String path = edit(ilse, "", JOIN);
    assertThat(ilse.get(path).json().get("proposedName").stringValue())
        .isEqualTo("Tess Aldergate joins Registrars");
    edit(ilse, "", "{'kind':'groups','key':'q-registrars','set':{'note':'N'}}");
    edit(ilse, "", "{'kind':'principals','key':'tess.aldergate','set':{'note':'Archivist'}}");
    assertThat(ilse.get(path).json().get("proposedName").stringValue())
        .endsWith(", and 1 more change");
    assertThat(apply(ilse, "ilse.varga", path).status()).isEqualTo(200);
    assertThat(ilse.get("/api/trail?act=applied").json().at("/lines/0/said").stringValue())
        .as("a title made from what it does could name what readers of the trail may not know")
        .isEqualTo("Applied a draft");
    assertThat(
            ilse.get("/api/revisions/" + model.state().revision())
                .json()
                .at("/revision/title")
                .stringValue())
        .endsWith(", and 1 more change");
  }

  @Test
  void aPolicyAsksForAReasonAndAReference() {
    Caller ilse = as("ilse.varga");
    String path = edit(ilse, "", JOIN);
    Caller marten = as("marten.holloway");
    done(
        marten,
        "PUT",
        "/api/settings/approval/larkmoor",
        "{'people':null,'reason':true,'reference':true}");
    assertThat(ilse.get(path).json().at("/needs/reason").booleanValue()).isTrue();
    Caller.Answer refused = apply(ilse, "ilse.varga", path);
    assertThat(refused.status()).isEqualTo(409);
    assertThat(refused.body()).contains("The draft needs a reason");
    done(ilse, "PATCH", path, "{'reason':'New in the archive'}");
    assertThat(apply(ilse, "ilse.varga", path).body()).contains("The draft needs a reference");
    done(ilse, "PATCH", path, "{'reference':'LK-7'}");
    assertThat(apply(ilse, "ilse.varga", path).status()).isEqualTo(200);
    assertThat(marten.get("/api/trail?act=changed").body())
        .contains("a reason and a reference are required");
  }

  @Test
  void whatWasDiscardedIsRestoredForAWhile() {
    Caller ilse = as("ilse.varga");
    String path = edit(ilse, "", JOIN);
    done(ilse, "PATCH", path, "{'state':'discarded'}");
    assertThat(ilse.get("/api/drafts").json().at("/discarded/0/id").stringValue())
        .isEqualTo(id(path));
    assertThat(ilse.get(path).json().get("restorable").booleanValue()).isTrue();
    JsonNode back = done(ilse, "PATCH", path, "{'state':'open'}");
    assertThat(back.get("state").stringValue()).isEqualTo("open");
    assertThat(back.get("changes")).hasSize(1);
    done(ilse, "PATCH", path, "{'state':'discarded'}");
    database.update("update draft set changed_at = changed_at - interval '31 days'");
    assertThat(ilse.get("/api/drafts").json().get("discarded")).isEmpty();
    assertThat(send(ilse, "PATCH", path, "{'state':'open'}").status()).isEqualTo(409);
  }

  @Test
  void aRevisionIsTakenBackInPart() {
    Caller ilse = as("ilse.varga");
    String path = edit(ilse, "", JOIN);
    edit(ilse, "", "{'kind':'principals','key':'tess.aldergate','set':{'note':'Archivist'}}");
    assertThat(apply(ilse, "ilse.varga", path).status()).isEqualTo(200);
    long revision = model.state().revision();
    JsonNode changes = ilse.get("/api/revisions/" + revision).json().get("changes");
    assertThat(changes).hasSize(2);
    String back = "/api/drafts/taking-back/" + revision;
    JsonNode draft = done(ilse, "POST", back, "{'only':[1]}");
    assertThat(draft.get("changes")).hasSize(1);
    assertThat(draft.get("name").stringValue()).isEqualTo("Take back part of revision " + revision);
    assertThat(draft.at("/changes/0/key").stringValue()).isEqualTo("q-registrars");
    assertThat(send(ilse, "POST", back, "{'only':[2]}").status()).isEqualTo(400);
    assertThat(send(ilse, "POST", back, "{'only':[]}").status()).isEqualTo(400);
  }
}
