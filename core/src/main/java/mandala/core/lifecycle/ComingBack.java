package mandala.core.lifecycle;

import java.util.Collection;
import java.util.List;
import java.util.stream.Stream;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Principal;

/** Somebody who left is invited again, with as much of what they had as is chosen. */
public final class ComingBack {

  private ComingBack() {}

  /**
   * {@return whether something that somebody had can be given again}: all that it names is there
   */
  public static boolean stillFits(Catalogue now, Tie had) {
    return had.canBeGiven()
        && switch (had) {
          case Tie.Membership(Group group) -> {
            Group is = now.groups().get(group.key());
            yield is != null && !is.retired();
          }
          case Tie.Assigned(Assignment it) ->
              Stream.of(it.scope(), it.viewScope())
                      .flatMap(List::stream)
                      .map(Clause::terms)
                      .flatMap(List::stream)
                      .allMatch(now::knows)
                  && isThere(now, it.gives());
          case Tie.Reaches(var _, var reach) -> now.units().containsKey(reach.unit());
          case Tie.Follows(var _, var pattern) -> now.patterns().containsKey(pattern.key());
          case Tie.GuestOf(Guest guest, int _) -> now.accounts().containsKey(guest.account());
          default -> false;
        };
  }

  private static boolean isThere(Catalogue in, Gives it) {
    return switch (it) {
      case Gives.OfRole(var key) -> in.roles().containsKey(key);
      case Gives.OfSet(var key) -> in.sets().containsKey(key);
      case Gives.OfPermission(var key) -> in.permissions().containsKey(key);
    };
  }

  /**
   * {@return the changes that invite somebody again}
   *
   * @param who as they are to be but for their status: who left
   * @param had what they had before they left
   * @param chosen names of ties of then; nothing is given by itself
   */
  public static List<Change> changes(
      Catalogue now, Principal left, Principal who, Ties had, Collection<String> chosen) {
    TieChanges changes = new TieChanges(now);
    changes.alter(left, _ -> Rewritten.status(who, Principal.Status.INVITED));
    for (Tie it : had.all()) {
      if (chosen.contains(it.id()) && stillFits(now, it)) {
        asItIsNow(now, it).give(changes, had.whose(), left);
      }
    }
    return changes.all();
  }

  /** {@return the tie with its group as it is today} */
  private static Tie asItIsNow(Catalogue now, Tie had) {
    if (had instanceof Tie.Membership(Group then)) {
      Group group = now.groups().get(then.key());
      return group == null ? had : new Tie.Membership(group);
    }
    return had;
  }
}
