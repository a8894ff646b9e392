package mandala.core.model.check;

import java.util.List;
import mandala.core.model.AccessModel;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Subject;

/** Assignments, activations, bridges and delegations (sections 1 and 4). */
final class GrantCheck {

  private final AccessModel model;
  private final Catalogue known;
  private final ScopeCheck scopes;
  private final Faults faults;

  GrantCheck(AccessModel model, Catalogue known, Faults faults) {
    this.model = model;
    this.known = known;
    this.scopes = new ScopeCheck(known);
    this.faults = faults;
  }

  void run() {
    for (int i = 0; i < model.assignments().size(); i++) {
      assignment(model.assignments().get(i), faults.at("$.assignments").index(i));
    }
    for (int i = 0; i < model.activations().size(); i++) {
      activation(model.activations().get(i), faults.at("$.activations").index(i));
    }
    for (int i = 0; i < model.bridges().size(); i++) {
      bridge(model.bridges().get(i), faults.at("$.bridges").index(i));
    }
    for (int i = 0; i < model.delegations().size(); i++) {
      delegation(model.delegations().get(i), faults.at("$.delegations").index(i));
    }
  }

  private void assignment(Assignment it, Faults.Place place) {
    Refs.subject(it.subject(), known, place.field("subject"));
    Refs.gives(it.gives(), known, place.field("gives"));
    DirectoryCheck.window(it.window(), place);
    scopes.check(it.scope(), place.field("scope"));
    scopes.check(it.viewScope(), place.field("viewScope"));
    if (it.effect() == Assignment.Effect.DENY) {
      if (!(it.gives() instanceof Gives.OfPermission)) {
        place
            .field("effect")
            .report(
                "a role or a set cannot be denied as a whole",
                "Deny single permissions, or assign a set that denies");
      }
      if (!it.viewScope().isEmpty()) {
        place.field("viewScope").report("a deny can't have a view scope", "Remove one of the two");
      }
    }
    if (it.subject() instanceof Subject.Public) {
      publicScope(it.scope(), place.field("scope"));
      publicScope(it.viewScope(), place.field("viewScope"));
    }
  }

  private static void publicScope(List<Clause> scope, Faults.Place place) {
    for (int i = 0; i < scope.size(); i++) {
      if (!ScopeCheck.namesAPlace(scope.get(i))) {
        place
            .index(i)
            .report(
                "a clause for a public subject names no place",
                "Add one of 'account' (not own), 'tree', 'only' or 'collection'");
      }
    }
  }

  private void activation(Activation it, Faults.Place place) {
    place
        .field("principal")
        .requireKnown(known.principals().containsKey(it.principal()), "principal", it.principal());
    Assignment assignment = known.assignments().get(it.assignment());
    place.field("assignment").requireKnown(assignment != null, "assignment", it.assignment());
    if (assignment != null && assignment.mode() != Assignment.Mode.JUST_IN_TIME) {
      place
          .field("assignment")
          .report(
              "the assignment '" + it.assignment() + "' is standing",
              "Only a just-in-time assignment can be activated; remove the activation");
    }
    if (it.window().until() == null) {
      place.field("until").report("an activation has no end", "Say until when it holds");
    }
    DirectoryCheck.window(it.window(), place);
  }

  private void bridge(Bridge it, Faults.Place place) {
    place
        .field("account")
        .requireKnown(known.accounts().containsKey(it.account()), "account", it.account());
    Group group = known.groups().get(it.group());
    place.field("group").requireKnown(group != null, "group", it.group());
    if (group != null && group.account().equals(it.account())) {
      place
          .field("account")
          .report(
              "the bridge leads from account '" + it.account() + "' to itself",
              "Name another target account, or a group of another account");
    }
    Refs.gives(it.gives(), known, place.field("gives"));
    DirectoryCheck.window(it.window(), place);
    scopes.check(it.scope(), place.field("scope"));
  }

  private void delegation(Delegation it, Faults.Place place) {
    place
        .field("principal")
        .requireKnown(known.principals().containsKey(it.principal()), "principal", it.principal());
    place
        .field("delegate")
        .requireKnown(known.principals().containsKey(it.delegate()), "principal", it.delegate());
    if (it.principal().equals(it.delegate())) {
      place
          .field("delegate")
          .report("'" + it.delegate() + "' would act for itself", "Name another delegate");
    }
    if (it.limit() instanceof Delegation.Limit.Listed(List<Gives> listed)) {
      for (int i = 0; i < listed.size(); i++) {
        Refs.gives(listed.get(i), known, place.field("limit").index(i));
      }
    }
    DirectoryCheck.window(it.window(), place);
    scopes.check(it.scope(), place.field("scope"));
  }
}
