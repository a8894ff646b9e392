package mandala.core;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.UnaryOperator;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.engine.Engine;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Term;
import mandala.core.model.Thing;
import mandala.core.model.Window;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.UnitKey;

/**
 * Every single change of the kinds that a chain is made of, whatever it is good for: each group
 * joined and left, each permission put into each set, each thing given on each place, and so on.
 */
final class AllChanges {

  private final Catalogue catalogue;
  private final AccessModel model;
  private final Engine engine;
  private final Principal who;
  private final Instant at;
  private final Set<Change> all = new LinkedHashSet<>();

  private AllChanges(Engine engine, PrincipalKey who, Instant at) {
    this.engine = engine;
    this.catalogue = engine.catalogue();
    this.model = catalogue.model();
    this.who = catalogue.principals().the(catalogue.principals().require(who));
    this.at = at;
  }

  /**
   * {@return all of them}
   *
   * @param holders whom one may come to act for
   */
  static Set<Change> of(Engine engine, PrincipalKey who, Instant at, List<PrincipalKey> holders) {
    AllChanges moves = new AllChanges(engine, who, at);
    moves.ofPeople(holders);
    moves.ofRights();
    moves.ofPlaces();
    moves.ofDoors();
    moves.given();
    return moves.all;
  }

  private <T extends Thing> void alter(T it, UnaryOperator<T> rewritten) {
    T is = rewritten.apply(it);
    Key key = it.key();
    if (!is.equals(it) && (key == null || !key.value().startsWith(Supplied.PREFIX))) {
      all.add(new Change.Altered(it, is));
    }
  }

  private void ofPeople(List<PrincipalKey> holders) {
    Group.Member member = new Group.Member.OfPrincipal(who.kind(), who.key());
    for (Group it : model.groups()) {
      alter(it, Rewritten::retired);
      alter(it, Rewritten::active);
      alter(it, was -> Rewritten.without(was, member));
      if (!it.members().contains(member)) {
        alter(it, was -> Rewritten.active(Rewritten.with(was, member)));
      }
    }
    alter(who, was -> Rewritten.pattern(was, null));
    model.patterns().forEach(it -> alter(who, was -> Rewritten.pattern(was, it.key())));
    model.units().forEach(it -> alter(who, was -> Rewritten.reaching(was, it.key())));
    model
        .accounts()
        .forEach(it ->
            all.add(
                new Change.Added(
                    new Guest(About.NONE, who.key(), it.key(), false, Window.ALWAYS, null))));
    for (Principal it : model.principals()) {
      if (!it.key().equals(who.key())) {
        alter(it, was -> Rewritten.facts(was, was.unit(), who.key(), was.attributes()));
      }
    }
    for (PrincipalKey holder : holders) {
      all.add(
          new Change.Added(
              new Delegation(
                  new DelegationKey("through." + holder.value()),
                  About.NONE,
                  holder,
                  who.key(),
                  new Delegation.Limit.All(),
                  List.of(Clause.of(new Term.Everything())),
                  Window.ALWAYS)));
    }
  }

  private void ofRights() {
    for (var set : model.permissionSets()) {
      for (var it : catalogue.permissions().values()) {
        if (!set.allow().contains(it.key())) {
          alter(set, was -> Rewritten.with(was, it.key()));
        }
        alter(set, was -> Rewritten.denyingNone(was, Set.of(it.key())));
      }
    }
    for (var role : model.roles()) {
      alter(role, Rewritten::active);
      for (var it : catalogue.sets().values()) {
        if (!role.sets().contains(it.key())) {
          alter(role, was -> Rewritten.with(was, it.key()));
        }
      }
    }
    for (var permission : model.permissions()) {
      for (var it : catalogue.permissions().values()) {
        if (!permission.implies().contains(it.key()) && !permission.key().equals(it.key())) {
          alter(permission, was -> Rewritten.implying(was, it.key()));
        }
      }
      permission.requires().forEach(gate -> alter(permission, was -> Rewritten.without(was, gate)));
    }
  }

  private void ofPlaces() {
    for (var it : model.accounts()) {
      alter(it, Rewritten::active);
      alter(it, Rewritten::unsealed);
    }
    for (Resource it : model.resources()) {
      alter(it, Rewritten::unsealed);
      alter(it, was -> with(was, was.parent(), who.key(), was.unit()));
      alter(it, was -> with(was, was.parent(), null, was.unit()));
      model
          .units()
          .forEach(unit -> alter(it, was -> with(was, was.parent(), was.owner(), unit.key())));
    }
    for (var collection : model.collections()) {
      for (ResourceKey it : AllPlaces.of(model)) {
        if (!collection.members().contains(it)) {
          alter(collection, was -> Rewritten.with(was, it));
        }
      }
    }
  }

  private static Resource with(Resource it, ResourceKey parent, PrincipalKey owner, UnitKey unit) {
    return new Resource(
        it.key(),
        it.about(),
        it.type(),
        it.account(),
        parent,
        owner,
        unit,
        it.labels(),
        it.sealed());
  }

  private void ofDoors() {
    for (Assignment it : model.assignments()) {
      alter(it, was -> Rewritten.window(was, Window.ALWAYS));
      alter(it, was -> Rewritten.window(was, new Window(null, at)));
      alter(it, Rewritten::crossing);
      alter(it, was -> Rewritten.crossing(Rewritten.window(was, Window.ALWAYS)));
      if (it.mode() == Assignment.Mode.JUST_IN_TIME) {
        Window shift = new Window(at, at.plus(Duration.ofHours(8)));
        all.add(new Change.Added(new Activation(About.NONE, who.key(), it.key(), shift)));
      }
    }
    for (Bridge it : model.bridges()) {
      alter(it, was -> Rewritten.status(was, Bridge.Status.ACCEPTED));
      alter(it, was -> Rewritten.status(was, Bridge.Status.ENDED));
      alter(
          it,
          was -> Rewritten.window(Rewritten.status(was, Bridge.Status.ACCEPTED), Window.ALWAYS));
    }
  }

  private void given() {
    List<Gives> gives = new ArrayList<>();
    catalogue.permissions().values().forEach(it -> gives.add(new Gives.OfPermission(it.key())));
    catalogue.sets().values().forEach(it -> gives.add(new Gives.OfSet(it.key())));
    catalogue.roles().values().forEach(it -> gives.add(new Gives.OfRole(it.key())));
    List<Group> own =
        model.groups().stream()
            .filter(it -> engine.hasSubject(who.key(), new Subject.OfGroup(it.key()), at))
            .toList();
    int n = model.assignments().size();
    for (Gives given : gives) {
      for (ResourceKey place : AllPlaces.of(model)) {
        List<Clause> scope = List.of(Clause.of(new Term.Tree(place)));
        all.add(
            new Change.Added(
                new Assignment(
                    new AssignmentKey("new." + n),
                    About.NONE,
                    new Subject.OfPrincipal(who.kind(), who.key()),
                    given,
                    Assignment.Effect.ALLOW,
                    scope,
                    List.of(),
                    Window.ALWAYS,
                    Assignment.Mode.STANDING,
                    false)));
        for (Group group : own) {
          all.add(
              new Change.Added(
                  new Bridge(
                      new BridgeKey("new." + model.bridges().size()),
                      About.NONE,
                      catalogue.accountOf(place),
                      group.key(),
                      given,
                      scope,
                      Window.ALWAYS,
                      Bridge.Status.ACCEPTED)));
        }
      }
    }
  }
}
