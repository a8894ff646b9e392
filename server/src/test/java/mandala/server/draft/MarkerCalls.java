package mandala.server.draft;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import mandala.core.model.Kind;
import tools.jackson.databind.JsonNode;

/**
 * Every call that there is, with the keys of strangers in every parameter and body: an operation,
 * parameter or body that is not known here is a failure of the test that makes these calls.
 */
final class MarkerCalls {

  static final String STRANGERS_FINDING = "no-living-owner zqxkey-group GroupKey";

  /**
   * What a plain person might draft to learn of strangers; all of it names what she may not read.
   */
  static final List<String> HOSTILE =
      List.of(
          "guests {'principal':'%s','account':'zqxkey-root','withSubaccounts':true}",
          "guests {'principal':'%s','account':'zqxkey-sister'}",
          "guests {'principal':'zqxkey-ann','account':'branch'}",
          "assignments {'key':'h1','subject':'person:%s','gives':'role:mandala.owner',"
              + "'scope':[{'everything':true}],'crossesSeals':true}",
          "assignments {'key':'h2','subject':'person:%s','gives':'role:zqxkey-role',"
              + "'scope':[{'tree':'zqxkey-hall'},{'tree':'zqxkey-archive'}],'crossesSeals':true}",
          "assignments {'key':'h3','subject':'person:%s','gives':'permission:zqxkey-permission',"
              + "'effect':'deny','scope':[{'only':'zqxkey-room'}]}",
          "assignments {'key':'h4','subject':'group:zqxkey-group','gives':'role:keeper',"
              + "'scope':[{'tree':'hall'}]}",
          "delegations {'key':'h5','principal':'zqxkey-ann','delegate':'%s','limit':'all',"
              + "'scope':[{'everything':true}]}",
          "groups {'key':'h6','account':'branch','members':['group:zqxkey-group','person:%s']}",
          "expectations {'key':'h7','form':'cannot','subjects':['anyone'],"
              + "'permissions':['room.enter','zqxkey-permission'],'scope':[{'everything':true}]}",
          "expectations {'key':'h8','form':'only','subjects':['person:%s'],"
              + "'permissions':['room.enter'],'scope':[{'tree':'zqxkey-hall'}]}",
          "exclusions {'key':'h9','sides':[['room.enter'],['zqxkey-permission']],"
              + "'where':'anywhere'}",
          "bridges {'key':'h10','account':'zqxkey-root','group':'crew','gives':'role:keeper',"
              + "'scope':[{'account':'zqxkey-root'}]}");

  private final String strangersDraft;

  /**
   * Knows one thing more than the model.
   *
   * @param strangersDraft id of a draft of strangers
   */
  MarkerCalls(String strangersDraft) {
    this.strangersDraft = strangersDraft;
  }

  /** An operation, and the schema of its body by name, or nothing. */
  record Operation(String method, String path, JsonNode about) {}

  /** A personnel list of an account. */
  static final String PERSONNEL =
      "{'title':'x','account':'%s','columns':{},'missing':'leave','most':5,'does':'proposes'}";

  static String eventRule(String accounts, String decider) {
    return "{'title':'x','event':'moved','accounts':"
        + accounts
        + ",'risk':'low','within':14,'days':7,'passOn':true,'stages':[{'order':['"
        + decider
        + "']}]}";
  }

