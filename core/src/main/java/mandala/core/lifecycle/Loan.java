package mandala.core.lifecycle;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.model.About;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Principal;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import org.jspecify.annotations.Nullable;

/**
 * Somebody works in another account for a time: a guest there, in some of its groups, and at home
 * where they were (section 2).
 *
 * @param from when it begins; at once where null
 * @param until when it ends
 * @param sponsor a person who answers for it
 */
public record Loan(
    AccountKey account, @Nullable Instant from, Instant until, PrincipalKey sponsor) {

  /** Refuses an end that is not after the beginning. */
  public Loan {
    if (from != null && !until.isAfter(from)) {
      throw new IllegalArgumentException("It ends before it begins");
    }
  }

  /**
   * {@return the changes at its beginning}
   *
   * @param joins groups that they join
   * @throws IllegalArgumentException if they belong to the account already; the message says how
   */
  public List<Change> changes(Catalogue in, Principal who, Collection<GroupKey> joins) {
    if (in.isAtOrBelow(account, who.account())) {
      throw new IllegalArgumentException("They belong to the account already");
    }
    Guest guest =
        new Guest(About.NONE, who.key(), account, false, new Window(from, until), sponsor);
    if (in.guests().stream().anyMatch(it -> overlaps(it, who))) {
      throw new IllegalArgumentException("They are a guest there in that time already");
    }
    TieChanges changes = new TieChanges(in);
    changes.add(guest);
    for (GroupKey key : joins) {
      Group group = in.groups().get(key);
      if (group != null) {
        new Tie.Membership(group).give(changes, who, who);
      }
    }
    return changes.all();
  }

  private boolean overlaps(Guest other, Principal who) {
    Instant begun = other.window().from();
    Instant ended = other.window().until();
    return other.principal().equals(who.key())
        && other.account().equals(account)
        && (ended == null || from == null || ended.isAfter(from))
        && (begun == null || begun.isBefore(until));
  }

  /**
   * {@return the changes at its end}: what is still there of it. Who belongs to the account
   * otherwise by then, at home there or a guest for longer, stays in its groups.
   *
   * @param joined groups that they joined for it
   */
  public List<Change> afterwards(Catalogue in, Ties ties, Collection<GroupKey> joined) {
    Principal who = ties.whose();
    boolean stays =
        in.isAtOrBelow(account, who.account())
            || in.guests().stream().anyMatch(it -> isLonger(it, who));
    TieChanges changes = new TieChanges(in);
    for (Tie it : ties.all()) {
      boolean ends =
          switch (it) {
            case Tie.GuestOf(Guest guest, int _) ->
                guest.account().equals(account) && until.equals(guest.window().until());
            case Tie.Membership(Group group) -> !stays && joined.contains(group.key());
            default -> false;
          };
      if (ends) {
        it.end(changes, who);
      }
    }
    return changes.all();
  }

  private boolean isLonger(Guest other, Principal who) {
    Instant ended = other.window().until();
    return other.principal().equals(who.key())
        && other.account().equals(account)
        && (ended == null || ended.isAfter(until));
  }
}
