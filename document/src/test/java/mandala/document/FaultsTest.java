package mandala.document;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import mandala.core.model.check.Fault;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A faulty document is told all its faults at once, each with its path and a next step. */
class FaultsTest {

  private static final String HEAD =
      """
      "format": "mandala-model/1",
      "accounts": [{"key": "a"}, {"key": "b", "parent": "a"}],
      "units": [{"key": "u", "account": "a"}],
      "principals": [{"key": "ann", "kind": "person", "account": "a"},
        {"key": "bot", "kind": "service", "account": "a"}],
      "resourceTypes": [{"key": "box"}],
      "permissions": [{"key": "see", "on": ["box"], "class": "view", "risk": "low"}],
      "permissionSets": [{"key": "s", "allow": ["see"]}],
      "roles": [{"key": "r", "sets": ["s"]}],
      "resources": [{"key": "b1", "type": "box", "account": "a"}]
      """;

  private static List<Fault> faults(String more) {
    return DocumentReader.read("{" + HEAD + (more.isEmpty() ? "" : "," + more) + "}").faults();
  }

  /** A document that has nothing but one array. */
  private static List<Fault> alone(String array) {
    return DocumentReader.read("{\"format\": \"mandala-model/1\"," + array + "}").faults();
  }

  private static List<String> paths(List<Fault> faults) {
    return faults.stream().map(Fault::path).toList();
  }

  @Test
  void theDocumentWithoutFaultsHasNone() {
    assertThat(faults("")).isEmpty();
  }

