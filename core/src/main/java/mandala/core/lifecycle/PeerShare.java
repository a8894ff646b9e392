package mandala.core.lifecycle;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import mandala.core.analysis.Peers;
import mandala.core.engine.Engine;
import mandala.core.model.Assignment;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.PrincipalKey;

/**
 * How many colleagues have what somebody has, by whatever way.
 *
 * @param have how many of them
 * @param of how many there are
 */
public record PeerShare(int have, int of) {

  /** {@return whether so few have it that it is an exception}: less than half */
  public boolean isRare() {
    return of > 0 && 2 * have < of;
  }

  /** {@return how many of some colleagues have what a tie gives}; of duties nobody does */
  public static PeerShare of(Engine engine, Peers peers, Tie tie, Instant at) {
    List<Assignment> alike = alike(engine, tie);
    int have = 0;
    for (PrincipalKey peer : peers.people()) {
      Principal it = engine.catalogue().principals().get(peer);
      if (it != null && has(engine, it, tie, alike, at)) {
        have++;
      }
    }
    return new PeerShare(have, peers.people().size());
  }

  private static boolean has(
      Engine engine, Principal it, Tie tie, List<Assignment> alike, Instant at) {
    return switch (tie) {
      case Tie.Membership(var group) ->
          engine.hasSubject(it.key(), new Subject.OfGroup(group.key()), at);
      case Tie.Assigned _ ->
          alike.stream()
              .anyMatch(one ->
                  one.window().holdsAt(at) && engine.hasSubject(it.key(), one.subject(), at));
      case Tie.Reaches(var _, var reach) ->
          it.reach().stream().anyMatch(one -> one.unit().equals(reach.unit()));
      case Tie.Follows(var _, var pattern) -> pattern.key().equals(it.pattern());
      case Tie.GuestOf(Guest guest, int _) ->
          engine.catalogue().find(Kind.GUESTS, it.key().value()).stream()
              .anyMatch(one -> one instanceof Guest its && its.account().equals(guest.account()));
      default -> false;
    };
  }

  /** {@return the assignments, to whomever, that give the same in the same scope} */
  private static List<Assignment> alike(Engine engine, Tie tie) {
    return tie instanceof Tie.Assigned(Assignment mine)
        ? engine.catalogue().assignments().values().stream()
            .filter(it ->
                it.gives().equals(mine.gives())
                    && it.effect() == mine.effect()
                    && it.scope().equals(mine.scope()))
            .toList()
        : List.of();
  }

  /** {@return the shares of all ties}, by their names */
  public static Map<String, PeerShare> of(Engine engine, Peers peers, Ties ties, Instant at) {
    return ties.byId().entrySet().stream()
        .collect(Collectors.toMap(Map.Entry::getKey, it -> of(engine, peers, it.getValue(), at)));
  }
}