  private Map<String, List<String>> values(String who) {
    String self = who.equals("nobody") ? "noor" : who;
    List<String> people = List.of(self, "zqxkey-ann", "pia", "zqxkey-bob");
    List<String> places =
        List.of(
            "zqxkey-hall",
            "hall",
            "account:zqxkey-root",
            "vault",
            "zqxkey-gift",
            "account:branch",
            "group:zqxkey-group",
            "unit:zqxkey-unit",
            "account:trust");
    List<String> draft = List.of("", "open", strangersDraft);
    List<String> accounts = List.of("zqxkey-root", "branch", "", "zqxkey-sister", "trust");
    Map<String, List<String>> values = new LinkedHashMap<>();
    values.put("principal", people);
    values.put("one", people);
    values.put(
        "other",
        List.of(
            "zqxkey-ann",
            "pia",
            "role:zqxkey-role",
            "colleagues:" + self,
            "pattern:zqxkey-pattern",
            "role:mixed"));
    values.put("who", List.of("", "zqxkey-ann", "mar"));
    values.put("unit", List.of("", "zqxkey-unit", "-"));
    values.put("group", List.of("", "zqxkey-group", "crew"));
    values.put("role", List.of("", "zqxkey-role", "mixed"));
    values.put("manager", List.of("", "zqxkey-ann", "-"));
    values.put("by", List.of("unit", "manager", "group", "role", "account"));
    values.put("of", List.of("", "zqxkey-unit", "zqxkey-ann", "zqxkey-group", "zqxkey-role"));
    for (String name : List.of("unseen", "factor", "signIn", "ends", "exposed")) {
      values.put(name, List.of(""));
    }
    values.put("grace", List.of("true", "false"));
    values.put("person", people);
    values.put("source", List.of("x", "zqxkey-source"));
    values.put("batch", List.of("1"));
    values.put("days", List.of("30"));
    values.put("actingFor", List.of("", "zqxkey-ann", "*", "zqxkey-bob"));
    values.put("permission", List.of("room.enter", "zqxkey-permission", "room.burn"));
    values.put("assignment", List.of("zqxkey-wide", "comes-in", "crew-enters", "h4"));
    values.put("resource", places);
    values.put("on", places);
    values.put("below", places);
    values.put("place", places);
    values.put("collection", List.of("", "zqxkey-tour", "tour"));
    values.put("in", accounts);
    values.put("account", accounts);
    values.put("draft", draft);
    values.put("otherDraft", draft);
    for (String name : List.of("harm", "order", "skip")) {
      values.put(name, List.of(""));
    }
    values.put("detector", List.of("", "no-living-owner"));
    values.put("most", List.of("200"));
    values.put("owner", List.of("", "zqxkey-ann", "none"));
    values.put("state", List.of("", "any", "accepted"));
    values.put("about", List.of("", "groups:zqxkey-group"));
    values.put("id", List.of("open", strangersDraft, STRANGERS_FINDING));
    values.put(
        "key",
        List.of(
            "zqxkey-role",
            "mixed",
            "crew",
            "zqxkey-group",
            "zqxkey-pattern",
            "pia",
            "zqxkey-ann",
            "keeper",
            self));
    values.put("system", List.of("their-system", "own-system"));
    values.put("version", List.of("1"));
    values.put("round", List.of("1", "2"));
    values.put("rule", List.of("1", "2", "3"));
    values.put("source", List.of("1", "2"));
    values.put("list", List.of("1", "2"));
    values.put("item", List.of("1", "2", "3"));
    values.put("thing", List.of("", "crew", "zqxkey-room", "pia"));
    List<String> kinds = new ArrayList<>();
    for (Kind kind : Kind.values()) {
      kinds.add(kind.field());
    }
    values.put("kind", kinds);
    values.put("text", List.of("", "zqx", "e", "Zqxname"));
    values.put("title", List.of("", "Zqxname title"));
    values.put("revision", List.of("", "1", "2", "4"));
    values.put("otherRevision", List.of("", "1", "3"));
    values.put("number", List.of("1", "2", "3", "4"));
    values.put("job", List.of("no-job"));
    values.put("format", List.of("csv", "json"));
    values.put("since", List.of("2020-01-01"));
    values.put("doors", List.of("true", "false"));
    values.put("asActive", List.of("true", "false"));
    values.put("changes", List.of("2", "1"));
    values.put("secondFactor", List.of("true", "false"));
    values.put("otherSecondFactor", List.of("true", "false"));
    values.put("risk", List.of("", "critical"));
    values.put("accessClass", List.of("", "view"));
    values.put("token", List.of("no-token"));
    values.put("sort", List.of("", "-unit", "account"));
    values.put("page", List.of("/people"));
    values.put("name", List.of("Mine", "Zqxname"));
    values.put("base", List.of("1"));
    values.put("Mandala-Proof", List.of(""));
    for (String free :
        List.of(
            "at", "otherAt", "act", "from", "until", "before", "limit", "offset", "state",
            "wait")) {
      values.put(free, List.of(""));
    }
    return values;
  }

