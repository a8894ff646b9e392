package mandala.core.model.check;

import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Pattern;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceCollection;
import mandala.core.model.Rule;
import mandala.core.model.Unit;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;

/**
 * Accounts, units, people, groups and resources: their references and values (sections 1 and 2).
 */
final class DirectoryCheck {

  private static final Set<String> REFERENCES = Set.of("unit", "manager", "account");

  private final AccessModel model;
  private final Catalogue known;
  private final Faults faults;

  DirectoryCheck(AccessModel model, Catalogue known, Faults faults) {
    this.model = model;
    this.known = known;
    this.faults = faults;
  }

  void run() {
    for (int i = 0; i < model.accounts().size(); i++) {
      account(model.accounts().get(i), faults.at("$.accounts").index(i));
    }
    for (int i = 0; i < model.units().size(); i++) {
      unit(model.units().get(i), faults.at("$.units").index(i));
    }
    for (int i = 0; i < model.patterns().size(); i++) {
      pattern(model.patterns().get(i), faults.at("$.patterns").index(i));
    }
    for (int i = 0; i < model.principals().size(); i++) {
      principal(model.principals().get(i), faults.at("$.principals").index(i));
    }
    emails();
    for (int i = 0; i < model.guests().size(); i++) {
      guest(model.guests().get(i), faults.at("$.guests").index(i));
    }
    for (int i = 0; i < model.groups().size(); i++) {
      group(model.groups().get(i), faults.at("$.groups").index(i));
    }
    for (int i = 0; i < model.resources().size(); i++) {
      resource(model.resources().get(i), faults.at("$.resources").index(i));
    }
    for (int i = 0; i < model.collections().size(); i++) {
      collection(model.collections().get(i), faults.at("$.collections").index(i));
    }
  }

  static void window(Window window, Faults.Place place) {
    if (window.from() != null
        && window.until() != null
        && !window.from().isBefore(window.until())) {
      place
          .field("until")
          .report(
              "the window ends at " + window.until() + ", not after it begins at " + window.from(),
              "Move 'until' after 'from'");
    }
  }

  private void account(@Nullable AccountKey key, Faults.Place place) {
    if (key != null) {
      place.requireKnown(known.accounts().containsKey(key), "account", key);
    }
  }

  private void account(Account account, Faults.Place place) {
    account(account.parent(), place.field("parent"));
    if (account.parent() == null && account.suspended()) {
      place
          .field("status")
          .report(
              "the root account '" + account.key() + "' is suspended",
              "Suspend an account below it, or set it active");
    }
  }

  private void unit(Unit unit, Faults.Place place) {
    account(unit.account(), place.field("account"));
    if (unit.parent() != null) {
      unitOf(unit.parent(), unit.account(), place.field("parent"));
    }
  }

  /** A unit that must be one of an account's. */
  private void unitOf(UnitKey key, AccountKey account, Faults.Place place) {
    Unit unit = known.units().get(key);
    place.requireKnown(unit != null, "unit", key);
    if (unit != null && !unit.account().equals(account)) {
      place.report(
          "the unit '" + key + "' is of account '" + unit.account() + "', not '" + account + "'",
          "Name a unit of '" + account + "'");
    }
  }

  private void principal(@Nullable PrincipalKey key, Faults.Place place) {
    if (key != null) {
      place.requireKnown(known.principals().containsKey(key), "principal", key);
    }
  }

  private void pattern(Pattern pattern, Faults.Place place) {
    account(pattern.account(), place.field("account"));
    Refs.principals(pattern.owners(), known, place.field("owners"));
  }

  /** Who answers for a service or a guest is a person. */
  private void sponsor(@Nullable PrincipalKey key, Faults.Place place) {
    if (key != null) {
      Refs.principal(Principal.Kind.PERSON, key, known, place.field("sponsor"));
    }
  }

  /** No two principals have the same e-mail address, whatever the case of its letters. */
  private void emails() {
    Map<String, Integer> first = new HashMap<>();
    for (int i = 0; i < model.principals().size(); i++) {
      String email = model.principals().get(i).email();
      if (email == null) {
        continue;
      }
      Faults.Place place = faults.at("$.principals").index(i).field("email");
      Integer before = first.putIfAbsent(folded(email), i);
      if (before != null) {
        place.report(
            "the e-mail address '" + email + "' is taken by $.principals[" + before + "]",
            "Give each principal an address of its own");
      }
    }
    if (first.isEmpty() || model.principals().size() == known.principals().size()) {
      return;
    }
    for (Principal other : known.principals().values()) {
      Integer at = other.email() == null ? null : first.get(folded(other.email()));
      if (at != null && !model.principals().get(at).key().equals(other.key())) {
        faults
            .at("$.principals")
            .index(at)
            .field("email")
            .report(
                "the e-mail address '" + other.email() + "' is taken by another principal",
                "Give each principal an address of its own");
      }
    }
  }

  private static String folded(String email) {
    return email.strip().toLowerCase(Locale.ROOT);
  }

