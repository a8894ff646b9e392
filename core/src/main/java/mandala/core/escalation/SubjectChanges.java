package mandala.core.escalation;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.model.Group;
import mandala.core.model.Principal;
import mandala.core.model.Rule;
import mandala.core.model.Subject;
import mandala.core.model.Unit;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.UnitKey;
import mandala.core.rule.GroupRules;
import org.jspecify.annotations.Nullable;

/** How somebody comes to have a subject: joins a group, fits its rule, takes a pattern, visits. */
final class SubjectChanges {

  private final CandidateChanges candidates;
  private final Principal who;

  SubjectChanges(CandidateChanges candidates) {
    this.candidates = candidates;
    this.who = candidates.who;
  }

  /** {@return changes of which each may be enough}, none where nothing is */
  List<Change> toHave(Subject subject) {
    return switch (subject) {
      case Subject.OfGroup(GroupKey key) -> joining(key);
      case Subject.OfPattern(PatternKey key) ->
          CandidateChanges.altered(who, it -> Rewritten.pattern(it, key));
      case Subject.OfAccount(AccountKey key) -> List.of(candidates.guest(key));
      case Subject.OfPrincipal _, Subject.Public _ -> List.of();
    };
  }

  /** {@return how all units are reached in full that are reached for viewing only} */
  List<Change> reaching() {
    List<Change> changes = new ArrayList<>();
    for (Principal.Reach reach : who.reach()) {
      changes.addAll(CandidateChanges.altered(who, it -> Rewritten.reaching(it, reach.unit())));
    }
    return changes;
  }

  /** A group is joined itself, or by way of any that it holds. */
  private List<Change> joining(GroupKey key) {
    Group.Member member = new Group.Member.OfPrincipal(who.kind(), who.key());
    List<Change> changes = new ArrayList<>();
    for (Group group : heldBy(key)) {
      boolean listed = group.members().contains(member);
      changes.addAll(
          CandidateChanges.altered(
              group, it -> Rewritten.active(listed ? it : Rewritten.with(it, member))));
      Rule rule = group.rule();
      if (rule != null
          && !group.retired()
          && (who.account().equals(group.account())
              || candidates.has(new Subject.OfAccount(group.account())))) {
        fitting(rule).forEach(changes::add);
      }
    }
    return changes;
  }

  private Set<Group> heldBy(GroupKey key) {
    Set<Group> groups = new LinkedHashSet<>();
    List<GroupKey> open = new ArrayList<>(List.of(key));
    while (!open.isEmpty()) {
      Group group = candidates.catalogue.groups().get(open.removeLast());
      if (group != null && groups.add(group)) {
        for (Group.Member member : group.members()) {
          if (member instanceof Group.Member.OfGroup(GroupKey inner)) {
            open.add(inner);
          }
        }
      }
    }
    return groups;
  }

  /** One's own facts are changed until a rule takes one in. */
  private List<Change> fitting(Rule rule) {
    List<Principal> tried = new ArrayList<>();
    if (rule.match() == Rule.Match.ANY) {
      rule.tests().forEach(test -> tried.add(passing(who, test)));
    } else {
      Principal it = who;
      for (Rule.Test test : rule.tests()) {
        it = passing(it, test);
      }
      tried.add(it);
    }
    return tried.stream()
        .filter(it -> !it.equals(who) && GroupRules.passes(rule, it, candidates.catalogue))
        .map(it -> (Change) new Change.Altered(who, it))
        .toList();
  }

  /** The principal with a fact that passes a test, as it is where no fact of its own can. */
  private Principal passing(Principal it, Rule.Test test) {
    String wanted =
        switch (test.op()) {
          case IS, IN, STARTS_WITH, UNDER -> test.values().getFirst();
          case IS_NOT -> test.values().getFirst() + "-not";
          case PRESENT -> "yes";
          case ABSENT -> null;
        };
    return switch (test.attribute()) {
      case "unit" -> Rewritten.facts(it, unit(wanted), it.manager(), it.attributes());
      case "manager" -> Rewritten.facts(it, it.unit(), manager(wanted), it.attributes());
      case "kind", "account", "status" -> it;
      default -> {
        Map<String, String> attributes = new HashMap<>(it.attributes());
        if (wanted == null) {
          attributes.remove(test.attribute());
        } else {
          attributes.put(test.attribute(), wanted);
        }
        yield Rewritten.facts(it, it.unit(), it.manager(), attributes);
      }
    };
  }

  private @Nullable UnitKey unit(@Nullable String key) {
    Unit unit = key == null ? null : candidates.catalogue.units().get(new UnitKey(key));
    return unit == null ? null : unit.key();
  }

  private @Nullable PrincipalKey manager(@Nullable String key) {
    Principal it =
        key == null ? null : candidates.catalogue.principals().get(new PrincipalKey(key));
    return it == null ? null : it.key();
  }

  /**
   * {@return the groups on the paths by which somebody has a subject}, the group itself included
   */
  List<Group> waysTo(GroupKey key) {
    return heldBy(key).stream()
        .filter(it -> candidates.has(new Subject.OfGroup(it.key())))
        .toList();
  }

  /** {@return whether a group lists the principal} */
  boolean lists(Group group) {
    int number = candidates.catalogue.principals().require(who.key());
    return Arrays.stream(candidates.catalogue.links().listing(number))
        .anyMatch(it -> candidates.catalogue.groups().the(it).key().equals(group.key()));
  }
}