  private Map<String, List<String>> bodies(String who) {
    Map<String, List<String>> bodies = new LinkedHashMap<>();
    List<String> edits = new ArrayList<>();
    for (String each : HOSTILE) {
      int blank = each.indexOf(' ');
      edits.add(
          "{'edits':[{'kind':'"
              + each.substring(0, blank)
              + "','after':"
              + each.substring(blank + 1).replace("%s", who)
              + "}]}");
    }
    edits.add("{'edits':[{'kind':'groups','key':'zqxkey-group','remove':true}]}");
    edits.add("{'edits':[{'kind':'groups','key':'crew','set':{'name':'x'}}]}");
    edits.add("{'edits':[{'kind':'roles','key':'zqxkey-role','remove':true}]}");
    edits.add("{'edits':[{'kind':'resources','key':'hall','mergeInto':'zqxkey-hall'}]}");
    edits.add("{'edits':[{'kind':'groups','after':{'key':'zqxkey-group','account':'branch'}}]}");
    edits.add("{'into':'new','edits':[{'kind':'groups','key':'zqxkey-group','remove':true}]}");
    bodies.put("EditList", edits);
    bodies.put("ApprovalLimit", List.of("{'people':1}"));
    bodies.put("FirstOwner", List.of("{}"));
    bodies.put("ViewWanted", List.of("{'principal':'zqxkey-ann'}", "{'principal':'pia'}"));
    bodies.put("ExportOrder", List.of("{'format':'csv'}"));
    bodies.put("Attempt", List.of("{'name':'ann@zqxname.example','password':'x'}"));
    bodies.put("Code", List.of("{'code':'000000'}"));
    bodies.put(
        "ScopeAsked",
        List.of(
            "{'scope':[{'tree':'zqxkey-hall'}]}",
            "{'scope':[{'everything':true}]}",
            "{'scope':[{'everything':true}],'draft':'open'}",
            "{'scope':[{'collection':'zqxkey-tour'}]}"));
    bodies.put(
        "RuleAsked",
        List.of(
            "{'account':'branch','rule':{'any':[{'attribute':'kind','op':'is','value':'person'}]}}",
            "{'account':'zqxkey-root','rule':{'any':[{'attribute':'kind','op':'present'}]}}",
            "{'account':'branch','draft':'open',"
                + "'rule':{'any':[{'attribute':'manager','op':'is','value':'zqxkey-ann'}]}}"));
    bodies.put("Beginning", List.of("{}"));
    bodies.put(
        "SeveralPeople", List.of("{'people':['zqxkey-ann']}", "{'people':['zqxkey-ann','pia']}"));
    String about = "{'name':'x','ends':'2027-01-01T00:00:00Z','purposes':['directory'],";
    bodies.put(
        "TokenOrder",
        List.of(
            about + "'principal':'zqxkey-ann','accounts':['branch']}",
            about + "'accounts':['zqxkey-root','branch']}"));
    bodies.put("Choices", List.of("{'choices':[]}"));
    String since = "{'name':'x','since':'2026-01-01',";
    bodies.put(
        "SourceOrder",
        List.of(
            since + "'account':'branch','permissions':['zqxkey-permission']}",
            since + "'account':'branch','places':['zqxkey-hall']}",
            since + "'account':'zqxkey-root'}",
            since + "'account':'branch'}"));
    List<String> selections =
        List.of(
            "{'of':['person:pia']}",
            "{'of':['person:zqxkey-ann'],'days':30}",
            "{'of':['group:crew'],'days':30}",
            "{'of':['group:zqxkey-group','role:zqxkey-role','account:zqxkey-root']}",
            "{'of':['role:mixed']}",
            "{'of':['account:branch']}",
            "{'of':['everybody']}");
    bodies.put("TrimOrder", selections);
    bodies.put("StudyOrder", selections);
    bodies.put("TrimChoice", List.of("{'steps':0}"));
    bodies.put("TidyOrder", List.of("{}", "{'roles':true}"));
    bodies.put("TidySelection", List.of("{'steps':[0]}"));
    bodies.put(
        "KeepOrder", List.of("{'rolledAfter':62,'kept':400,'strangersKept':60,'window':180}"));
    bodies.put(
        "Order",
        List.of(
            "{'permission':'room.enter','resource':'room'}",
            "{'permission':'zqxkey-permission','resource':'zqxkey-room'}"));
    bodies.put("Read", List.of("{'id':1,'andOlder':true}"));
    bodies.put("Wanted", List.of("{'delivery':'mail'}", "{'delivery':'pigeon'}"));
    bodies.put(
        "DraftDate",
        List.of("{'content':'x','at':'2026-12-24T06:00:00Z','proof':'larkmoor-demo'}"));
    bodies.put("Which", List.of("{'kind':'groups','key':'h6'}"));
    bodies.put("Remark", List.of("{'said':'hello'}"));
    bodies.put("Lines", List.of("{'lines':['zqxkey-ann','ann@zqxname.example','pia']}"));
    bodies.put("SavedView", List.of("{'page':'/people','name':'Mine','query':'text=pia'}"));
    bodies.put("TakenBack", List.of("{}", "{'only':[0]}", "{'only':[1]}"));
    bodies.put("Recipients", List.of("{'approvers':['zqxkey-ann']}", "{'approvers':['pia']}"));
    bodies.put("Declining", List.of("{'content':'x','reason':'No'}"));
    String findings = "{'ids':['" + STRANGERS_FINDING + "']";
    bodies.put("ReopenOrder", List.of(findings + "}"));
    bodies.put(
        "AcceptanceOrder", List.of(findings + ",'until':'2099-01-01T00:00:00Z','reason':'No'}"));
    bodies.put(
        "OwnershipOrder",
        List.of(findings + ",'owner':'pia'}", "{'ids':['no-manager pia'],'owner':'zqxkey-ann'}"));
    bodies.put(
        "DraftedOrder",
        List.of("{'id':'" + STRANGERS_FINDING + "','draft':'" + strangersDraft + "'}"));
    String selection = "{'ids':['extra zqxkey-ann room.enter','extra pia zqxkey-permission']";
    bodies.put("DiscrepancySelection", List.of(selection + "}", "{'ids':['unknown id1']}"));
    bodies.put(
        "DiscrepancyAcceptance",
        List.of(
            selection + ",'until':'2099-01-01T00:00:00Z','reason':'No'}",
            "{'ids':['unknown id4'],'until':'2099-01-01T00:00:00Z','reason':'No'}"));
    String columns = "{'name':'x','identity':'a','entitlement':'b','account':";
    bodies.put("SystemOrder", List.of(columns + "'branch'}", columns + "'zqxkey-root'}"));
    bodies.put("RoundOrder", roundOrders());
    bodies.put(
        "EventRule",
        List.of(
            eventRule("['branch']", "manager"),
            eventRule("['zqxkey-root']", "manager"),
            eventRule("['branch']", "person:zqxkey-ann")));
    String watch = "{'title':'x','what':'%s','account':'%s','after':30,'most':9%s}";
    bodies.put(
        "WatchOrder",
        List.of(
            watch.formatted("persons", "branch", ""),
            watch.formatted("guests", "branch", ",'warnAfter':10"),
            watch.formatted("persons", "zqxkey-root", ""),
            watch.formatted("services", "branch", ",'group':'zqxkey-group'")));
    String staff =
        "number,name,email,unit,manager\\n1,Ann,ann@zqxname.example,zqxkey-unit,zqxkey-ann\\n2,Pia,,,pia";
    bodies.put(
        "PersonnelOrder",
        List.of(PERSONNEL.formatted("branch"), PERSONNEL.formatted("zqxkey-root")));
    bodies.put(
        "PersonnelLook",
        List.of(
            "{'order':" + PERSONNEL.formatted("branch") + ",'list':'" + staff + "'}",
            "{'order':" + PERSONNEL.formatted("zqxkey-root") + ",'list':'" + staff + "'}"));
    bodies.put("PersonnelGiven", List.of("{'list':'" + staff + "','leaves':0}", "{}"));
    bodies.put(
        "OwnerOrder",
        List.of("{'from':'zqxkey-ann','to':'pia'}", "{'from':'pia','to':'zqxkey-ann'}"));
    bodies.put(
        "AccountCopyOrder",
        List.of(
            "{'name':'New','parent':'branch','administrator':'pia','parts':['units','groups']}",
            "{'name':'New','parent':'zqxkey-root','administrator':'zqxkey-ann','parts':[]}"));
    bodies.put(
        "FieldsOrder",
        List.of(
            "{'fields':[]}", "{'fields':[{'key':'k','label':'K','choices':[],'required':[]}]}"));
    bodies.put(
        "LoanOrder",
        List.of(
            "{'account':'branch','until':'2030-01-01T00:00:00Z','sponsor':'pia','joins':[]}",
            "{'account':'zqxkey-root','until':'2030-01-01T00:00:00Z','sponsor':'zqxkey-ann',"
                + "'joins':['zqxkey-g']}"));
    bodies.put("WorkOrder", List.of("{'to':'pia'}", "{'to':'zqxkey-ann'}"));
    bodies.put("CancelOrder", List.of("{'reason':'No'}"));
    bodies.put("EffectAnswer", List.of("{'said':'Looked at'}"));
    bodies.put("ReportSigning", List.of("{'proof':'000000'}"));
    bodies.put("GiveOrder", List.of("{'from':'zqxkey-ann','to':'pia'}", "{'to':'zqxkey-ann'}"));
    bodies.put("DecisionOrder", List.of("{'verdict':'remove','facts':'x'}"));
    bodies.put("AlikeOrder", List.of("{'items':[1,2]}"));
    bodies.put("PassOrder", List.of("{'to':'zqxkey-ann'}", "{'to':'pia'}"));
    bodies.put("SaidOrder", List.of("{'said':'hello'}"));
    bodies.put("ExpectationAnswer", List.of("{'expectation':'zqxkey-cannot','said':'x'}"));
    bodies.put(
        "DeputyOrder",
        List.of(
            "{'who':'zqxkey-ann','begins':'2026-01-01T00:00:00Z','ends':'2099-01-01T00:00:00Z'}"));
    bodies.putAll(lifecycleBodies());
    bodies.put("Content", List.of("{'content':'x'}"));
    bodies.put("Application", List.of("{'content':'x','proof':'larkmoor-demo'}"));
    bodies.put(
        "Handling",
        List.of(
            "{'name':'y'}",
            "{'reason':'r','reference':'1'}",
            "{'owner':'zqxkey-ann'}",
            "{'owner':'pia'}"));
    return bodies;
  }

