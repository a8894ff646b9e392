package mandala.document;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import org.junit.jupiter.api.Test;

/** Things that say something read as sentences. */
class ThingTextTest {

  private static final AccessModel MODEL =
      DocumentReader.read(
              """
              {"format": "mandala-model/1",
               "accounts": [{"key": "sea", "name": "Sea Museum"}, {"key": "ins", "name": "Insurer"}],
               "principals": [{"key": "noor", "name": "Noor", "kind": "person", "account": "sea"},
                              {"key": "pia", "name": "Pia", "kind": "person", "account": "sea"}],
               "guests": [{"principal": "noor", "account": "ins", "withSubaccounts": true,
                           "until": "2026-05-01T00:00:00Z"}],
               "groups": [{"key": "g", "name": "Registrars", "account": "sea"}],
               "resourceTypes": [{"key": "room"}],
               "permissions": [
                 {"key": "enter", "name": "Enter", "on": ["room"], "class": "view", "risk": "low"},
                 {"key": "lock", "name": "Lock", "on": ["room"], "class": "change", "risk": "low"}],
               "resources": [{"key": "hall", "name": "Great hall", "type": "room", "account": "sea"}],
               "bridges": [{"key": "b", "account": "ins", "group": "g", "gives": "permission:enter",
                            "scope": [{"account": "ins"}], "status": "accepted"}],
               "delegations": [{"key": "d", "principal": "noor", "delegate": "pia",
                                "limit": ["permission:lock"], "scope": [{"tree": "hall"}]}],
               "exclusions": [{"key": "two", "sides": [["enter"], ["lock"]], "where": "resource",
                               "exempt": [{"principal": "pia"}]}],
               "expectations": [
                 {"key": "e1", "form": "only", "subjects": ["group:g"], "permissions": ["lock"],
                  "scope": [{"tree": "hall"}]},
                 {"key": "e2", "form": "count", "permissions": ["enter", "lock"],
                  "scope": [{"tree": "hall"}], "min": 1, "max": 3}]}
              """)
          .orThrow();

  @Test
  void eachSaysWhatItMeans() {
    ThingText text = new ThingText(new Catalogue(MODEL));
    List<String> said = new ArrayList<>();
    for (Kind kind :
        List.of(Kind.GUESTS, Kind.BRIDGES, Kind.DELEGATIONS, Kind.EXCLUSIONS, Kind.EXPECTATIONS)) {
      MODEL.things(kind).forEach(it -> said.add(text.of(it)));
    }
    assertThat(said)
        .containsExactly(
            "Noor is a guest of Insurer and all below it, until 2026-05-01",
            "Enter in Insurer is given to Registrars: account Insurer",
            "Pia may act for Noor in what Lock allows: everything in Great hall",
            "No one may both “Enter” and “Lock” on the same resource, but Pia",
            "Only Registrars can “Lock” in everything in Great hall",
            "From 1 to 3 people can “Enter” or “Lock” on each of everything in Great hall");
  }

  @Test
  void whatSaysNothingIsItsName() {
    assertThat(new ThingText(new Catalogue(MODEL)).of(MODEL.accounts().getFirst()))
        .isEqualTo("Sea Museum");
  }
}
