package mandala.core.shrink;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.rule.Guests;

/** Members of groups and guests who need nothing of what that gives them. */
final class Leaving {

  private final Round round;
  private final Instant at;

  Leaving(Round round, Instant at) {
    this.round = round;
    this.at = at;
  }

  /** {@return moves by which those leave who need nothing by it} */
  List<Move> moves() {
    Map<Integer, Set<GroupKey>> used = new HashMap<>();
    Map<Integer, Set<AccountKey>> accounts = new HashMap<>();
    round.chosen.givers.forEach((person, givers) -> {
      for (int giver : givers) {
        Thing it = round.obligations.thing(giver);
        Subject subject =
            it instanceof Bridge bridge
                ? new Subject.OfGroup(bridge.group())
                : ((Assignment) it).subject();
        if (subject instanceof Subject.OfGroup(GroupKey key)) {
          used.computeIfAbsent(person, _ -> new HashSet<>()).add(key);
        }
        if (subject instanceof Subject.OfAccount(var key)) {
          accounts.computeIfAbsent(person, _ -> new HashSet<>()).add(key);
        }
      }
    });
    Map<GroupKey, Set<GroupKey>> within = Round.within(round.catalogue);
    Set<GroupKey> giving = new HashSet<>();
    for (Assignment it : round.catalogue.assignments().values()) {
      if (it.subject() instanceof Subject.OfGroup(GroupKey key)) {
        giving.add(key);
      }
    }
    round.catalogue.bridges().values().forEach(it -> giving.add(it.group()));
    List<Move> moves = new ArrayList<>();
    for (Group group : round.catalogue.groups().values()) {
      Set<GroupKey> ups = within.getOrDefault(group.key(), Set.of(group.key()));
      if (group.retired() || round.isUntouched(group) || ups.stream().noneMatch(giving::contains)) {
        continue;
      }
      for (Group.Member member : group.members()) {
        List<Integer> whom = round.whom(member);
        boolean touched =
            round.selected == null || whom.stream().anyMatch(round.selected::contains);
        boolean needed =
            whom.stream()
                .anyMatch(it -> used.getOrDefault(it, Set.of()).stream().anyMatch(ups::contains));
        if (touched && !needed && !whom.isEmpty()) {
          moves.add(new Move.Leave(group.key(), member, new ShrinkStep.Why.NothingByIt()));
        }
      }
    }
    for (Guest guest : guests()) {
      Integer person = round.people.get(guest.principal());
      boolean touched =
          !round.isUntouched(guest) && (round.selected == null || round.selected.contains(person));
      if (person != null && touched && needsNothing(guest, person, used, accounts)) {
        moves.add(new Move.EndGuest(guest, subject(guest), new ShrinkStep.Why.NothingByIt()));
      }
    }
    return moves;
  }

  /** {@return each member and each guest of the selection, needed or not} */
  List<Move> all() {
    ShrinkStep.Why why = new ShrinkStep.Why.NothingByIt();
    List<Move> moves = new ArrayList<>();
    for (Group group : round.catalogue.groups().values()) {
      if (!round.isUntouched(group)) {
        for (Group.Member member : group.members()) {
          List<Integer> whom = round.whom(member);
          if (round.selected == null || whom.stream().anyMatch(round.selected::contains)) {
            moves.add(new Move.Leave(group.key(), member, why));
          }
        }
      }
    }
    for (Guest guest : guests()) {
      Integer person = round.people.get(guest.principal());
      boolean chosen =
          round.selected == null || (person != null && round.selected.contains(person));
      if (chosen && !round.isUntouched(guest)) {
        moves.add(new Move.EndGuest(guest, subject(guest), why));
      }
    }
    return moves;
  }

  /** Without those that are listed twice: one of them alone gives nothing that could go. */
  private Set<Guest> guests() {
    Set<Guest> once = new LinkedHashSet<>();
    Set<Guest> twice = new HashSet<>();
    for (Guest it : round.catalogue.guests()) {
      if (!once.add(it)) {
        twice.add(it);
      }
    }
    once.removeAll(twice);
    return once;
  }

  private Subject subject(Guest guest) {
    Principal who = round.catalogue.principals().get(guest.principal());
    return new Subject.OfPrincipal(
        who == null ? Principal.Kind.PERSON : who.kind(), guest.principal());
  }

  private boolean needsNothing(
      Guest guest,
      int person,
      Map<Integer, Set<GroupKey>> used,
      Map<Integer, Set<AccountKey>> accounts) {
    Catalogue catalogue = round.catalogue;
    Principal who = round.principal(person);
    if (who == null || !guest.window().holdsAt(at)) {
      return false;
    }
    for (GroupKey key : used.getOrDefault(person, Set.of())) {
      Group group = catalogue.groups().get(key);
      if (group != null && Guests.covers(guest, group.account(), catalogue)) {
        return false;
      }
    }
    if (accounts.getOrDefault(person, Set.of()).stream()
        .anyMatch(it -> Guests.covers(guest, it, catalogue))) {
      return false;
    }
    for (long cell : round.obligations.cells(person)) {
      var account = catalogue.accountOf(round.study.resource(Cells.position(cell)));
      if (account != null
          && Guests.covers(guest, account, catalogue)
          && !catalogue.isAtOrBelow(account, who.account())) {
        return false;
      }
    }
    return true;
  }
}
