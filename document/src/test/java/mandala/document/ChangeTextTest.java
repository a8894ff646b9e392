package mandala.document;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Objects;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A draft reads as sentences. */
class ChangeTextTest {

  private static final Catalogue BEFORE =
      new Catalogue(
          model(
              """
              {"format": "mandala-model/1",
               "accounts": [{"key": "sea", "name": "Sea Museum"}],
               "principals": [{"key": "noor", "name": "Noor Haddad", "kind": "person", "account": "sea"},
                              {"key": "pia", "name": "Pia Lund", "kind": "person", "account": "sea"}],
               "groups": [{"key": "g", "name": "Registrars", "account": "sea", "members": ["person:noor"]}],
               "resourceTypes": [{"key": "room"}],
               "permissions": [{"key": "enter", "name": "Enter", "on": ["room"], "class": "view",
                                "risk": "low"}],
               "permissionSets": [{"key": "s", "name": "Rooms", "allow": ["enter"]}],
               "roles": [{"key": "r", "name": "Keeper"}],
               "resources": [{"key": "hall", "name": "Great hall", "type": "room", "account": "sea"}],
               "assignments": [{"key": "a", "subject": "group:g", "gives": "role:r",
                                "scope": [{"tree": "hall"}]}]}
              """));

  private static AccessModel model(String json) {
    return DocumentReader.read(json).orThrow();
  }

  @ParameterizedTest(name = "{0} {1}")
  @CsvSource(
      delimiter = ';',
      quoteCharacter = '`',
      value = {
        "groups; {'key':'g','name':'Registrars','account':'sea','members':['person:pia']};"
            + " Pia Lund joins Registrars | Noor Haddad leaves Registrars",
        "groups; {'key':'g','name':'Registrars','account':'sea','members':['person:noor'],"
            + "'status':'retired'}; Registrars is retired now",
        "roles; {'key':'r','name':'Keeper','sets':['s']}; Rooms is added to Keeper",
        "permissionSets; {'key':'s','name':'Rooms','deny':['enter']};"
            + " Enter is now denied by Rooms | Enter is no longer allowed by Rooms",
        "roles; {'key':'r','name':'Warden'}; Warden: name “Keeper” becomes “Warden”",
        "roles; {'key':'n','name':'New role'}; The role New role is added",
        "resources; {'key':'hall','name':'Great hall','type':'room','account':'sea','sealed':true};"
            + " Great hall is sealed",
        "resources; {'key':'n','type':'room','account':'sea','parent':'hall'};"
            + " n is added to Great hall",
        "assignments; {'key':'n','subject':'person:pia','gives':'permission:enter',"
            + "'effect':'deny','scope':[{'account':'sea'}],'until':'2027-01-01T00:00:00Z'};"
            + " Pia Lund is denied Enter: account Sea Museum, until 2027-01-01",
        "assignments; {'key':'n','subject':'account:sea','gives':'role:r','scope':[]};"
            + " Everyone in Sea Museum gets Keeper: nowhere yet",
        "assignments; -a; Registrars no longer gets Keeper: everything in Great hall",
        "principals; -pia; Pia Lund is removed",
        "principals; {'key':'pia','name':'Pia Lund','kind':'person','account':'sea',"
            + "'status':'suspended'}; Pia Lund is suspended now",
      })
  void aChangeIsSaidInSentences(String kind, String json, String expected) {
    Kind of = ThingDocument.kind(kind);
    Change change;
    if (json.startsWith("-")) {
      change =
          new Change.Removed(BEFORE.find(Objects.requireNonNull(of), json.substring(1)).getFirst());
    } else {
      Thing now = ThingDocument.read(Objects.requireNonNull(of), json.replace('\'', '"')).thing();
      Thing old = BEFORE.find(Objects.requireNonNull(now));
      change =
          old == null
              ? new Change.Added(Objects.requireNonNull(now))
              : new Change.Altered(old, Objects.requireNonNull(now));
    }
    Catalogue after = Draft.of(List.of(change)).appliedUnchecked(BEFORE);
    assertThat(String.join(" | ", new ChangeText(BEFORE, after).sentences(change)))
        .isEqualTo(expected);
  }
}
