package mandala.server.lifecycle;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mandala.core.analysis.Peers;
import mandala.core.engine.Engine;
import mandala.core.lifecycle.Fate;
import mandala.core.lifecycle.Loan;
import mandala.core.lifecycle.PersonMove;
import mandala.core.lifecycle.Tie;
import mandala.core.lifecycle.Ties;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Unit;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.UnitKey;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;

/** Finds people and their ties as far as a viewer may read them. */
final class People {

  private final RequestContext context;

  People(RequestContext context) {
    this.context = context;
  }

  /**
   * {@return somebody whom the viewer may read}
   *
   * @throws Problem if there is nobody of that key to their eyes
   */
  Principal require(String key, Catalogue in) {
    Principal it = key.isBlank() ? null : in.principals().get(new PrincipalKey(key));
    if (it == null || !context.readPolicy().mayRead(it)) {
      throw Problem.notFound("There is nobody called '" + key + "'. Choose from the list.");
    }
    return it;
  }

  /**
   * {@return somebody whom the viewer may read and change}
   *
   * @throws Problem if there is nobody, or they may not
   */
  Principal requireManaged(String key) {
    Principal it = require(key, context.state().engine().catalogue());
    String cannot = context.cannotChange(it);
    if (cannot != null) {
      throw Problem.forbidden(cannot + " Ask a directory administrator of their account.");
    }
    return it;
  }

  /** {@return the ties of somebody that the viewer may read} */
  Ties ties(Catalogue in, Principal whose) {
    return ties(Ties.of(in, whose), in);
  }

  /**
   * {@return those of some ties that the viewer may read}
   *
   * @param in by which that is judged: the model in force, of ties of the past too
   */
  Ties ties(Ties all, Catalogue in) {
    Map<String, Tie> told = new LinkedHashMap<>();
    for (Tie it : all.all()) {
      Key of = it.thing().key();
      boolean namesStrangers =
          it instanceof Tie.Delegates && !context.tellsAllOf(it.thing()); // of two people
      if (context.readPolicy().mayRead(it.thing(), in)
          && !namesStrangers
          && (of == null || context.naming().tells(Kind.of(it.thing()), of.value()))) {
        told.put(it.id(), it);
      }
    }
    return new Ties(all.whose(), told);
  }

  /** {@return the colleagues of somebody whom the viewer may read} */
  Peers peers(Engine engine, Principal whose, Instant at) {
    Peers all = Peers.of(engine, whose, at);
    return new Peers(
        all.basis(),
        all.people().stream()
            .filter(it -> {
              Principal peer = engine.catalogue().principals().get(it);
              return peer != null && context.readPolicy().mayRead(peer);
            })
            .toList());
  }

  /**
   * {@return what is to become of ties}
   *
   * @param orders by name of the tie
   * @param grace until when something may stay, null where there is no grace
   * @throws Problem if one names a tie that is not there, or somebody who can't take it over
   */
  Map<String, Fate> fates(
      Catalogue in, Ties ties, Map<String, FateOrder> orders, @Nullable Instant grace) {
    Map<String, Fate> fates = new HashMap<>();
    orders.forEach((id, order) -> {
      Tie tie = ties.byId().get(id);
      if (tie == null) {
        throw Problem.conflict(
            "What they have has changed meanwhile",
            "'" + id + "' is no longer there. Reload the page and choose again.");
      }
      fates.put(id, fate(in, ties.whose(), tie, order, grace));
    });
    return fates;
  }

  private Fate fate(
      Catalogue in, Principal whose, Tie tie, FateOrder order, @Nullable Instant grace) {
    return switch (order.becomes()) {
      case "keep" -> new Fate.Keep();
      case "end" -> new Fate.End();
      case "until" -> {
        if (grace == null) {
          throw Problem.badRequest(
              "There is no grace time", "Set the end of the grace time, or choose keep or end.");
        }
        yield new Fate.KeepUntil(grace);
      }
      case "hand" -> new Fate.HandTo(heir(in, whose, tie, order.to()));
      default ->
          throw Problem.badRequest(
              "'" + order.becomes() + "' can't be done to it", "Write keep, end, until or hand.");
    };
  }

  private Principal heir(Catalogue in, Principal whose, Tie tie, @Nullable String to) {
    Principal heir = require(to == null ? "" : to, in);
    if (heir.key().equals(whose.key()) || heir.status() == Principal.Status.LEFT) {
      throw Problem.badRequest(
          "They can't take it over",
          "'" + heir.key() + "' leaves or has left. Choose somebody who stays.");
    }
    if (tie.sort() != Tie.Sort.DUTY
        || (heir.kind() == Principal.Kind.SERVICE
            && (tie instanceof Tie.Sponsors || tie instanceof Tie.SponsorsGuest))) {
      throw Problem.badRequest(
          "It can't be handed over", "Choose keep or end for '" + tie.id() + "'.");
    }
    return heir;
  }

  /**
   * {@return a move as somebody ordered it}
   *
   * @throws Problem if it leads where the viewer may not read, or nowhere
   */
  PersonMove move(Catalogue in, MoveOrder order) {
    AccountKey account = new AccountKey(context.known(Kind.ACCOUNTS, order.account()));
    String unit = order.unit();
    UnitKey to = unit == null || unit.isBlank() ? null : new UnitKey(unit);
    Unit there = to == null ? null : in.units().get(to);
    if (to != null && (there == null || !there.account().equals(account))) {
      throw Problem.badRequest(
          "There is no unit '" + to + "' in that account", "Choose a unit of the account.");
    }
    String manager = order.manager();
    Principal above = manager == null || manager.isBlank() ? null : require(manager, in);
    String title = order.title();
    return new PersonMove(
        account,
        to,
        above == null ? null : above.key(),
        title == null || title.isBlank() ? null : title.strip(),
        order.grace());
  }

  Loan loan(Catalogue in, LoanOrder order) {
    AccountKey account = new AccountKey(context.known(Kind.ACCOUNTS, order.account()));
    Principal sponsor = require(order.sponsor(), in);
    if (sponsor.kind() != Principal.Kind.PERSON) {
      throw Problem.badRequest(
          "'" + order.sponsor() + "' is a service", "Choose a person who answers for them.");
    }
    try {
      return new Loan(account, order.from(), order.until(), sponsor.key());
    } catch (IllegalArgumentException e) {
      throw Problem.badRequest(
          String.valueOf(e.getMessage()), "Choose an end after the beginning.");
    }
  }

  /** The groups that somebody joins for a loan: of that account, and not listing them already. */
  List<GroupKey> joins(Catalogue in, Principal who, LoanOrder order) {
    List<GroupKey> joins = new ArrayList<>();
    for (String it : order.joins()) {
      Group group = in.groups().get(new GroupKey(context.known(Kind.GROUPS, it)));
      if (group == null || !group.account().value().equals(order.account())) {
        throw Problem.badRequest(
            "There is no group '" + it + "' in that account", "Choose groups of the account.");
      }
      if (!group.lists(who)) {
        joins.add(group.key());
      }
    }
    return joins;
  }
}
