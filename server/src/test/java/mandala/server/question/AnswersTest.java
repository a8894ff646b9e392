package mandala.server.question;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.demo.DemoDates;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import tools.jackson.databind.JsonNode;

/** What the questions answer, and how bad questions are refused. */
@ApiTest
class AnswersTest {

  private static Caller security;

  @Autowired private Environment environment;
  @Autowired private JdbcTemplate database;

  @BeforeAll
  static void signIn(@Autowired Environment environment) {
    security = Caller.as("ilse.varga", environment);
  }

  private static long rights(String query) {
    return security
        .get("/api/ask/access?principal=" + query)
        .json()
        .get("figure")
        .get("rights")
        .longValue();
  }

  /** A date of the demo's data, shifted as the loader shifts it. */
  private static String storyDay(String day) {
    long shift = ChronoUnit.DAYS.between(DemoDates.WRITTEN, LocalDate.now(ZoneOffset.UTC));
    return LocalDate.parse(day).plusDays(shift) + "T00:00:00Z";
  }

  @Test
  void accountDateAndSecondFactorChangeTheAnswer() {
    long with = rights("bas.quill&in=quillhaven&secondFactor=true");
    assertThat(rights("bas.quill&in=quillhaven")).isPositive().isLessThan(with);
    assertThat(rights("bas.quill&in=fernwick&secondFactor=true")).isZero();
    long early = rights("pia.lund&in=quillhaven&secondFactor=true&at=" + storyDay("2026-02-01"));
    assertThat(rights("pia.lund&in=quillhaven&secondFactor=true&at=" + storyDay("2026-04-01")))
        .as("the couriers' bridge opens in March")
        .isGreaterThan(early);
  }

  @Test
  void throughTheDoorsStandsApart() {
    JsonNode answer =
        security
            .get(
                "/api/ask/access?principal=odile.farrow&in=quillhaven&doors=true&secondFactor=true")
            .json();
    assertThat(answer.get("figure").get("sectors"))
        .anySatisfy(sector -> {
          assertThat(sector.get("door").booleanValue()).isTrue();
          assertThat(sector.get("name").stringValue()).isEqualTo("Fernwick Gallery · Loans desk");
        });
  }

  @Test
  void regionsAreFewForManyResources() {
    JsonNode answer =
        security.get("/api/ask/access?principal=noor.haddad&in=larkmoor&secondFactor=true").json();
    assertThat(count(answer.get("regions"))).isBetween(10, 60);
  }

  @Test
  void whatIsInsideOfARegionCanBeAskedForAlone() {
    int compared = 0;
    for (JsonNode person : security.get("/api/people?limit=100").json().get("rows")) {
      String asked =
          "principal=%s&in=%s&secondFactor=true"
              .formatted(person.get("key").stringValue(), person.get("account").stringValue());
      JsonNode answer = security.get("/api/ask/access?" + asked).json();
      compared += answer.has("regions") ? compareInside(answer.get("regions"), asked) : 0;
    }
    assertThat(compared).isPositive();
    String query = "principal=noor.haddad&in=larkmoor&secondFactor=true";
    Caller.Answer unknown = security.get("/api/ask/inside?" + query + "&resource=no-such-place");
    assertThat(unknown.status()).isEqualTo(404);
    assertThat(unknown.body()).contains("no-such-place");
    assertThat(security.get("/api/ask/inside?" + query + "&resource=").status()).isEqualTo(404);
    assertThat(security.get("/api/ask/inside?principal=nobody&resource=x").status()).isEqualTo(404);
  }

  /** Rows of regions that are told in no other. */
  private static long rightsInRows(JsonNode regions) {
    long rights = 0;
    for (JsonNode region : regions) {
      if (!region.get("below").isEmpty()) {
        rights += rightsInRows(region.get("below"));
        continue;
      }
      for (JsonNode cell : region.get("cells")) {
        rights += cell.get("allowed").longValue();
      }
    }
    return rights;
  }

