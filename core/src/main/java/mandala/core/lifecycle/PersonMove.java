package mandala.core.lifecycle;

import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.core.analysis.Peers;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.model.About;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Principal;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;

/**
 * Somebody takes up another post: another home account, unit, manager or title.
 *
 * @param account the home account afterwards
 * @param title the job afterwards; null takes it away
 * @param grace until when what ends with the move may still be finished; null for no grace
 */
public record PersonMove(
    AccountKey account,
    @Nullable UnitKey unit,
    @Nullable PrincipalKey manager,
    @Nullable String title,
    @Nullable Instant grace) {

  /** {@return somebody as they are after the move} */
  public Principal moved(Principal who) {
    Map<String, String> attributes = new HashMap<>(who.attributes());
    if (title == null) {
      attributes.remove(Peers.TITLE);
    } else {
      attributes.put(Peers.TITLE, title);
    }
    return Rewritten.facts(Rewritten.home(who, account, unit), unit, manager, attributes);
  }

  /**
   * {@return what to do with a tie unless somebody chooses otherwise}: what is of the old account
   * alone ends, what only the old colleagues have ends, duties there are handed over by choice
   *
   * @param before how many of the old colleagues have it
   * @param after how many of the new ones
   */
  public Fate usual(Catalogue in, Principal who, Tie tie, PeerShare before, PeerShare after) {
    boolean away = !account.equals(who.account());
    if (tie instanceof Tie.GuestOf(Guest guest, int _) && guest.account().equals(account)) {
      return new Fate.End();
    }
    if (tie.sort() != Tie.Sort.ACCESS) {
      return new Fate.Keep();
    }
    boolean ofOld = away && TieAccounts.isWithin(in, tie, who.account(), account);
    boolean onlyThere = before.have() > 0 && after.of() > 0 && after.have() == 0;
    if (!ofOld && !onlyThere) {
      return new Fate.Keep();
    }
    return grace == null ? new Fate.End() : new Fate.KeepUntil(grace);
  }

  /**
   * {@return the changes of the move}
   *
   * @param fates by name of the tie; what is not named stays
   * @param joins groups that they join
   */
  public List<Change> changes(
      Catalogue in, Ties ties, Map<String, Fate> fates, Collection<GroupKey> joins) {
    Principal who = ties.whose();
    TieChanges changes = new TieChanges(in);
    changes.alter(who, this::moved);
    boolean lingers = false;
    for (Tie it : ties.all()) {
      Fate fate = fates.getOrDefault(it.id(), new Fate.Keep());
      fate.of(it, who, changes);
      lingers |= fate instanceof Fate.KeepUntil;
    }
    for (GroupKey key : joins) {
      Group group = in.groups().get(key);
      if (group != null) {
        new Tie.Membership(group).give(changes, who, who);
      }
    }
    if (lingers && grace != null && !isAtHome(in, who.account())) {
      changes.add(
          new Guest(About.NONE, who.key(), who.account(), false, new Window(null, grace), null));
    }
    return changes.all();
  }

  /** Who is at home in an account belongs to those below it (section 2). */
  private boolean isAtHome(Catalogue in, AccountKey old) {
    return in.isAtOrBelow(old, account);
  }

  /**
   * {@return the changes at the end of the grace}: what was kept until then, as far as it is still
   * there, and what let them stay until then
   *
   * @param kept names of the ties; guest memberships are known by their end instead
   * @param grace when it ended
   */
  public static List<Change> afterGrace(
      Catalogue in, Ties ties, Collection<String> kept, Instant grace) {
    TieChanges changes = new TieChanges(in);
    for (Tie it : ties.all()) {
      boolean ends =
          it instanceof Tie.GuestOf(Guest guest, int _)
              ? grace.equals(guest.window().until())
              : kept.contains(it.id());
      if (ends) {
        it.end(changes, ties.whose());
      }
    }
    return changes.all();
  }
}
