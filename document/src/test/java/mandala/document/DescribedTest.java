package mandala.document;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Objects;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.DelegationKey;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Assignments, bridges and delegations are described where they have no name. */
class DescribedTest {

  private static final Catalogue MUSEUM =
      new Catalogue(
          DocumentReader.read(
                  """
                      {"format":"mandala-model/1",
                       "accounts":[{"key":"m","name":"Museum"},{"key":"n","name":"Annexe","parent":"m"}],
                       "principals":[{"key":"ann","name":"Ann","kind":"person","account":"m"},
                                     {"key":"bob","name":"Bob","kind":"person","account":"m"}],
                       "groups":[{"key":"g","name":"Guards","account":"m"}],
                       "resourceTypes":[{"key":"room","name":"Room"}],
                       "permissions":[{"key":"enter","name":"Enter","on":["room"],
                                       "class":"view","risk":"low"}],
                       "roles":[{"key":"lead","name":"Loans lead","account":"m"}],
                       "resources":[{"key":"desk","name":"Loans desk","type":"room","account":"m"},
                                    {"key":"hall","name":"Hall","type":"room","account":"m"}],
                       "assignments":[
                        {"key":"a1","subject":"group:g","gives":"role:lead",
                         "scope":[{"tree":"desk"}],"from":"2026-05-04T00:00:00Z"},
                        {"key":"a2","subject":"group:g","gives":"permission:enter",
                         "scope":[{"only":"hall"},{"tree":"desk"}],
                         "until":"2026-12-01T00:00:00Z"},
                        {"key":"a3","name":"Night duty","subject":"group:g","gives":"role:lead",
                         "scope":[{"everything":true}]},
                        {"key":"a4","subject":"group:g","gives":"role:lead","scope":[]}],
                       "bridges":[{"key":"b1","account":"n","group":"g","gives":"role:lead",
                                   "scope":[],"status":"accepted"}],
                       "delegations":[{"key":"d1","principal":"ann","delegate":"bob","limit":"all","scope":[{"everything":true}]}]}
                  """)
              .orThrow());

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          a1 | Loans lead on Loans desk, since 4 May 2026
          a2 | Enter on Hall alone and 1 more, until 1 Dec 2026
          a3 | Night duty
          a4 | Loans lead, nowhere yet
          """)
  void anAssignmentByWhatItGivesWhereAndSinceWhen(String key, String described) {
    Assignment it = MUSEUM.assignments().get(new AssignmentKey(key));
    assertThat(new Described(MUSEUM, Naming.ALL).assignment(Objects.requireNonNull(it)))
        .isEqualTo(described);
    assertThat(new ChangeText(MUSEUM, MUSEUM).name(Objects.requireNonNull(it)))
        .isEqualTo(described);
  }

  @org.junit.jupiter.api.Test
  void bridgesByGroupAndDelegationsByPeople() {
    Bridge bridge = MUSEUM.bridges().get(new BridgeKey("b1"));
    Delegation delegation = MUSEUM.delegations().get(new DelegationKey("d1"));
    Described described = new Described(MUSEUM, Naming.ALL);
    assertThat(described.bridge(Objects.requireNonNull(bridge))).isEqualTo("Guards in Annexe");
    assertThat(described.delegation(Objects.requireNonNull(delegation))).isEqualTo("Bob for Ann");
  }
}