  @Test
  void aDocumentWithTenFaultsNamesAllTen() {
    List<Fault> faults =
        faults(
            """
            "groups": [{"key": "Bad Key", "account": "a"},
              {"key": "g", "account": "nowhere", "members": ["person:bot"], "colour": "red"}],
            "assignments": [
              {"key": "x", "subject": "person:nobody", "gives": "role:r", "scope": [{}]},
              {"key": "x", "subject": "anyone", "gives": "set:s", "effect": "deny",
               "scope": [{"everything": true}],
               "from": "2026-05-01T00:00:00Z", "until": "2026-05-01T00:00:00Z"},
              {"key": "y", "subject": "person:ann", "gives": "permission:see", "scope": [],
               "from": "yesterday"}]
            """);
    assertThat(paths(faults))
        .containsExactlyInAnyOrder(
            "$.groups[0].key",
            "$.groups[1].account",
            "$.groups[1].members[0]",
            "$.groups[1].colour",
            "$.assignments[0].subject",
            "$.assignments[0].scope[0]",
            "$.assignments[1].key",
            "$.assignments[1].effect",
            "$.assignments[1].until",
            "$.assignments[1].scope[0]",
            "$.assignments[2].from");
    assertThat(faults).allSatisfy(fault -> assertThat(fault.next()).isNotBlank());
    assertThat(faults)
        .anySatisfy(fault ->
            assertThat(fault.toString())
                .isEqualTo(
                    "$.groups[1].members[0]: there is no person 'bot'. Name one that exists, or"
                        + " add it to the document."));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          [{"key":"x","parent":"y"},{"key":"y","parent":"x"}]|x → y → x
          [{"key":"x","parent":"x"}]|x → x
          """)
  void aCycleIsNamed(String accounts, String cycle) {
    assertThat(alone("\"accounts\": " + accounts))
        .anySatisfy(fault -> assertThat(fault.what()).contains(cycle));
  }

  @Test
  void aGateThatLeadsBackThroughAnImplicationIsACycle() {
    assertThat(
            alone(
                """
                "resourceTypes": [{"key": "box"}],
                "permissions": [
                  {"key": "p", "on": ["box"], "class": "view", "risk": "low", "implies": ["x"]},
                  {"key": "x", "on": ["box"], "class": "view", "risk": "low", "requires": ["y"]},
                  {"key": "y", "on": ["box"], "class": "view", "risk": "low", "implies": ["p"]}]
                """))
        .extracting(Fault::path)
        .containsExactly("$.permissions[2].requires");
  }

  @Nested
  class Refused {

    @ParameterizedTest
    @CsvSource(
        delimiter = '|',
        textBlock =
            """
            "accounts": [{"key": "own"}]                              | $.accounts[0].key
            "accounts": [{"key": "mandala.x"}]                        | $.accounts[0].key
            "accounts": [{"key": "a", "status": "suspended"}]         | $.accounts[0].status
            "accounts": [{"key": "a", "sealed": "yes"}]               | $.accounts[0].sealed
            "resourceTypes": [{"key": "unit"}]                        | $.resourceTypes[0].key
            "principals": [{"key": "anonymous", "kind": "person", "account": "z"}] | $.principals[0].key
            "principals": [{"key": "p", "account": "z"}]              | $.principals[0].kind
            "permissions": [{"key": "p", "class": "view", "risk": "low"}] | $.permissions[0].on
            "permissions": [{"key": "p", "on": ["account"], "class": "look", "risk": "low"}] | $.permissions[0].class
            "permissions": [{"key": "mandala.directory.read", "on": ["account"], "class": "view", "risk": "low"}] | $.permissions[0].key
            "roles": [{"key": "a", "code": "X"}, {"key": "b", "code": "X"}] | $.roles[1].code
            "roles": [{"key": "a", "minHolders": 3, "maxHolders": 2}] | $.roles[0].maxHolders
            "roles": [{"key": "a", "owners": ["nobody"]}]             | $.roles[0].owners[0]
            "patterns": [{"key": "a", "owners": ["nobody"]}]          | $.patterns[0].owners[0]
            "accounts": [{"key": "z"}], "principals": [{"key": "p", "kind": "person", "account": "z", "email": "a@z"}, {"key": "q", "kind": "person", "account": "z", "email": "A@Z"}] | $.principals[1].email
            "accounts": [{"key": "z"}], "principals": [{"key": "p", "kind": "service", "account": "z", "sponsor": "q"}] | $.principals[0].sponsor
            "accounts": [{"key": "z"}], "principals": [{"key": "p", "kind": "person", "account": "z", "sponsor": "q"}, {"key": "q", "kind": "person", "account": "z"}] | $.principals[0].sponsor
            "accounts": 7                                             | $.accounts
            "people": []                                              | $.people
            """)
    void alone(String array, String path) {
      assertThat(paths(FaultsTest.alone(array))).contains(path.strip());
    }

    @ParameterizedTest
    @CsvSource(
        delimiter = '|',
        textBlock =
            """
            {"everything": false}          | $.assignments[0].scope[0].everything
            {"labels": {}}                 | $.assignments[0].scope[0].labels
            {"account": "nowhere"}         | $.assignments[0].scope[0].account
            {"tree": "unit:nowhere"}       | $.assignments[0].scope[0].tree
            {"only": "b9"}                 | $.assignments[0].scope[0].only
            {"collection": "c"}            | $.assignments[0].scope[0].collection
            {"type": "bag"}                | $.assignments[0].scope[0].type
            {"unit": "v"}                  | $.assignments[0].scope[0].unit
            {"owner": "boss"}              | $.assignments[0].scope[0].owner
            {"where": "here"}              | $.assignments[0].scope[0].where
            """)
    void clauses(String clause, String path) {
      assertThat(
              paths(
                  faults(
                      "\"assignments\": [{\"key\": \"x\", \"subject\": \"person:ann\","
                          + " \"gives\": \"role:r\", \"scope\": ["
                          + clause
                          + "]}]")))
          .contains(path.strip());
    }

    @ParameterizedTest
    @CsvSource(
        delimiter = '|',
        textBlock =
            """
            "groups": [{"key": "g", "account": "a", "rule": {"all": []}}] | $.groups[0].rule.all
            "groups": [{"key": "g", "account": "a", "rule": {"all": [{"attribute": "job", "op": "under", "value": "u"}]}}] | $.groups[0].rule.all[0].op
            "groups": [{"key": "g", "account": "a", "rule": {"any": [{"attribute": "unit", "op": "is", "value": "v"}]}}] | $.groups[0].rule.any[0].value
            "groups": [{"key": "g", "account": "a", "rule": {"any": [{"attribute": "job", "op": "present", "value": "v"}]}}] | $.groups[0].rule.any[0].value
            "activations": [{"principal": "ann", "assignment": "x", "until": "2026-05-01T00:00:00Z"}] | $.activations[0].assignment
            "delegations": [{"key": "d", "principal": "ann", "delegate": "ann", "limit": "all", "scope": []}] | $.delegations[0].delegate
            "delegations": [{"key": "d", "principal": "ann", "delegate": "bot", "scope": []}] | $.delegations[0].limit
            "assignments": [{"key": "x", "subject": "person:ann", "gives": "permission:see", "effect": "deny", "scope": [], "viewScope": [{"everything": true}]}] | $.assignments[0].viewScope
            "assignments": [{"key": "x", "subject": "person:ann", "gives": "role:r", "effect": "allow", "scope": []}] | $.assignments[0].effect
            "expectations": [{"key": "e", "form": "can", "subjects": ["anyone"], "permissions": ["see"], "scope": [{"owner": "self"}]}] | $.expectations[0].scope[0]
            "expectations": [{"key": "e", "form": "count", "subjects": ["anyone"], "permissions": ["see"], "scope": []}] | $.expectations[0].subjects
            "guests": [{"principal": "ann", "account": "b", "sponsor": "bot"}] | $.guests[0].sponsor
            "collections": [{"key": "c", "account": "b", "members": ["b1"]}] | $.collections[0].members[0]
            "bridges": [{"key": "c", "account": "b", "group": "none", "gives": "role:r", "scope": []}] | $.bridges[0].group
            """)
    void amongOthers(String array, String path) {
      assertThat(paths(faults(array))).contains(path.strip());
    }
  }

  @Nested
  class NotADocument {

    @Test
    void whatIsNotJsonIsToldWithItsPlace() {
      Fault fault = DocumentReader.read("{\"format\": ").faults().getFirst();
      assertThat(fault.path()).startsWith("line 1, column ");
      assertThat(fault.what()).startsWith("this is not JSON");
    }

    @Test
    void anotherFormatIsRefused() {
      assertThat(DocumentReader.read("{\"format\": \"mandala-model/9\"}").faults())
          .extracting(Fault::what)
          .containsExactly("the format is 'mandala-model/9'");
    }

    @Test
    void aListIsNoDocument() {
      assertThat(paths(DocumentReader.read("[]").faults())).containsExactly("$");
    }

    @Test
    void theSameFieldTwiceIsNoJson() {
      assertThat(
              DocumentReader.read("{\"format\": \"mandala-model/1\", \"units\": [], \"units\": []}")
                  .faults())
          .hasSize(1);
    }
  }
}
