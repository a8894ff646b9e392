package mandala.core.lifecycle;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.Window;
import org.jspecify.annotations.Nullable;

/** Somebody new who begins with what a colleague has, as far as it is chosen. */
public final class ColleagueCopy {

  private ColleagueCopy() {}

  /** Why a colleague has something by exception, so that a copy leaves it out unless chosen. */
  public sealed interface Exceptional {

    /** It ends by itself: it was given for a time. */
    record Ends(Instant at) implements Exceptional {}

    /** Less than half of the colleagues have it. */
    record Rare(PeerShare share) implements Exceptional {}

    /** It was given to this one person, and there are no colleagues to compare with. */
    record Personal() implements Exceptional {}

    /** It was activated for a time, or is not theirs to pass on. */
    record NotForOthers() implements Exceptional {}
  }

  /** {@return why somebody has something by exception}, null where they do not */
  public static @Nullable Exceptional exception(Tie tie, PeerShare share) {
    Window window = tie.window();
    if (!tie.canBeGiven() || tie.sort() != Tie.Sort.ACCESS) {
      return new Exceptional.NotForOthers();
    }
    if (window != null && window.until() != null) {
      return new Exceptional.Ends(window.until());
    }
    if (share.isRare()) {
      return new Exceptional.Rare(share);
    }
    return share.of() == 0 && tie instanceof Tie.Assigned ? new Exceptional.Personal() : null;
  }

  /**
   * {@return the changes that bring somebody in as a copy}
   *
   * @param fresh the new one, whose key nobody has
   * @param chosen names of ties of the colleague; what a copy can't have is left out
   */
  public static List<Change> of(
      Catalogue in, Ties colleague, Principal fresh, Collection<String> chosen) {
    TieChanges changes = new TieChanges(in);
    changes.add(fresh);
    give(changes, colleague, fresh, chosen);
    return changes.all();
  }

  static void give(TieChanges changes, Ties from, Principal to, Collection<String> chosen) {
    for (Tie it : from.all()) {
      if (chosen.contains(it.id()) && it.canBeGiven() && it.sort() == Tie.Sort.ACCESS) {
        it.give(changes, from.whose(), to);
      }
    }
  }
}
