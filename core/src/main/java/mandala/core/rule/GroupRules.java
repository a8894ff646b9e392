package mandala.core.rule;

import java.time.Instant;
import java.util.Locale;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.Rule;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;

/** Whom the rule of a group takes in (section 2, rules). */
public final class GroupRules {

  private GroupRules() {}

  /**
   * {@return whether rules of an account's groups look at somebody at all}: at those whose home it
   * is, and those with a guest membership in force that covers it
   */
  public static boolean isTested(
      Principal who, AccountKey account, Instant at, Catalogue catalogue) {
    return who.account().equals(account) || Guests.isGuest(who.key(), account, at, catalogue);
  }

  /** {@return whether somebody passes a rule}, whatever their account */
  public static boolean passes(Rule rule, Principal who, Catalogue catalogue) {
    boolean all = rule.match() == Rule.Match.ALL;
    for (Rule.Test test : rule.tests()) {
      if (passes(test, who, catalogue) != all) {
        return !all;
      }
    }
    return all;
  }

  private static boolean passes(Rule.Test test, Principal who, Catalogue catalogue) {
    String value = value(test.attribute(), who);
    if (value == null) {
      return test.op() == Rule.Op.ABSENT;
    }
    return switch (test.op()) {
      case IS -> value.equals(test.values().getFirst());
      case IS_NOT -> !value.equals(test.values().getFirst());
      case IN -> test.values().contains(value);
      case STARTS_WITH -> value.startsWith(test.values().getFirst());
      case PRESENT -> true;
      case ABSENT -> false;
      case UNDER ->
          catalogue.isAtOrBelow(new UnitKey(value), new UnitKey(test.values().getFirst()));
    };
  }

  private static @Nullable String value(String name, Principal who) {
    return switch (name) {
      case "kind" -> who.kind() == Principal.Kind.PERSON ? "person" : "service";
      case "status" -> who.status().name().toLowerCase(Locale.ROOT);
      case "account" -> who.account().value();
      case "unit" -> who.unit() == null ? null : who.unit().value();
      case "manager" -> who.manager() == null ? null : who.manager().value();
      default -> who.attributes().get(name);
    };
  }
}