  /** Acts on people, with strangers in each place where a key can stand. */
  private static Map<String, List<String>> lifecycleBodies() {
    Map<String, List<String>> bodies = new LinkedHashMap<>();
    String juno = "{'name':'Juno','unit':'zqxkey-unit','manager':'zqxkey-ann'}";
    String plain = "{'name':'Juno'}";
    bodies.put(
        "CopyOrder",
        List.of(
            "{'newcomer':" + plain + ",'ties':['group:zqxkey-group','assignment:comes-in']}",
            "{'newcomer':" + juno + ",'ties':[]}",
            "{'newcomer':{'name':'J','email':'ann@zqxname.example'},'ties':[]}"));
    bodies.put(
        "MoveOrder",
        List.of(
            "{'account':'branch','fates':{},'joins':[]}",
            "{'account':'zqxkey-root','fates':{},'joins':[]}",
            "{'account':'branch','unit':'zqxkey-unit','fates':{},'joins':['zqxkey-group']}",
            "{'account':'branch','manager':'zqxkey-ann','fates':{},'joins':[]}",
            "{'account':'branch','at':'2099-01-01T00:00:00Z','fates':{},'joins':[]}"));
    bodies.put(
        "PartOrder",
        List.of(
            "{'fates':{}}",
            "{'fates':{'place:zqxkey-hall':{'becomes':'hand','to':'zqxkey-ann'}}}",
            "{'fates':{'group:crew':{'becomes':'hand','to':'zqxkey-ann'}}}"));
    bodies.put("ReturnOrder", List.of("{'ties':['group:zqxkey-group']}", "{'ties':[]}"));
    bodies.put("PersonMergeOrder", List.of("{'into':'zqxkey-ann'}", "{'into':'pia'}"));
    bodies.put(
        "SplitOrder",
        List.of(
            "{'parts':[{'newcomer':"
                + plain
                + ",'ties':[]},{'newcomer':"
                + juno
                + ",'ties':['group:zqxkey-group']}],'duties':{}}"));
    bodies.put("EndNowOrder", List.of("{'proof':'000000','reason':'No'}"));
    bodies.put("ErasureOrder", List.of("{'proof':'000000','reason':'No'}"));
    bodies.put("JoinProof", List.of("{'token':'x'}", "{'name':'zqxkey-ann','firstPassword':'x'}"));
    bodies.put("ChosenPassword", List.of("{'proof':{'token':'x'},'password':'a long enough one'}"));
    bodies.put("Forgotten", List.of("{'name':'zqxkey-ann'}", "{'name':'pia'}"));
    bodies.put(
        "ArrivalOrder",
        List.of(
            "{'account':'branch','columns':{},'list':'ann@zqxname.example, new@one.example'}",
            "{'account':'zqxkey-root','columns':{},'list':'new@one.example'}",
            "{'account':'branch','columns':{},'list':'name,unit,manager,group\\nJ,zqxkey-unit,zqxkey-ann,zqxkey-group'}"));
    return bodies;
  }

