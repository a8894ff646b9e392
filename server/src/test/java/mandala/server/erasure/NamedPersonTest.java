package mandala.server.erasure;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Collection;
import java.util.List;
import java.util.Set;
import mandala.core.model.Kind;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What names somebody is found wherever it is, and nothing else. */
class NamedPersonTest {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private static final List<String> RECORDS =
      List.of(
          "{\"key\":\"ada.moor\",\"name\":\"Ada Moor\",\"email\":\"ada@larkmoor.example\","
              + "\"attributes\":{\"number\":\"4711\"}}",
          "{\"key\":\"ada.moor\",\"name\":\"Ada Moor-Lind\",\"email\":\"ada@larkmoor.example\"}");

  private static NamedPerson person(String key, Collection<String> borne, Set<String> inForce) {
    NamedPerson.Gathering all = new NamedPerson.Gathering(key, "erased-1");
    RECORDS.forEach(
        it -> all.add(Kind.PRINCIPALS, JSON.readTree(it.replace("ada.moor", key)), _ -> false));
    all.add(
        Kind.ASSIGNMENTS,
        JSON.readTree("{\"key\":\"petra-leave\",\"subject\":\"person:" + key + "\"}"),
        it -> inForce.contains(it.key()));
    return all.person(borne, it -> inForce.contains(it.key()), Set.of("title"));
  }

  private static NamedPerson ada() {
    return person("ada.moor", List.of(), Set.of());
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          Signed out Ada Moor                  | Signed out (erased)
          ADA MOOR left                        | (erased) left
          Ada Moor-Lind, once Ada Moor         | (erased), once (erased)
          Madam Ada Moore stays                | Madam Ada Moore stays
          Mail to ada@larkmoor.example went    | Mail to (erased) went
          Removed 'ada.moor'.                  | Removed 'erased-1'.
          person:ada.moor                      | person:erased-1
          (removed) ada.moor                   | (removed) erased-1
          ada.moor-2 is another one            | ada.moor-2 is another one
          ada.moor.keeper is another key       | ada.moor.keeper is another key
          x.ada.moor is another key            | x.ada.moor is another key
          member registrars ada.moor           | member registrars erased-1
          it was petra-leave that gave it      | it was erased-1.1 that gave it
          room 4711 is not a person            | room 4711 is not a person
          ada.moor has the number 4711         | erased-1 has the number (erased)
          """)
  void proseIsBlottedWordByWord(String before, String after) {
    assertThat(ada().text(before)).isEqualTo(after);
  }

  @Test
  void aNameThatSomebodyElseBearsGoesOnlyBesideTheKey() {
    NamedPerson ada = person("ada.moor", List.of("Ada Moor"), Set.of());
    assertThat(ada.text("Ada Moor asked")).isEqualTo("Ada Moor asked");
    assertThat(ada.text("Ada Moor (ada.moor) asked")).isEqualTo("(erased) (erased-1) asked");
  }

  @Test
  void aKeyOfOnePlainWordIsOneOnlyBehindItsKindOrAsAWholeValue() {
    NamedPerson open = person("open", List.of(), Set.of());
    assertThat(open.text("The draft is open")).isEqualTo("The draft is open");
    assertThat(open.text("person:open")).isEqualTo("person:erased-1");
    assertThat(open.value("open", false)).isEqualTo("erased-1");
    assertThat(open.value("{\"state\":\"open\",\"owner\":\"open\"}", false))
        .isEqualTo("{\"state\":\"open\",\"owner\":\"erased-1\"}");
  }

  @Test
  void recordsLoseWhatIsPersonalAndKeepWhatDecidedAccess() {
    JsonNode blank =
        ada()
            .thing(
                Kind.PRINCIPALS,
                JSON.readTree(
                    "{\"key\":\"ada.moor\",\"name\":\"Ada Moor\",\"account\":\"head\","
                        + "\"unit\":\"east\",\"email\":\"ada@larkmoor.example\",\"mfa\":true,"
                        + "\"attributes\":{\"phone\":\"12\",\"title\":\"Keeper\"},\"note\":\"Has a dog\"}"));
    assertThat(blank.toString())
        .isEqualTo(
            "{\"key\":\"erased-1\",\"name\":\"(erased)\",\"account\":\"head\",\"unit\":\"east\","
                + "\"mfa\":true,\"attributes\":{\"title\":\"Keeper\"}}");
  }

  @Test
  void otherThingsKeepTheirProseWhereTheyAreInForce() {
    JsonNode group =
        JSON.readTree(
            "{\"key\":\"movers\",\"name\":\"Friends of Ada Moor\",\"account\":\"ada.moor\","
                + "\"members\":[\"person:ada.moor\",\"person:ben.hale\"]}");
    assertThat(ada().thing(Kind.GROUPS, group).toString())
        .isEqualTo(
            "{\"key\":\"movers\",\"name\":\"Friends of (erased)\",\"account\":\"ada.moor\","
                + "\"members\":[\"person:erased-1\",\"person:ben.hale\"]}");
    assertThat(person("ada.moor", List.of(), Set.of("movers")).thing(Kind.GROUPS, group).toString())
        .as("its past must lead to what it is")
        .contains("Friends of Ada Moor", "person:erased-1");
    assertThat(group.toString()).as("the given one stays").contains("person:ada.moor");
  }

  @Test
  void aKeyInForceIsNotReplaced() {
    NamedPerson ada = person("ada.moor", List.of(), Set.of("petra-leave"));
    assertThat(ada.text("it was petra-leave")).isEqualTo("it was petra-leave");
  }

  @Test
  void jsonIsWalkedToItsNamesAndStrings() {
    assertThat(
            ada()
                .value(
                    "{\"fates\":{\"member registrars ada.moor\":{\"to\":\"ben.hale\"}},"
                        + "\"who\":[\"ada.moor\",\"Ada Moor\",3,null]}",
                    false))
        .isEqualTo(
            "{\"fates\":{\"member registrars erased-1\":{\"to\":\"ben.hale\"}},"
                + "\"who\":[\"erased-1\",\"(erased)\",3,null]}");
    assertThat(ada().value("{\"a\": 1.50}", false)).as("untouched").isEqualTo("{\"a\": 1.50}");
  }
}
