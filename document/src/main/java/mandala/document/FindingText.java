package mandala.document;

import java.util.List;
import java.util.Locale;
import mandala.core.compliance.Finding;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import mandala.core.question.ExclusionViolation;
import mandala.core.question.ExpectationViolation;

/** Findings in words, without a stop: whose rule it is, and what breaks it. */
public final class FindingText {

  private final ChangeText text;

  /** Speaks with the names of the models before and after a change, or of one model twice. */
  public FindingText(Catalogue before, Catalogue after) {
    this(before, after, Naming.ALL);
  }

  /** Speaks with the names of the models before and after, as far as they may be told. */
  public FindingText(Catalogue before, Catalogue after, Naming naming) {
    text = new ChangeText(before, after, naming);
  }

  /**
   * A finding.
   *
   * @param kind {@code exclusion}, {@code expectation}, {@code prerequisite} or {@code holders}
   * @param key of the exclusion or expectation, else of the role
   * @param name its name
   * @param said what breaks it
   */
  public record Told(String kind, String key, String name, String said) {}

  /** {@return a finding in words} */
  public Told of(Finding finding) {
    return switch (finding) {
      case Finding.ExclusionBroken(ExclusionKey key, ExclusionViolation conflict) ->
          new Told(
              "exclusion",
              key.value(),
              text.name(Kind.EXCLUSIONS, key.value()),
              text.name(Kind.PRINCIPALS, conflict.principal().value())
                  + (conflict.sides().size() == 2
                      ? " holds both sides on "
                      : " holds " + conflict.sides().size() + " sides on ")
                  + count(conflict.many(), "resource", "resources"));
      case Finding.ExpectationFails(ExpectationKey key, List<ExpectationViolation> breaches) ->
          new Told(
              "expectation",
              key.value(),
              text.name(Kind.EXPECTATIONS, key.value()),
              breaches(breaches));
      case Finding.PrerequisiteMissing(PrincipalKey principal, RoleKey role, RoleKey missing) ->
          new Told(
              "prerequisite",
              role.value(),
              text.name(Kind.ROLES, role.value()),
              text.name(Kind.PRINCIPALS, principal.value())
                  + " lacks the prerequisite "
                  + text.name(Kind.ROLES, missing.value()));
      case Finding.HolderLimit(RoleKey role, int holders, boolean few) ->
          new Told(
              "holders",
              role.value(),
              text.name(Kind.ROLES, role.value()),
              holders == Finding.HolderLimit.UNTOLD
                  ? "too " + (few ? "few" : "many") + " holders"
                  : count(holders, "holder, too ", "holders, too ") + (few ? "few" : "many"));
    };
  }

  private String breaches(List<ExpectationViolation> breaches) {
    String said = of(breaches.getFirst());
    return breaches.size() == 1 ? said : said + ", and " + (breaches.size() - 1) + " more";
  }

  /** {@return what breaks an expectation, in words} */
  public String of(ExpectationViolation breach) {
    PrincipalKey who = breach.principal();
    return who == null
        ? breach.many() + " can on " + text.place(breach.resource())
        : (who.equals(PrincipalKey.ANONYMOUS)
                ? "Anyone not signed in"
                : text.name(Kind.PRINCIPALS, who.value()))
            + " on "
            + count(breach.many(), "resource", "resources");
  }

  private static String count(long many, String one, String more) {
    return String.format(Locale.ROOT, "%,d ", many) + (many == 1 ? one : more);
  }
}