  @ParameterizedTest
  @ValueSource(strings = {"marten.holloway", "dario.penn", "noor.haddad"})
  void rowsOnTheScreenAndInTheFileAddUpToTheHeadline(String viewer) {
    database.update("update credential set totp_last_step = -1");
    Caller caller = Caller.as(viewer, environment);
    int compared = 0;
    List<String> people = new ArrayList<>(List.of(viewer));
    for (JsonNode person : caller.get("/api/people?limit=60").json().get("rows")) {
      people.add(person.get("key").stringValue());
    }
    for (String who : people) {
      for (String asked : List.of("", "&in=quillhaven&doors=true", "&in=fernwick")) {
        String query = "principal=" + who + "&secondFactor=true" + asked;
        Caller.Answer answer = caller.get("/api/ask/access?" + query);
        if (answer.status() != 200) {
          continue; // not to be asked about by this viewer
        }
        long rights = answer.json().get("figure").get("rights").longValue();
        assertThat(rightsInRows(answer.json().get("regions"))).as(query).isEqualTo(rights);
        String file = caller.get("/api/ask/access/export?format=csv&" + query).body();
        long inFile =
            file.lines()
                .map(line -> line.split(",", -1))
                .filter(cells -> cells[cells.length - 3].equals("allowed"))
                .mapToLong(cells -> Long.parseLong(cells[cells.length - 2]))
                .sum();
        assertThat(inFile).as(query).isEqualTo(rights);
        compared++;
      }
    }
    assertThat(compared).isPositive();
  }

  /** {@return how many regions were compared with what is told when they are asked for alone} */
  private static int compareInside(JsonNode regions, String query) {
    int compared = 0;
    for (JsonNode region : regions) {
      assertThat(region.get("more").booleanValue()).as("small enough to be told whole").isFalse();
      JsonNode below = region.get("below");
      if (region.get("shape").stringValue().equals("tree") && !below.isEmpty()) {
        String resource = region.get("resource").stringValue();
        String path = "/api/ask/inside?" + query + "&resource=" + resource;
        assertThat(names(security.get(path).json())).isEqualTo(names(below));
        compared++;
      }
      compared += compareInside(below, query);
    }
    return compared;
  }

  private static List<String> names(JsonNode regions) {
    List<String> names = new ArrayList<>();
    regions.forEach(it -> names.add(it.get("name").stringValue() + it.get("note")));
    return names;
  }

  private static int count(JsonNode regions) {
    int count = regions.size();
    for (JsonNode region : regions) {
      count += count(region.get("below"));
    }
    return count;
  }

  @Test
  void whoIsNotActiveHasARefusalAndNoRegions() {
    JsonNode answer = security.get("/api/ask/access?principal=wren.okafor&in=quillhaven").json();
    assertThat(answer.get("refusal").stringValue()).isEqualTo("inactive");
    assertThat(answer.get("regions")).isEmpty();
    assertThat(answer.get("figure").get("rights").longValue()).isZero();
  }

  @Test
  void routesTellWhyAndWhyNot() {
    JsonNode allowed =
        security
            .get(
                "/api/ask/routes?principal=petra.lowe&permission=loan.approve&resource=q-loan-101&secondFactor=true")
            .json();
    assertThat(allowed.get("verdict").stringValue()).isEqualTo("allowed");
    assertThat(allowed.get("live").get(0).get("steps").get(0).get("name").stringValue())
        .isEqualTo("Petra Lowe");
    JsonNode without =
        security
            .get("/api/ask/routes?principal=petra.lowe&permission=loan.approve&resource=q-loan-101")
            .json();
    assertThat(without.get("live")).isEmpty();
    assertThat(without.get("near"))
        .anySatisfy(route ->
            assertThat(route.get("obstacles").get(0).stringValue())
                .isEqualTo("needs a second factor, for the role Loans lead"));
  }

