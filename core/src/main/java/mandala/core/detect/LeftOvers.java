package mandala.core.detect;

import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.function.Consumer;
import mandala.core.analysis.Peers;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.UnitKey;
import mandala.core.question.ScopeReach;

/** What people kept from an earlier account, unit or title. */
final class LeftOvers {

  /** So many places of a scope are looked at; a wider one is of no one account or unit. */
  private static final int MOST_PLACES = 2_000;

  private final Basis basis;
  private final Catalogue catalogue;
  private final Consumer<Detection> found;

  private LeftOvers(Basis basis, Consumer<Detection> found) {
    this.basis = basis;
    catalogue = basis.catalogue;
    this.found = found;
  }

  static void search(Basis basis, Consumer<Detection> found) {
    LeftOvers search = new LeftOvers(basis, found);
    basis.inquiry.moves().forEachRemaining(search::move);
  }

  private void move(Inquiry.Move move) {
    Principal was = move.was();
    Principal is = catalogue.principals().get(was.key());
    if (is == null || !basis.isLiving(is.key())) {
      return;
    }
    if (!was.account().equals(is.account())) {
      account(move, is);
    } else if (was.unit() != null && !was.unit().equals(is.unit())) {
      unit(move, is, was.unit());
    }
    String title = was.attributes().get(Peers.TITLE);
    if (title != null && !title.equals(is.attributes().get(Peers.TITLE))) {
      title(move, is, title);
    }
  }

  /** What was there when they moved, and is still there. */
  private List<Assignment> kept(Inquiry.Move move) {
    return catalogue.assignments().values().stream()
        .filter(it ->
            it.effect() == Assignment.Effect.ALLOW
                && basis.isInForce(it)
                && it.subject() instanceof Subject.OfPrincipal(var _, PrincipalKey key)
                && key.equals(move.was().key())
                && move.before().assignments().containsKey(it.key()))
        .toList();
  }

  private void account(Inquiry.Move move, Principal is) {
    AccountKey old = move.was().account();
    for (Assignment it : kept(move)) {
      List<ResourceKey> places = places(it);
      boolean there =
          !places.isEmpty()
              && places.stream()
                  .map(catalogue::accountOf)
                  .allMatch(account -> account != null && catalogue.isAtOrBelow(account, old))
              && !catalogue.isAtOrBelow(is.account(), old);
      if (there) {
        tell(move, it, Trouble.Moved.ACCOUNT, old.value());
      }
    }
    for (Group it : catalogue.groups().values()) {
      Group before = move.before().groups().get(it.key());
      if (!it.retired()
          && it.account().equals(old)
          && it.lists(is)
          && before != null
          && before.lists(move.was())) {
        tell(move, it.key(), Permission.Risk.MODERATE, Trouble.Moved.ACCOUNT, old.value());
      }
    }
    for (Guest it : catalogue.guests()) {
      if (it.principal().equals(is.key())
          && it.account().equals(old)
          && it.window().holdsAt(basis.at)) {
        tell(move, old, Permission.Risk.MODERATE, Trouble.Moved.ACCOUNT, old.value());
      }
    }
  }

  private void unit(Inquiry.Move move, Principal is, UnitKey old) {
    UnitKey now = is.unit();
    if (!catalogue.units().containsKey(old) || (now != null && catalogue.isAtOrBelow(now, old))) {
      return;
    }
    for (Assignment it : kept(move)) {
      List<ResourceKey> places = places(it);
      boolean there =
          !places.isEmpty()
              && places.stream()
                  .map(catalogue::unitOf)
                  .allMatch(unit -> unit != null && catalogue.isAtOrBelow(unit, old));
      if (there) {
        tell(move, it, Trouble.Moved.UNIT, old.value());
      }
    }
  }

  /** Roles that others of the old title hold, and nobody else of the new one. */
  private void title(Inquiry.Move move, Principal is, String old) {
    String now = is.attributes().get(Peers.TITLE);
    Set<RoleKey> ofOld = new HashSet<>();
    Set<RoleKey> ofNew = new HashSet<>();
    for (Principal it : catalogue.principals().values()) {
      if (!it.key().equals(is.key()) && it.account().equals(is.account()) && basis.isActive(it)) {
        String title = it.attributes().get(Peers.TITLE);
        if (old.equals(title)) {
          ofOld.addAll(basis.engine.rolesHeld(it.key(), basis.at));
        } else if (title != null && title.equals(now)) {
          ofNew.addAll(basis.engine.rolesHeld(it.key(), basis.at));
        }
      }
    }
    for (Assignment it : kept(move)) {
      if (it.gives() instanceof Gives.OfRole(RoleKey role)
          && ofOld.contains(role)
          && !ofNew.contains(role)) {
        tell(move, it, Trouble.Moved.TITLE, old);
      }
    }
  }

  /** The places of a scope, none where it is relative or covers too many. */
  private List<ResourceKey> places(Assignment it) {
    if (it.scope().stream().anyMatch(clause -> clause.relative())) {
      return List.of();
    }
    ScopeReach reach = basis.given(it).reach.of(it.scope(), null, MOST_PLACES);
    return reach.places() > MOST_PLACES ? List.of() : reach.first();
  }

  private void tell(Inquiry.Move move, Assignment it, Trouble.Moved moved, String was) {
    tell(move, Objects.requireNonNull(it.key()), basis.given(it).risk, moved, was);
  }

  private void tell(
      Inquiry.Move move, Key kept, Permission.Risk risk, Trouble.Moved moved, String was) {
    PrincipalKey who = move.was().key();
    found.accept(
        Detection.of(who, new Trouble.LeftOver(who, kept, moved, was, move.at()), risk, 1));
  }
}
