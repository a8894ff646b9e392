package mandala.core.model;

import java.util.List;
import java.util.Set;

/** Tests that a principal of the group's account, or a guest of it, passes to be in the group. */
public record Rule(Match match, List<Test> tests) {

  /** Names that always mean the field of the principal, never an attribute (section 2). */
  public static final Set<String> FIELDS = Set.of("kind", "unit", "manager", "account", "status");

  /** Copies its tests. */
  public Rule {
    tests = List.copyOf(tests);
  }

  /** How many tests must hold. */
  public enum Match {
    ALL,
    ANY
  }

  /** What is compared, how, and with which values (none for present and absent). */
  public record Test(String attribute, Op op, List<String> values) {
    /** Copies its values. */
    public Test {
      values = List.copyOf(values);
    }
  }

  /** How a value is compared; what is missing fails every test but {@link #ABSENT}. */
  public enum Op {
    IS,
    IS_NOT,
    IN,
    STARTS_WITH,
    PRESENT,
    ABSENT,
    UNDER
  }
}
