package mandala.core.engine;

import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import mandala.core.model.Activation;
import mandala.core.model.Bridge;
import mandala.core.model.Guest;
import mandala.core.model.Key;
import mandala.core.model.Subject;
import org.jspecify.annotations.Nullable;

/**
 * One principal at one instant: whether it is active, where it belongs, which subjects it has
 * (section 2). Cheap to make: what does not depend on time stands in its {@link Profile}.
 */
final class Who {

  final Snapshot it;

  /** -1 for anonymous. */
  final int id;

  final @Nullable Profile profile;
  final long at;
  final boolean active;

  /** The codes of all its subjects ({@link Line#subject}). */
  final int[] subjects;

  private final Validity validity;
  private final @Nullable BitSet guestOf;

  private Who(Snapshot it, int id, long at) {
    this.it = it;
    this.id = id;
    this.at = at;
    validity = new Validity(at);
    profile = id < 0 ? null : it.directory.profiles.require(id);
    if (profile == null) {
      active = true;
      guestOf = null;
      subjects =
          new int[] {
            Line.subject(Line.PUBLIC, Subject.Public.ANYONE.ordinal()),
            Line.subject(Line.PUBLIC, Subject.Public.ANONYMOUS.ordinal())
          };
      return;
    }
    active = profile.enabled && validity.holds(profile.times);
    List<Guest> guests = it.catalogue.links().guests(id);
    guestOf = guests.isEmpty() ? null : guestOf(guests);
    subjects = subjects(profile);
  }

  /**
   * {@return a principal at an instant}
   *
   * @param id its number, or -1 for anonymous
   * @param at seconds since the epoch
   */
  static Who of(Snapshot it, int id, long at) {
    return new Who(it, id, at);
  }

  private BitSet guestOf(List<Guest> guests) {
    BitSet accounts = new BitSet();
    for (Guest guest : guests) {
      if (validity.holds(Times.of(guest.window()))) {
        int account = it.catalogue.accounts().require(guest.account());
        PreOrder order = it.directory.accountOrder;
        int from = order.rank[account];
        int to = guest.withSubaccounts() ? order.end[from] : from + 1;
        for (int rank = from; rank < to; rank++) {
          accounts.set(order.node[rank]);
        }
      }
    }
    return accounts;
  }

  private int[] subjects(Profile who) {
    int[] groups =
        guestOf == null || guestOf.isEmpty() ? who.groups : it.directory.groupsOf(who, guestOf);
    int doors = guestOf == null ? 0 : guestOf.cardinality();
    int[] codes = new int[groups.length + doors + 5];
    int n = 0;
    codes[n++] = Line.subject(Line.PRINCIPAL, id);
    for (int g : groups) {
      codes[n++] = Line.subject(Line.GROUP, g);
    }
    codes[n++] = Line.subject(Line.ACCOUNT, who.home);
    if (guestOf != null) {
      for (int a = guestOf.nextSetBit(0); a >= 0; a = guestOf.nextSetBit(a + 1)) {
        if (a != who.home) {
          codes[n++] = Line.subject(Line.ACCOUNT, a);
        }
      }
    }
    if (who.pattern >= 0) {
      codes[n++] = Line.subject(Line.PATTERN, who.pattern);
    }
    codes[n++] = Line.subject(Line.PUBLIC, Subject.Public.ANYONE.ordinal());
    codes[n++] = Line.subject(Line.PUBLIC, Subject.Public.SIGNED_IN.ordinal());
    return n == codes.length ? codes : Arrays.copyOf(codes, n);
  }

  /** {@return whether it is a person enrolled for a second factor} */
  boolean hasFactor() {
    return profile != null && profile.factor;
  }

  /** {@return whether it belongs to an account} (section 2) */
  boolean belongsTo(int account) {
    return profile != null
        && (it.directory.isAtOrBelow(account, profile.home)
            || (guestOf != null && guestOf.get(account)));
  }

  /** {@return where it belongs, as spans, suspended accounts left out} */
  Spans reachable() {
    if (profile == null) {
      return Spans.EMPTY;
    }
    Spans home = it.places.under(profile.home);
    if (guestOf == null || guestOf.isEmpty()) {
      return home.and(it.live);
    }
    BitSet accounts = new BitSet();
    accounts.or(guestOf);
    PreOrder order = it.directory.accountOrder;
    int from = order.rank[profile.home];
    for (int rank = from; rank < order.end[from]; rank++) {
      accounts.set(order.node[rank]);
    }
    Spans.Builder spans = new Spans.Builder();
    accounts.stream()
        .boxed()
        .sorted((a, b) -> Integer.compare(it.places.accountAt[a], it.places.accountAt[b]))
        .forEach(a -> spans.add(it.places.accountAt[a], it.places.ownEnd[a], Spans.NO_FLOOR));
    return spans.build().and(it.live);
  }

  /**
   * {@return whether what a special line stands for holds now}: its window, its activation where it
   * must be on, and for a bridge that the principal belongs to the source
   */
  boolean holds(int ref, boolean mustBeOn) {
    if (ref < 0) {
      Bridge bridge = it.catalogue.bridges().the(~ref);
      int group = it.catalogue.groups().require(bridge.group());
      int source = it.catalogue.accounts().require(it.catalogue.groups().the(group).account());
      return belongsTo(source) && validity.holds(Times.of(bridge.window()));
    }
    return validity.holds(it.times.getOr(ref, Times.ALWAYS)) && (!mustBeOn || isOn(ref));
  }

  private boolean isOn(int ref) {
    List<Activation> activations =
        profile == null ? List.of() : it.catalogue.links().activations(id);
    if (activations.isEmpty()) {
      return false;
    }
    Key.Assignment assignment = it.catalogue.assignments().the(ref).key();
    boolean switchedOn = false;
    for (Activation activation : activations) {
      switchedOn |=
          activation.assignment().equals(assignment)
              && validity.holds(Times.of(activation.window()));
    }
    return switchedOn;
  }

  /** {@return the span of time in which nothing asked about so far begins or ends} */
  Times good() {
    return validity.span();
  }

  /** Also minds the window of something that another class looked at. */
  boolean inForce(Times times) {
    return validity.holds(times);
  }
}
