package mandala.server.catalog;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashSet;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import mandala.core.model.Principal;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import tools.jackson.databind.JsonNode;

/** Who can be named on one page is named on all, and who cannot on none (section 11). */
@ApiTest
class NamedEverywhereTest {

  @Autowired private Environment environment;
  @Autowired private JdbcTemplate database;
  @Autowired private LiveModel model;

  @BeforeEach
  void codesAgain() {
    database.update("update credential set totp_last_step = -1");
  }

  private static Set<String> keys(JsonNode list) {
    return list.valueStream()
        .map(it -> it.get("key").stringValue())
        .collect(Collectors.toCollection(TreeSet::new));
  }

  /** {@return those keys of which something holds} */
  private static Set<String> those(Set<String> among, Predicate<String> holds) {
    return among.stream().filter(holds).collect(Collectors.toCollection(TreeSet::new));
  }

  @ParameterizedTest
  @CsvSource({
    "ilse.varga, true",
    "vera.lindqvist, true",
    "dario.penn, true",
    "anselm.reeve, true",
    "noor.haddad, false"
  })
  void peopleAreFoundListedOpenedAndAskedAboutAlike(String viewer, boolean seesOthers) {
    Caller caller = Caller.as(viewer, environment);
    Set<String> listed = keys(caller.get("/api/things/principals?limit=1000").json().get("things"));
    assertThat(listed).contains(viewer);
    assertThat(listed.size() > 1).isEqualTo(seesOthers);

    Set<String> rows = new TreeSet<>();
    int total = Integer.MAX_VALUE;
    for (int offset = 0; offset < total; offset += 200) {
      JsonNode page = caller.get("/api/people?limit=200&offset=" + offset).json();
      total = page.get("total").intValue();
      rows.addAll(keys(page.get("rows")));
    }
    assertThat(rows).as("the list of people").isEqualTo(listed).hasSize(total);

    Set<String> some = new HashSet<>(Set.of(viewer, "odile.farrow", "ada.finch", "lena.wyndham"));
    int at = 0;
    for (Principal it : model.state().people().all()) {
      if (at++ % 12 == 0) {
        some.add(it.key().value());
      }
    }
    assertThat(those(some, key -> caller.get("/api/rights/people/" + key).status() == 200))
        .as("their own pages")
        .isEqualTo(those(some, listed::contains));
    assertThat(
            those(
                some,
                key ->
                    keys(caller.get("/api/people/choices?limit=40&text=" + key).json())
                        .contains(key)))
        .as("whom a question can be about")
        .isEqualTo(
            those(
                some,
                key ->
                    caller.get("/api/ask/access?secondFactor=true&principal=" + key).status()
                        == 200));
  }

  @ParameterizedTest
  @CsvSource({"ilse.varga", "vera.lindqvist", "dario.penn", "anselm.reeve", "noor.haddad"})
  void groupsAndRolesAreListedAndOpenedAlike(String viewer) {
    Caller caller = Caller.as(viewer, environment);
    for (String kind : new String[] {"groups", "roles"}) {
      Set<String> listed =
          keys(caller.get("/api/things/" + kind + "?limit=1000").json().get("things"));
      Set<String> all = new TreeSet<>();
      if (kind.equals("groups")) {
        model.state().engine().catalogue().groups().keySet().forEach(it -> all.add(it.value()));
      } else {
        model.state().engine().catalogue().roles().keySet().forEach(it -> all.add(it.value()));
      }
      assertThat(those(all, key -> caller.get("/api/rights/" + kind + "/" + key).status() == 200))
          .as("%s that open", kind)
          .isEqualTo(those(all, listed::contains));
    }
  }
}
