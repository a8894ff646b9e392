package mandala.core.review;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.change.Removal;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.UnitKey;

/**
 * Something that a review asks about: it can be removed.
 *
 * @param about whose access it is: a principal, or the group, role, pattern, account, bridge or
 *     exclusion that has it
 */
public record ReviewItem(Removal removal, Key about) {

  /**
   * {@return what it is known by as long as the model has it}: unique in a model, one line
   *
   * @throws IllegalArgumentException if such a removal is nothing that a review asks about
   */
  public String id() {
    return switch (removal) {
      case Removal.Leave(GroupKey group, Group.Member.OfPrincipal(var _, PrincipalKey who)) ->
          "member " + group + " " + who;
      case Removal.Leave(GroupKey group, Group.Member.OfGroup(GroupKey inner)) ->
          "nested " + group + " " + inner;
      case Removal.LoseAttribute(GroupKey group, PrincipalKey who) ->
          "by-rule " + group + " " + who;
      case Removal.DropRule(GroupKey group) -> "rule " + group;
      case Removal.DropPattern(PrincipalKey who) -> "pattern " + who;
      case Removal.EndGuest(PrincipalKey who, AccountKey account) -> "guest " + account + " " + who;
      case Removal.Unassign(AssignmentKey key) -> "assignment " + key;
      case Removal.EndBridge(BridgeKey key) -> "bridge " + key;
      case Removal.Undelegate(DelegationKey key) -> "delegation " + key;
      case Removal.TakeFromRole(RoleKey role, PermissionKey permission) ->
          "role " + role + " " + permission;
      case Removal.DropReach(PrincipalKey who, UnitKey unit) -> "reach " + unit + " " + who;
      case Removal.Disown(Key thing, PrincipalKey owner) -> "owner " + thing + " " + owner;
      case Removal.EndExemption(ExclusionKey exclusion, PrincipalKey who) ->
          "exempt " + exclusion + " " + who;
      case Removal.OutOfRole _, Removal.OutOfSet _ ->
          throw new IllegalArgumentException("Reviews do not ask about " + removal);
    };
  }

  /** {@return whose access it is}, empty where several people's */
  public Optional<PrincipalKey> whose() {
    return about instanceof PrincipalKey key ? Optional.of(key) : Optional.empty();
  }

  /** {@return who may not decide about it}: those whom it gives something */
  public Set<PrincipalKey> parties(Catalogue in) {
    Set<PrincipalKey> parties = whose().stream().collect(Collectors.toSet());
    if (removal instanceof Removal.Undelegate(DelegationKey key)) {
      Delegation it = in.delegations().get(key);
      if (it != null) {
        parties.add(it.principal());
        parties.add(it.delegate());
      }
    }
    return parties;
  }

  /** {@return whether a model has it} */
  public boolean isIn(Catalogue catalogue) {
    return !removal.in(catalogue).isEmpty();
  }

  /**
   * {@return the facts that make it what it is}: while they stay the same, what was decided about
   * it is about the same thing
   *
   * @param items of the same model
   */
  public String facts(ReviewItems items) {
    Catalogue catalogue = items.catalogue();
    return switch (removal) {
      case Removal.Leave(GroupKey group, var _) -> items.facts(group);
      case Removal.LoseAttribute(GroupKey group, var _) -> items.facts(group);
      case Removal.DropRule(GroupKey group) ->
          Optional.ofNullable(catalogue.groups().get(group)).map(Group::rule)
              + " "
              + items.facts(group);
      case Removal.Unassign(AssignmentKey key) -> String.valueOf(catalogue.assignments().get(key));
      case Removal.EndBridge(BridgeKey key) -> String.valueOf(catalogue.bridges().get(key));
      case Removal.Undelegate(DelegationKey key) ->
          String.valueOf(catalogue.delegations().get(key));
      case Removal.EndGuest(PrincipalKey who, AccountKey account) -> {
        int number = catalogue.principals().number(who);
        List<Guest> guests = number < 0 ? List.of() : catalogue.links().guests(number);
        yield guests.stream().filter(it -> it.account().equals(account)).toList().toString();
      }
      default -> id();
    };
  }
}