  private static List<String> roundOrders() {
    String what =
        "{'title':'x','contents':['people','guests','services','groups','roles','patterns',"
            + "'everybody','bridges','delegations','exemptions','owners'],'risk':'low',"
            + "'only':'all','detectors':[],'passOn':true,'controls':1,'repeats':'never',"
            + "'begins':'2026-01-01T00:00:00Z','ends':'2099-01-01T00:00:00Z','accounts':";
    String managers = ",'stages':[{'order':['manager','thing-owner','account-owner']}]}";
    return List.of(
        what + "['branch']" + managers,
        what + "[]" + managers,
        what + "['zqxkey-root']" + managers,
        what + "['branch'],'place':'zqxkey-hall'" + managers,
        what + "['branch'],'stages':[{'order':['person:zqxkey-ann']}]}");
  }

  /** Every call of an operation: parameters run through their values, each with another's next. */
  List<String[]> of(Operation it, String who) {
    Map<String, List<String>> values = values(who);
    Map<String, List<String>> bodies = bodies(who);
    List<String> names = new ArrayList<>();
    int most = 1;
    for (JsonNode parameter : it.about().path("parameters")) {
      String name = parameter.get("name").stringValue();
      assertThat(values)
          .as("%s %s has a parameter of which this test must know", it.method(), it.path())
          .containsKey(name);
      names.add(name);
      most = Math.max(most, Objects.requireNonNull(values.get(name)).size());
    }
    List<String> body = List.of("");
    JsonNode content = it.about().path("requestBody").path("content");
    if (!content.isEmpty()) {
      String schema = content.iterator().next().path("schema").path("$ref").asString("");
      String name = schema.substring(schema.lastIndexOf('/') + 1);
      assertThat(bodies)
          .as("%s %s has a body of which this test must know", it.method(), it.path())
          .containsKey(name);
      body = bodies.get(name);
      most = Math.max(most, Objects.requireNonNull(body).size());
    }
    List<String[]> calls = new ArrayList<>();
    for (int round = 0; round < most * Math.min(3, Math.max(1, names.size())); round++) {
      String path = it.path();
      List<String> query = new ArrayList<>();
      StringBuilder typed = new StringBuilder();
      for (int n = 0; n < names.size(); n++) {
        List<String> of = values.get(names.get(n));
        // later rounds pair the values of different parameters otherwise
        String value =
            Objects.requireNonNull(of)
                .get((round + n * (round / most)) % Objects.requireNonNull(of).size());
        typed.append(' ').append(value);
        if (path.contains("{" + names.get(n) + "}")) {
          path = path.replace("{" + names.get(n) + "}", encoded(value.isEmpty() ? "x" : value));
        } else if (!value.isEmpty()) {
          query.add(names.get(n) + "=" + encoded(value));
        }
      }
      String sent = body.get(round % body.size()).replace('\'', '"');
      String address = path + (query.isEmpty() ? "" : "?" + String.join("&", query));
      calls.add(new String[] {it.method(), address, sent, typed + " " + sent});
    }
    return calls;
  }

  private static String encoded(String value) {
    return URLEncoder.encode(value, StandardCharsets.UTF_8);
  }
}
