package mandala.core.detect;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;
import mandala.core.excess.InBatches;
import mandala.core.model.Assignment;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Impact;
import mandala.core.question.ScopeReach;
import mandala.core.rule.Exposure;
import mandala.core.shrink.Contents;
import org.jspecify.annotations.Nullable;

/** Assignments beside what is needed of them: by nobody, in fewer places, of fewer permissions. */
final class AssignmentUse {

  /** Maximum number of days on which a critical permission is used rarely. */
  static final int FEW_DAYS = 3;

  /** Minimum ratio of places covered to places used below which a scope is not too wide. */
  static final int TIMES = 2;

  private final Basis basis;
  private final Consumer<Detection> found;

  private AssignmentUse(Basis basis, Consumer<Detection> found) {
    this.basis = basis;
    this.found = found;
  }

  static void search(Basis basis, Consumer<Detection> found, Impact.Watch watch) {
    AssignmentUse search = new AssignmentUse(basis, found);
    if (basis.observes()) {
      InBatches.of(
          basis.catalogue.assignments().values().stream().filter(basis::stands).toList(),
          Basis.BATCH,
          watch,
          some -> some.forEach(search::judge));
    }
  }

  private void judge(Assignment it) {
    List<Principal> holders = basis.holders(it);
    if (holders.isEmpty()) {
      return;
    }
    AssignmentNeeds.Needed needs = basis.needs.of(it);
    Given given = basis.given(it);
    List<Clause> scopes = Basis.scopes(it);
    if (needs == null) {
      if (basis.verdicts.allowed(it)) {
        long weight =
            scopes.stream().anyMatch(Clause::relative)
                ? given.permissions.stream().mapToLong(key -> Exposure.of(basis.risk(key))).sum()
                : given.reach.of(scopes, null, 0).exposure();
        found.accept(
            basis.ofHolders(
                it,
                new Trouble.UnusedAssignment(it.key(), holders.size()),
                given.risk,
                holders.size() * weight));
      }
      return; // else it gives nothing
    }
    ScopeReach reach = given.reach.of(scopes, null, 0);
    scope(it, needs, scopes, given, reach);
    role(it, needs, given, reach);
    rare(it, needs);
  }

  private void scope(
      Assignment it,
      AssignmentNeeds.Needed needs,
      List<Clause> scopes,
      Given given,
      ScopeReach reach) {
    if (scopes.stream().anyMatch(Clause::relative)) {
      return; // what it covers is another for everybody
    }
    ResourceKey narrowest =
        shared(basis.study.resource(needs.first()), basis.study.resource(needs.last()));
    if (narrowest == null) {
      return;
    }
    ScopeReach inside = given.reach.of(scopes, narrowest, 0);
    if (inside.places() > 0 && inside.places() * TIMES <= reach.places()) {
      found.accept(
          basis.ofHolders(
              it,
              new Trouble.ScopeWiderThanUse(it.key(), narrowest, inside.places(), reach.places()),
              given.risk,
              reach.exposure() - inside.exposure()));
    }
  }

  /** The lowest place that is above two others, or one of them. */
  private @Nullable ResourceKey shared(ResourceKey one, ResourceKey two) {
    Set<ResourceKey> above = new HashSet<>();
    for (ResourceKey at = one; at != null; at = basis.catalogue.parentOf(at)) {
      above.add(at);
    }
    for (ResourceKey at = two; at != null; at = basis.catalogue.parentOf(at)) {
      if (above.contains(at)) {
        return at;
      }
    }
    return null;
  }

  private void role(Assignment it, AssignmentNeeds.Needed needs, Given given, ScopeReach reach) {
    Contents.Content whole = given.content;
    if (!whole.deny().isEmpty()) {
      return;
    }
    Set<PermissionKey> wanted = new HashSet<>();
    needs.permissions().stream().forEach(p -> wanted.add(basis.study.permission(p).key()));
    AccountKey owner = Contents.ownerOf(it.gives(), basis.catalogue);
    Gives smaller =
        basis.lesser(whole).stream()
            .filter(each -> suffices(basis.given(each).content, whole, wanted))
            .filter(each -> {
              AccountKey of = Contents.ownerOf(each, basis.catalogue);
              return of == null || of.equals(owner);
            })
            .findFirst()
            .orElse(null);
    if (smaller != null) {
      Set<PermissionKey> spare = new HashSet<>(given.permissions);
      spare.removeAll(basis.given(smaller).permissions);
      found.accept(
          basis.ofHolders(
              it,
              new Trouble.RoleWiderThanUse(
                  it.key(), smaller, wanted.size(), given.permissions.size()),
              basis.risk(spare),
              reach.exposure()));
    }
  }

  private static boolean suffices(
      Contents.Content less, Contents.Content whole, Set<PermissionKey> wanted) {
    return wanted.stream()
        .allMatch(key -> whole.free().contains(key) ? less.free().contains(key) : less.allows(key));
  }

  private void rare(Assignment it, AssignmentNeeds.Needed needs) {
    AssignmentNeeds.Days often = needs.often();
    if (often != null
        && often.days() <= FEW_DAYS
        && it.window().until() == null
        && it.subject() instanceof Subject.OfPrincipal(var kind, PrincipalKey who)
        && kind == Principal.Kind.PERSON) {
      AssignmentKey key = it.key();
      found.accept(
          Detection.of(
              who,
              new Trouble.StandingCritical(
                  key,
                  who,
                  basis.study.permission(often.permission()).key(),
                  often.days(),
                  often.last()),
              Permission.Risk.CRITICAL,
              1));
    }
  }
}
