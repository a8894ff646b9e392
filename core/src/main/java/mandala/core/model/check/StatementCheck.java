package mandala.core.model.check;

import java.util.List;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;

/** Exclusions and expectations (sections 8 and 9). */
final class StatementCheck {

  private final AccessModel model;
  private final Catalogue known;
  private final Faults faults;

  StatementCheck(AccessModel model, Catalogue known, Faults faults) {
    this.model = model;
    this.known = known;
    this.faults = faults;
  }

  void run() {
    for (int i = 0; i < model.exclusions().size(); i++) {
      exclusion(model.exclusions().get(i), faults.at("$.exclusions").index(i));
    }
    for (int i = 0; i < model.expectations().size(); i++) {
      expectation(model.expectations().get(i), faults.at("$.expectations").index(i));
    }
  }

  private void permissions(List<PermissionKey> keys, Faults.Place place) {
    for (int i = 0; i < keys.size(); i++) {
      place
          .index(i)
          .requireKnown(known.permissions().containsKey(keys.get(i)), "permission", keys.get(i));
    }
  }

  private void exclusion(Exclusion it, Faults.Place place) {
    if (it.account() != null) {
      place
          .field("account")
          .requireKnown(known.accounts().containsKey(it.account()), "account", it.account());
    }
    for (int side = 0; side < it.sides().size(); side++) {
      permissions(it.sides().get(side), place.field("sides").index(side));
    }
    if (it.atMost() < 0) {
      place.field("atMost").report("atMost is " + it.atMost(), "Use zero or more");
    }
    for (int i = 0; i < it.exempt().size(); i++) {
      PrincipalKey principal = it.exempt().get(i).principal();
      place
          .field("exempt")
          .index(i)
          .field("principal")
          .requireKnown(known.principals().containsKey(principal), "principal", principal);
    }
  }

  private void expectation(Expectation it, Faults.Place place) {
    if (it.account() != null) {
      place
          .field("account")
          .requireKnown(known.accounts().containsKey(it.account()), "account", it.account());
    }
    for (int i = 0; i < it.subjects().size(); i++) {
      Refs.subject(it.subjects().get(i), known, place.field("subjects").index(i));
    }
    permissions(it.permissions(), place.field("permissions"));
    new ScopeCheck(known).check(it.scope(), place.field("scope"));
    for (int i = 0; i < it.scope().size(); i++) {
      if (it.scope().get(i).relative()) {
        place
            .field("scope")
            .index(i)
            .report(
                "an expectation's scope has a relative term",
                "Name the place itself instead of 'own', 'self' or 'team'");
      }
    }
    boolean counts = it.form() == Expectation.Form.COUNT;
    if (counts && !it.subjects().isEmpty()) {
      place.field("subjects").report("the form 'count' takes no subjects", "Remove them");
    }
    if (!counts && (it.min() != null || it.max() != null)) {
      place
          .field(it.min() != null ? "min" : "max")
          .report("only the form 'count' takes min and max", "Remove it, or use 'count'");
    }
    RightsCheck.bounds(it.min(), "min", it.max(), "max", place);
  }
}