  @Test
  void aDenyThatLocksAGateIsTold() {
    JsonNode people =
        security.get("/api/people?account=thornley&title=Loans officer".replace(" ", "%20")).json();
    String officer = people.get("rows").get(0).get("key").stringValue();
    boolean found = false;
    for (JsonNode row : people.get("rows")) {
      JsonNode answer =
          security
              .get(
                  "/api/ask/routes?permission=loan.draft&resource=t-loan-101&principal="
                      + row.get("key").stringValue())
              .json();
      if (answer.get("verdict").stringValue().equals("blocked")) {
        found = true;
        assertThat(answer.get("near").get(0).get("obstacles").get(0).stringValue())
            .startsWith("gate missing: Open the loans desk on ");
      }
    }
    assertThat(found).as("one of the officers like " + officer).isTrue();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          access?principal=no.body                                 | 404 | nobody called 'no.body'
          access?principal=noor.haddad&in=atlantis                 | 404 | no account 'atlantis'
          access?principal=noor.haddad&at=yesterday                | 400 | Found 'yesterday'. Give an instant like
          access?principal=noor.haddad&secondFactor=maybe          | 400 | Give true or false
          access?principal=noor.haddad&actingFor=noor.haddad       | 400 | Choose somebody else
          access                                                   | 400 | principal
          routes?principal=noor.haddad&permission=loan.fly&resource=q-loan-101 | 404 | no 'loan.fly'
          routes?principal=noor.haddad&permission=loan.draft&resource=q-loan-9 | 404 | no 'q-loan-9'
          routes?principal=noor.haddad&permission=stock.count&resource=q-loan-101 | 400 | not an action on such a resource
          """)
  void aBadQuestionIsRefusedInWords(String path, int status, String words) {
    Caller.Answer answer = security.get("/api/ask/" + path.strip());
    assertThat(answer.status()).isEqualTo(status);
    assertThat(answer.type()).startsWith("application/problem+json");
    assertThat(answer.json().get("detail").stringValue()).contains(words);
  }

  @Test
  void theListFiltersAndGivesStretches() {
    JsonNode registrars =
        security.get("/api/people?account=quillhaven&title=Registrar&state=active").json();
    assertThat(registrars.get("total").intValue()).isGreaterThan(8);
    assertThat(
            security
                .get("/api/people?account=quillhaven&title=Registrar&state=invited")
                .json()
                .get("total")
                .intValue())
        .isEqualTo(1);
    JsonNode second = security.get("/api/people?account=larkmoor&offset=50&limit=50").json();
    assertThat(second.get("rows")).hasSize(50);
    assertThat(security.get("/api/people?limit=100000").status()).isEqualTo(400);
    JsonNode found = security.get("/api/people?text=farrow").json();
    assertThat(found.get("rows").get(0).get("roles"))
        .extracting(JsonNode::stringValue)
        .contains("Registrar", "Loans lead", "Buyer");
  }

  @Test
  void everybodyInAnAccountHasTheSameAreasInTheSameOrder() {
    JsonNode rows = security.get("/api/people?account=quillhaven").json().get("rows");
    String first = areas(rows.get(0));
    for (JsonNode row : rows) {
      assertThat(areas(row)).isEqualTo(first);
    }
  }

  private static String areas(JsonNode row) {
    return row.get("figure").get("areas").toString();
  }

  @Test
  void fiftyPeopleWithTheirFiguresAreLight() {
    JsonNode answer = security.get("/api/people?account=larkmoor&limit=50").json();
    assertThat(answer.get("rows")).hasSize(50);
    assertThat(answer.toString().getBytes(StandardCharsets.UTF_8).length).isLessThan(60_000);
    for (JsonNode row : answer.get("rows")) {
      for (JsonNode petal : row.get("figure").get("petals")) {
        assertThat(petal).hasSize(7);
        assertThat(petal.get(3).intValue()).isLessThanOrEqualTo(petal.get(2).intValue());
        int area = row.get("figure").get("areas").get(petal.get(0).intValue()).intValue();
        assertThat(area).isLessThan(answer.get("areas").size());
      }
    }
  }

  /** A figure in a list shows the same as the person's own. */
  @Test
  void aFigureInTheListIsThePersonsOwn() {
    JsonNode row = security.get("/api/people?account=quillhaven&text=farrow").json();
    JsonNode small = row.get("rows").get(0).get("figure");
    JsonNode whole =
        security
            .get("/api/ask/access?principal=odile.farrow&in=quillhaven&secondFactor=false")
            .json()
            .get("figure");
    assertThat(small.get("rights").longValue()).isEqualTo(whole.get("rights").longValue());
    long reached = 0;
    for (JsonNode petal : small.get("petals")) {
      reached += petal.get(3).longValue();
    }
    long expected = 0;
    for (JsonNode sector : whole.get("sectors")) {
      for (JsonNode petal : sector.get("petals")) {
        expected += petal.get("reached").longValue();
      }
    }
    assertThat(small.get("areas")).hasSize(whole.get("sectors").size());
    assertThat(reached).isEqualTo(expected);
  }
}
