package mandala.core.detect;

import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Consumer;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import org.jspecify.annotations.Nullable;

/** People who left and still answer, guests without an end, and what nobody answers for. */
final class PeopleSearch {

  private final Basis basis;
  private final Catalogue catalogue;
  private final Consumer<Detection> found;

  private PeopleSearch(Basis basis, Consumer<Detection> found) {
    this.basis = basis;
    catalogue = basis.catalogue;
    this.found = found;
  }

  static void search(Basis basis, Consumer<Detection> found) {
    PeopleSearch search = new PeopleSearch(basis, found);
    search.whoStillAnswers();
    search.guests();
    search.managers();
    search.owners();
    search.services();
  }

  // ---- who still answers ------------------------------------------------------------------------

  /** What hangs on somebody. */
  private static final class Ties {
    int assignments;
    int groups;
    int owned;
    int reports;
    Permission.Risk risk = Permission.Risk.LOW;

    void holds(Permission.Risk what) {
      assignments++;
      risk = what.compareTo(risk) > 0 ? what : risk;
    }

    boolean any() {
      return assignments + groups + owned + reports > 0;
    }
  }

  private void whoStillAnswers() {
    Map<PrincipalKey, Ties> gone = new HashMap<>();
    for (Principal it : catalogue.principals().values()) {
      if (it.status() == Principal.Status.LEFT || it.status() == Principal.Status.SUSPENDED) {
        gone.put(it.key(), new Ties());
      }
    }
    if (gone.isEmpty()) {
      return;
    }
    for (Assignment it : catalogue.assignments().values()) {
      boolean over = it.window().until() != null && !it.window().until().isAfter(basis.at);
      if (!over
          && it.effect() == Assignment.Effect.ALLOW
          && it.subject() instanceof Subject.OfPrincipal(var _, PrincipalKey key)) {
        tie(gone, key, ties -> ties.holds(basis.given(it).risk));
      }
    }
    for (Group it : catalogue.groups().values()) {
      for (Group.Member member : it.members()) {
        if (!it.retired() && member instanceof Group.Member.OfPrincipal(var _, PrincipalKey key)) {
          tie(gone, key, ties -> ties.groups++);
        }
      }
      it.owners().forEach(owner -> own(gone, owner));
    }
    catalogue.roles().values().forEach(it -> it.owners().forEach(owner -> own(gone, owner)));
    catalogue.patterns().values().forEach(it -> it.owners().forEach(owner -> own(gone, owner)));
    catalogue.resources().values().forEach(it -> own(gone, it.owner()));
    catalogue.guests().forEach(it -> own(gone, it.sponsor()));
    for (Principal it : catalogue.principals().values()) {
      own(gone, it.sponsor());
      if (basis.isLiving(it.key())) {
        tie(gone, it.manager(), ties -> ties.reports++);
      }
    }
    gone.forEach((key, ties) -> {
      if (ties.any()) {
        Principal who = Objects.requireNonNull(catalogue.principals().get(key));
        boolean left = who.status() == Principal.Status.LEFT;
        Permission.Risk answers =
            ties.owned + ties.reports > 0 ? Permission.Risk.MODERATE : Permission.Risk.LOW;
        found.accept(
            Detection.of(
                key,
                new Trouble.StillAnswers(
                    key, left, ties.assignments, ties.groups, ties.owned, ties.reports),
                ties.risk.compareTo(answers) > 0 ? ties.risk : answers,
                ties.assignments + ties.groups + ties.owned + ties.reports));
      }
    });
  }

  private static void own(Map<PrincipalKey, Ties> gone, @Nullable PrincipalKey owner) {
    tie(gone, owner, ties -> ties.owned++);
  }

  private static void tie(
      Map<PrincipalKey, Ties> gone, @Nullable PrincipalKey who, Consumer<Ties> tie) {
    Ties ties = who == null ? null : gone.get(who);
    if (ties != null) {
      tie.accept(ties);
    }
  }

  // ---- guests -----------------------------------------------------------------------------------

  private void guests() {
    for (Guest it : catalogue.guests()) {
      if (it.window().until() == null
          && it.window().holdsAt(basis.at)
          && basis.engine.isActive(it.principal(), basis.at)) {
        found.accept(
            Detection.ofGuest(
                it.principal(),
                Set.of(it.account()),
                new Trouble.GuestWithoutEnd(it.principal(), it.account()),
                Permission.Risk.MODERATE,
                1));
      }
    }
  }

  // ---- who answers ------------------------------------------------------------------------------

  private void managers() {
    Set<PrincipalKey> managers = new HashSet<>();
    for (Principal it : catalogue.principals().values()) {
      if (it.manager() != null && basis.isActive(it)) {
        managers.add(it.manager());
      }
    }
    for (Principal it : catalogue.principals().values()) {
      PrincipalKey manager = it.manager();
      boolean top = manager == null && managers.contains(it.key());
      if (it.kind() == Principal.Kind.PERSON
          && basis.isActive(it)
          && !top
          && (manager == null || !basis.isLiving(manager))) {
        found.accept(
            Detection.of(
                it.key(), new Trouble.NoManager(it.key(), manager), Permission.Risk.LOW, 1));
      }
    }
  }

  private void owners() {
    for (Group it : catalogue.groups().values()) {
      if (!it.retired() && it.owners().stream().noneMatch(basis::isLiving)) {
        owner(it.key(), it.owners().isEmpty() ? null : it.owners().getFirst());
      }
    }
    for (Principal it : catalogue.principals().values()) {
      if (it.kind() == Principal.Kind.SERVICE
          && basis.isActive(it)
          && (it.sponsor() == null || !basis.isLiving(it.sponsor()))) {
        owner(it.key(), it.sponsor());
      }
    }
    for (Resource it : catalogue.resources().values()) {
      if (it.owner() != null && !basis.isLiving(it.owner())) {
        owner(it.key(), it.owner());
      }
    }
  }

  private void owner(Key thing, @Nullable PrincipalKey owner) {
    found.accept(
        Detection.of(
            owner == null ? Set.of() : Set.of(owner),
            new Trouble.NoLivingOwner(thing, owner),
            owner == null ? Permission.Risk.LOW : Permission.Risk.MODERATE,
            1));
  }

  // ---- services ---------------------------------------------------------------------------------

  private void services() {
    Map<RoleKey, Integer> ofPersons =
        basis.engine.roleUse(basis.at, it -> it.kind() == Principal.Kind.PERSON);
    for (Principal it : catalogue.principals().values()) {
      if (it.kind() == Principal.Kind.SERVICE && basis.isActive(it)) {
        for (RoleKey role : basis.engine.rolesHeld(it.key(), basis.at)) {
          Role held = catalogue.roles().get(role);
          if (held != null && !held.retired() && ofPersons.containsKey(role)) {
            found.accept(
                Detection.of(
                    it.key(),
                    new Trouble.ServiceWithPersonsRole(it.key(), role),
                    basis.given(new Gives.OfRole(role)).risk,
                    1));
          }
        }
      }
    }
  }
}