  private void principal(Principal principal, Faults.Place place) {
    account(principal.account(), place.field("account"));
    if (principal.unit() != null) {
      unitOf(principal.unit(), principal.account(), place.field("unit"));
    }
    principal(principal.manager(), place.field("manager"));
    sponsor(principal.sponsor(), place);
    if (principal.sponsor() != null && principal.kind() == Principal.Kind.PERSON) {
      place
          .field("sponsor")
          .report("a person has a sponsor", "Name a manager; a sponsor answers for a service");
    }
    window(principal.window(), place);
    for (String name : principal.attributes().keySet()) {
      if (Rule.FIELDS.contains(name)) {
        place
            .field("attributes")
            .field(name)
            .report(
                "no attribute may be called '" + name + "', which always means the field",
                "Rename the attribute");
      }
    }
    if (principal.pattern() != null) {
      place
          .field("pattern")
          .requireKnown(
              known.patterns().containsKey(principal.pattern()), "pattern", principal.pattern());
    }
    for (int i = 0; i < principal.reach().size(); i++) {
      UnitKey unit = principal.reach().get(i).unit();
      place
          .field("reach")
          .index(i)
          .field("unit")
          .requireKnown(known.units().containsKey(unit), "unit", unit);
    }
  }

  private void guest(Guest guest, Faults.Place place) {
    principal(guest.principal(), place.field("principal"));
    account(guest.account(), place.field("account"));
    window(guest.window(), place);
    sponsor(guest.sponsor(), place);
  }

  private void group(Group group, Faults.Place place) {
    account(group.account(), place.field("account"));
    for (int i = 0; i < group.members().size(); i++) {
      Faults.Place member = place.field("members").index(i);
      switch (group.members().get(i)) {
        case Group.Member.OfPrincipal(Principal.Kind kind, PrincipalKey key) ->
            Refs.principal(kind, key, known, member);
        case Group.Member.OfGroup(GroupKey key) ->
            member.requireKnown(known.groups().containsKey(key), "group", key);
      }
    }
    Refs.principals(group.owners(), known, place.field("owners"));
    if (group.rule() != null) {
      rule(group.rule(), place.field("rule"));
    }
  }

  private void rule(Rule rule, Faults.Place place) {
    Faults.Place tests = place.field(rule.match() == Rule.Match.ALL ? "all" : "any");
    if (rule.tests().isEmpty()) {
      tests.report("the rule has no test", "Give at least one test, or leave the rule out");
    }
    for (int i = 0; i < rule.tests().size(); i++) {
      test(rule.tests().get(i), tests.index(i));
    }
  }

  private void test(Rule.Test test, Faults.Place place) {
    if (test.attribute().isEmpty()) {
      place.field("attribute").report("the attribute has no name", "Name a field or an attribute");
    }
    if (test.op() == Rule.Op.UNDER && !test.attribute().equals("unit")) {
      place
          .field("op")
          .report("'under' is only for 'unit'", "Use another test for '" + test.attribute() + "'");
    }
    if (test.op() == Rule.Op.IN && test.values().isEmpty()) {
      place.field("value").report("the list of values is empty", "Give at least one value");
    }
    if (test.op() == Rule.Op.STARTS_WITH) {
      return;
    }
    for (int i = 0; i < test.values().size(); i++) {
      String value = test.values().get(i);
      Faults.Place at =
          test.op() == Rule.Op.IN ? place.field("value").index(i) : place.field("value");
      reference(test.attribute(), value, at);
    }
  }

  private void reference(String attribute, String value, Faults.Place at) {
    if (value.isBlank() && REFERENCES.contains(attribute)) {
      at.report("the reference is blank", "Name a " + attribute);
      return;
    }
    switch (attribute) {
      case "unit" -> at.requireKnown(known.units().containsKey(new UnitKey(value)), "unit", value);
      case "manager" ->
          at.requireKnown(
              known.principals().containsKey(new PrincipalKey(value)), "principal", value);
      case "account" ->
          at.requireKnown(known.accounts().containsKey(new AccountKey(value)), "account", value);
      default -> {
        // an attribute's values are free
      }
    }
  }

  private void resource(Resource resource, Faults.Place place) {
    place
        .field("type")
        .requireKnown(known.types().contains(resource.type()), "resource type", resource.type());
    account(resource.account(), place.field("account"));
    principal(resource.owner(), place.field("owner"));
    if (resource.unit() != null) {
      unitOf(resource.unit(), resource.account(), place.field("unit"));
    }
    if (resource.parent() != null) {
      parent(resource, resource.parent(), place.field("parent"));
    }
  }

  private void parent(Resource resource, ResourceKey parent, Faults.Place place) {
    if (parent.value().startsWith("group:")) {
      place.report("a group cannot hold resources", "Name a resource, a unit, or nothing");
      return;
    }
    AccountKey account = known.accountOf(parent);
    place.requireKnown(account != null, "resource", parent);
    if (account != null && !Objects.equals(account, resource.account())) {
      place.report(
          "the parent '"
              + parent
              + "' is in account '"
              + account
              + "', not '"
              + resource.account()
              + "'",
          "A resource and its parent are in one account; move one of them");
    }
  }

  private void collection(ResourceCollection collection, Faults.Place place) {
    account(collection.account(), place.field("account"));
    List<ResourceKey> members = collection.members();
    for (int i = 0; i < members.size(); i++) {
      Faults.Place member = place.field("members").index(i);
      AccountKey account = known.accountOf(members.get(i));
      member.requireKnown(account != null, "resource", members.get(i));
      if (account != null && !account.equals(collection.account())) {
        member.report(
            "'"
                + members.get(i)
                + "' is in account '"
                + account
                + "', not '"
                + collection.account()
                + "'",
            "A collection lists resources of its own account only");
      }
    }
  }
}
