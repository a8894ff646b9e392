package mandala.core.detect;

import java.time.LocalDate;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import mandala.core.excess.InBatches;
import mandala.core.excess.Use;
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
import mandala.core.shrink.Contents;
import org.jspecify.annotations.Nullable;

/** Assignments beside what is needed of them: by nobody, in fewer places, of fewer permissions. */
final class AssignmentUse {

  /** Maximum number of days on which a critical permission is used rarely. */
  static final int FEW_DAYS = 3;

  /** Minimum ratio of places covered to places used below which a scope is not too wide. */
  static final int TIMES = 2;

  private static final int BATCH = 64;

  private final Basis basis;
  private final Consumer<Detection> found;

  /** By number of the assignment: what is needed of it. */
  private final Map<Integer, Needed> needed = new HashMap<>();

  private AssignmentUse(Basis basis, Consumer<Detection> found) {
    this.basis = basis;
    this.found = found;
  }

  /** What is needed, young or not observed of what an assignment gives, to all who have it. */
  private static final class Needed {
    int first = Integer.MAX_VALUE;
    int last = -1;
    final BitSet permissions = new BitSet();

    /** The critical one that is used on the most days, and on how many; -1 for none. */
    int critical = -1;

    int days;
    LocalDate lastDay = LocalDate.MIN;

    /** Whether a critical permission must stay for another reason than use. */
    boolean demanded;

    void add(int permission, int position) {
      first = Math.min(first, position);
      last = Math.max(last, position);
      permissions.set(permission);
    }

    void add(Needed other) {
      first = Math.min(first, other.first);
      last = Math.max(last, other.last);
      permissions.or(other.permissions);
      demanded |= other.demanded;
      if (other.critical >= 0) {
        used(other.critical, other.days, other.lastDay);
      }
    }

    void used(int permission, int onDays, LocalDate on) {
      if (critical < 0 || onDays > days) {
        critical = permission;
        days = onDays;
      }
      lastDay = on.isAfter(lastDay) ? on : lastDay;
    }
  }

  static void search(Basis basis, Consumer<Detection> found, Impact.Watch watch) {
    AssignmentUse search = new AssignmentUse(basis, found);
    if (basis.observes() && search.readAll(watch)) {
      basis.catalogue.assignments().values().stream().filter(basis::stands).forEach(search::judge);
    }
  }

  // ---- what is needed ---------------------------------------------------------------------------

  private boolean readAll(Impact.Watch watch) {
    return InBatches.of(
        basis.study.everybody(),
        BATCH,
        watch,
        people -> {
          Map<Integer, Needed> some = new HashMap<>();
          people.forEach(who -> read(who, some));
          synchronized (needed) {
            some.forEach((ref, it) -> needed.computeIfAbsent(ref, _ -> new Needed()).add(it));
          }
        });
  }

  private record Right(PermissionKey permission, ResourceKey resource) {}

  private void read(PrincipalKey who, Map<Integer, Needed> into) {
    Map<Right, Use.Used> used = new HashMap<>();
    for (Use.Used it : basis.inquiry.use().of(who)) {
      if (basis.risk(it.permission()) == Permission.Risk.CRITICAL) {
        used.put(new Right(it.permission(), it.resource()), it);
      }
    }
    basis.study.eachKept(
        who,
        (permission, position, givers) -> {
          Permission it = basis.study.permission(permission);
          boolean critical = it.risk() == Permission.Risk.CRITICAL;
          Use.Used days =
              critical ? used.get(new Right(it.key(), basis.study.resource(position))) : null;
          for (int i = 0; i < givers.size(); i++) {
            if (givers.ref(i) >= 0 && givers.now(i)) {
              Needed needs = into.computeIfAbsent(givers.ref(i), _ -> new Needed());
              needs.add(permission, position);
              if (days != null) {
                needs.used(permission, days.days(), days.last());
              } else if (critical) {
                needs.demanded = true;
              }
            }
          }
        });
  }

  // ---- what follows -----------------------------------------------------------------------------

  private void judge(Assignment it) {
    List<Principal> holders = basis.holders(it);
    if (holders.isEmpty()) {
      return;
    }
    Needed needs = needed.get(basis.catalogue.assignments().number(it.key()));
    Set<PermissionKey> permissions = basis.allowed(it);
    List<Clause> scopes = Basis.scopes(it);
    ScopeReach reach = basis.engine.reach(scopes, permissions, null, 0);
    if (needs == null) {
      if (Verdicts.of(it, holders, basis).allowed()) { // else it gives nothing
        found.accept(
            basis.ofHolders(
                it,
                new Trouble.UnusedAssignment(it.key(), holders.size()),
                basis.risk(permissions),
                holders.size()
                    * (scopes.stream().anyMatch(Clause::relative)
                        ? basis.weight(permissions)
                        : reach.exposure())));
      }
      return;
    }
    scope(it, needs, scopes, permissions, reach);
    role(it, needs, permissions, reach);
    rare(it, needs);
  }

  private void scope(
      Assignment it,
      Needed needs,
      List<Clause> scopes,
      Set<PermissionKey> permissions,
      ScopeReach reach) {
    if (scopes.stream().anyMatch(Clause::relative)) {
      return; // what it covers is another for everybody
    }
    ResourceKey narrowest =
        shared(basis.study.resource(needs.first), basis.study.resource(needs.last));
    if (narrowest == null) {
      return;
    }
    ScopeReach inside = basis.engine.reach(scopes, permissions, narrowest, 0);
    if (inside.places() > 0 && inside.places() * TIMES <= reach.places()) {
      found.accept(
          basis.ofHolders(
              it,
              new Trouble.ScopeWiderThanUse(it.key(), narrowest, inside.places(), reach.places()),
              basis.risk(permissions),
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

  private void role(Assignment it, Needed needs, Set<PermissionKey> permissions, ScopeReach reach) {
    Contents.Content whole = basis.contents.of(it);
    if (!whole.deny().isEmpty()) {
      return;
    }
    Set<PermissionKey> wanted = new HashSet<>();
    needs.permissions.stream().forEach(p -> wanted.add(basis.study.permission(p).key()));
    AccountKey owner = Contents.ownerOf(it.gives(), basis.catalogue);
    Gives smaller =
        basis.contents.lesser(whole).stream()
            .filter(each -> suffices(basis.contents.of(each, false), whole, wanted))
            .filter(each -> {
              AccountKey of = Contents.ownerOf(each, basis.catalogue);
              return of == null || of.equals(owner);
            })
            .findFirst()
            .orElse(null);
    if (smaller != null) {
      Set<PermissionKey> rest = basis.allowed(smaller);
      Set<PermissionKey> spare = new HashSet<>(permissions);
      spare.removeAll(rest);
      found.accept(
          basis.ofHolders(
              it,
              new Trouble.RoleWiderThanUse(it.key(), smaller, wanted.size(), permissions.size()),
              basis.risk(spare),
              reach.exposure()));
    }
  }

  private static boolean suffices(
      Contents.Content less, Contents.Content whole, Set<PermissionKey> wanted) {
    return wanted.stream()
        .allMatch(key -> whole.free().contains(key) ? less.free().contains(key) : less.allows(key));
  }

  private void rare(Assignment it, Needed needs) {
    if (needs.critical >= 0
        && !needs.demanded
        && needs.days <= FEW_DAYS
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
                  basis.study.permission(needs.critical).key(),
                  needs.days,
                  needs.lastDay),
              Permission.Risk.CRITICAL,
              1));
    }
  }
}
