package mandala.core.rule;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Objects;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.Rule;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A rule looks at people of its account and their fields and attributes (section 2, rules). */
class GroupRulesSpec {

  private static final Instant NOW = Instant.parse("2026-05-01T00:00:00Z");

  /** Ada works in loans, which is part of collections; her shift is an empty text. */
  private static final Catalogue MODEL =
      new Sketch()
          .account("museum")
          .account("elsewhere")
          .unit("collections", "museum")
          .unit("loans", "museum", "collections")
          .person("ada", "museum", "loans", "job", "Registrar", "shift", "")
          .person("bas", "elsewhere")
          .guest("bas", "museum", false, null)
          .person("cato", "elsewhere")
          .catalogue();

  private static Principal person(String key) {
    return Objects.requireNonNull(MODEL.principals().get(new PrincipalKey(key)));
  }

  private static Rule.Test test(String attribute, Rule.Op op, String... values) {
    return new Rule.Test(attribute, op, List.of(values));
  }

  private static boolean passes(Rule.Match match, Rule.Test... tests) {
    return GroupRules.passes(new Rule(match, List.of(tests)), person("ada"), MODEL);
  }

  @ParameterizedTest
  @CsvSource({
    "job, IS, Registrar, true",
    "job, IS, registrar, false",
    "job, IS_NOT, Guard, true",
    "job, IN, Registrar, true",
    "job, STARTS_WITH, Reg, true",
    "job, STARTS_WITH, istrar, false",
    "unit, UNDER, collections, true",
    "unit, UNDER, loans, true",
    "unit, IS, collections, false",
    "kind, IS, person, true",
    "status, IS, active, true",
    "account, IS, museum, true",
    "shift, STARTS_WITH, '', true"
  })
  void valuesAreComparedExactly(String attribute, Rule.Op op, String value, boolean expected) {
    assertThat(passes(Rule.Match.ALL, test(attribute, op, value))).isEqualTo(expected);
  }

  @Test
  void anEmptyTextIsPresent() {
    assertThat(passes(Rule.Match.ALL, test("shift", Rule.Op.PRESENT))).isTrue();
    assertThat(passes(Rule.Match.ALL, test("shift", Rule.Op.ABSENT))).isFalse();
  }

  @ParameterizedTest
  @CsvSource({"IS", "IS_NOT", "IN", "STARTS_WITH"})
  void whatIsMissingPassesNothingButAbsent(Rule.Op op) {
    assertThat(passes(Rule.Match.ALL, test("badge", op, "7"))).isFalse();
    assertThat(passes(Rule.Match.ALL, test("badge", Rule.Op.PRESENT))).isFalse();
    assertThat(passes(Rule.Match.ALL, test("badge", Rule.Op.ABSENT))).isTrue();
  }

  @Test
  void allAsksForEveryTestAndAnyForOne() {
    Rule.Test yes = test("job", Rule.Op.IS, "Registrar");
    Rule.Test no = test("job", Rule.Op.IS, "Guard");
    assertThat(passes(Rule.Match.ALL, yes, no)).isFalse();
    assertThat(passes(Rule.Match.ANY, no, yes)).isTrue();
    assertThat(passes(Rule.Match.ANY, no, no)).isFalse();
  }

  @Test
  void itLooksAtPeopleOfTheAccountAndItsGuests() {
    AccountKey museum = new AccountKey("museum");
    assertThat(GroupRules.isTested(person("ada"), museum, NOW, MODEL)).isTrue();
    assertThat(GroupRules.isTested(person("bas"), museum, NOW, MODEL)).isTrue();
    assertThat(GroupRules.isTested(person("cato"), museum, NOW, MODEL)).isFalse();
  }
}
