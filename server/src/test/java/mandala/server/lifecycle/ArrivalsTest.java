package mandala.server.lifecycle;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.GroupKey;
import mandala.server.Caller;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** Many people brought in from a list, with what is wrong with some of them. */
class ArrivalsTest extends LifecycleCase {

  private static final String ILSE = "ilse.varga";
  private static final String PATH = "/api/people/arrivals";

  private static Map<String, Object> order(String list) {
    return Map.of("account", "quillhaven", "list", list, "columns", Map.of());
  }

  @Test
  void addressesBecomePeopleWithNames() {
    Caller ilse = as(ILSE);
    String list =
        "\"Teasel, Juno\" <juno.t@larkmoor.example>, ivo-hart@larkmoor.example\n"
            + "Bo Finch <bo@larkmoor.example>; odile.farrow@larkmoor.example\nnobody";
    JsonNode seen = ok(post(ilse, PATH + "/look", order(list)));
    assertThat(seen.get("fresh").intValue()).isEqualTo(3);
    assertThat(seen.get("known").intValue()).isEqualTo(1);
    assertThat(seen.get("faulty").intValue()).isEqualTo(1);
    assertThat(seen.at("/rows/0/faults").toString())
        .contains("There is no name.")
        .contains("'nobody' is no e-mail address.");
    assertThat(seen.at("/rows/1/person").stringValue()).isEqualTo("odile.farrow");
    assertThat(database.queryForObject("select count(*) from draft", Integer.class)).isZero();

    JsonNode done = ok(post(ilse, PATH, order(list)));
    assertThat(done.get("left").stringValue())
        .contains("why it was not taken")
        .contains("odile.farrow@larkmoor.example,Somebody has this address already.");
    applied(ilse, ILSE);
    assertThat(person("teasel-juno").about().name()).isEqualTo("Teasel, Juno");
    assertThat(person("ivo-hart").about().name()).isEqualTo("Ivo Hart");
    assertThat(person("bo-finch").status()).isEqualTo(Principal.Status.INVITED);
    assertThat(mail("bo-finch")).contains("/join?token=");
  }

  @Test
  void ofTwoThousandRowsTheFortyFaultyOnesComeBack() {
    Caller ilse = as(ILSE);
    StringBuilder table = new StringBuilder("Full name;Mail;Department;Reports to;Groups;Start\n");
    for (int i = 0; i < 2_000; i++) {
      String unit = i % 50 == 7 ? "No such place" : "Registry";
      table.append(
          "Person %d;p%d@arrivals.example;%s;tomas.brandt;f-couriers;2027-01-%02d\n"
              .formatted(i, i, unit, i % 28 + 1));
    }
    JsonNode seen = ok(post(ilse, PATH + "/look", order(table.toString())));
    assertThat(seen.at("/mapping/unit").stringValue()).isEqualTo("Department");
    assertThat(seen.get("faulty").intValue()).isEqualTo(40);
    assertThat(seen.get("fresh").intValue()).isEqualTo(1_960);
    assertThat(seen.get("rows")).hasSize(300);

    JsonNode done = ok(post(ilse, PATH, order(table.toString())));
    List<String> left = done.get("left").stringValue().lines().toList();
    assertThat(left).hasSize(41);
    assertThat(left.get(1))
        .contains("Person 7,p7@arrivals.example")
        .contains("There is no unit 'No such place' in this account.");
    applied(ilse, ILSE);
    assertThat(
            model.engine().catalogue().principals().values().stream()
                .filter(it -> it.email() != null && it.email().endsWith("@arrivals.example")))
        .hasSize(1_960)
        .allMatch(it -> it.unit() != null && it.manager() != null && it.window().from() != null);
    assertThat(
            model.engine().having(new Subject.OfGroup(new GroupKey("f-couriers")), clock.instant()))
        .hasSizeGreaterThanOrEqualTo(1_960);
    assertThat(
            database.queryForObject(
                "select count(*) from mail where recipient like '%@arrivals.example'",
                Integer.class))
        .isEqualTo(1_960);
    // the fixed rows can be sent again: those who came are known
    JsonNode again = ok(post(ilse, PATH + "/look", order(table.toString())));
    assertThat(again.get("known").intValue()).isEqualTo(1_960);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          name,email;A,one@two@three          | is no e-mail address
          name,email;A,a@b.example;B,A@B.example | The address is on line 2 already
          name,key;A,No Key                   | can't be a key
          name,key;A,ilse.varga               | The key 'ilse.varga' is taken
          name,from,until;A,2027-02-01,2027-01-01 | The last day is not after the first
          name,from;A,1.2.2027                | is no day: write 2026-11-28
          name,manager;A,nobody.here          | There is no manager 'nobody.here'
          name,email;,x@y.example             | There is no name
          """)
  void aFaultSaysWhatIsWrong(String list, String why) {
    JsonNode seen = ok(post(as(ILSE), PATH + "/look", order(list.strip().replace(';', '\n'))));
    assertThat(seen.get("faulty").intValue()).isEqualTo(1);
    assertThat(seen.at("/rows/0/faults").toString()).contains(why);
  }

  @Test
  void whatIsNoListIsRefused() {
    Caller ilse = as(ILSE);
    refused(post(ilse, PATH, order("name,email\n\"A,x")), 400, "This is no table");
    refused(post(ilse, PATH, order("a@b.example\n".repeat(5_001))), 400, "The list is too long");
    refused(
        post(ilse, PATH, Map.of("account", "nowhere", "list", "a@b.example", "columns", Map.of())),
        404,
        "There is no account 'nowhere'");
  }

  @Test
  void whatComesBackIsNoFormulaToASpreadsheet() {
    JsonNode done = ok(post(as(ILSE), PATH, order("name,unit\n=1+1,Nowhere")));
    assertThat(done.has("draft")).isFalse();
    assertThat(done.get("left").stringValue()).contains("\n'=1+1,Nowhere,");
  }

  @Test
  void columnsAreMappedByHand() {
    JsonNode seen =
        ok(
            post(
                as(ILSE),
                PATH + "/look",
                Map.of(
                    "account", "quillhaven",
                    "list", "who,where\nJuno,Registry",
                    "columns", Map.of("name", "who", "unit", "where"))));
    assertThat(seen.get("fresh").intValue()).isEqualTo(1);
    assertThat(seen.at("/rows/0/name").stringValue()).isEqualTo("Juno");
  }
}
