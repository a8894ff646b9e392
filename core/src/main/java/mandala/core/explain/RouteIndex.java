package mandala.core.explain;

import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import mandala.core.engine.Engine;
import mandala.core.evaluate.CandidateGrants;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Subject;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;

/** What is looked up on the way. Immutable. */
final class RouteIndex {

  private final Engine engine;
  private final Catalogue catalogue;

  RouteIndex(Engine engine) {
    this.engine = engine;
    this.catalogue = engine.catalogue();
  }

  Catalogue catalogue() {
    return catalogue;
  }

  /** {@return what may bear on a permission on a resource} */
  CandidateGrants bearing(
      Collection<Subject> subjects, PermissionKey permission, ResourceKey resource) {
    return engine.bearing(subjects, permission, resource);
  }

  /** {@return what gives it to others only} */
  CandidateGrants.Others others(
      Collection<Subject> subjects, PermissionKey permission, ResourceKey resource, int most) {
    return engine.givenToOthers(subjects, permission, resource, most);
  }

  List<Guest> guests(PrincipalKey key) {
    return catalogue.links().guests(catalogue.principals().require(key));
  }

  /** {@return the groups that list a principal} */
  List<Group> listing(PrincipalKey key) {
    return groups(catalogue.links().listing(catalogue.principals().require(key)));
  }

  /** {@return the groups that list a group} */
  List<Group> nesting(GroupKey key) {
    return groups(catalogue.links().nesting(catalogue.groups().require(key)));
  }

  /** {@return the groups of an account that have a rule} */
  List<Group> ruled(AccountKey key) {
    return groups(catalogue.links().ruled(catalogue.accounts().require(key)));
  }

  private List<Group> groups(int[] numbers) {
    return Arrays.stream(numbers).mapToObj(catalogue.groups()::the).toList();
  }

  /** {@return the delegations in which a principal is acted for} */
  List<Delegation> delegations(PrincipalKey key) {
    return catalogue.links().delegations(catalogue.principals().require(key));
  }

  /** {@return the account in which a known resource lies} */
  AccountKey accountOf(ResourceKey resource) {
    AccountKey account = catalogue.accountOf(resource);
    if (account == null) {
      throw new IllegalStateException("Impossible state: no account for " + resource);
    }
    return account;
  }
}
