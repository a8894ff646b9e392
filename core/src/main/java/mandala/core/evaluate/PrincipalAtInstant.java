package mandala.core.evaluate;

import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.directory.Profile;
import mandala.core.compiled.directory.TimeSpan;
import mandala.core.compiled.grants.GrantEntry;
import mandala.core.compiled.space.Spans;
import mandala.core.model.Activation;
import mandala.core.model.Bridge;
import mandala.core.model.Guest;
import mandala.core.model.Subject;
import mandala.core.model.key.AssignmentKey;
import mandala.core.table.PreOrder;
import org.jspecify.annotations.Nullable;

/**
 * One principal at one instant: whether it is active, where it belongs, which subjects it has
 * (section 2). Cheap to make: what does not depend on time stands in its {@link Profile}.
 */
public final class PrincipalAtInstant {

  public final Snapshot it;

  /** -1 for anonymous. */
  public final int id;

  public final @Nullable Profile profile;
  public final long at;
  public final boolean active;

  /** The codes of all its subjects ({@link GrantEntry#subject}). */
  public final int[] subjects;

  private final Validity validity;
  private final @Nullable BitSet guestOf;

  private PrincipalAtInstant(Snapshot it, int id, long at) {
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
            GrantEntry.subject(GrantEntry.PUBLIC, Subject.Public.ANYONE.ordinal()),
            GrantEntry.subject(GrantEntry.PUBLIC, Subject.Public.ANONYMOUS.ordinal())
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
  public static PrincipalAtInstant of(Snapshot it, int id, long at) {
    return new PrincipalAtInstant(it, id, at);
  }

  private BitSet guestOf(List<Guest> guests) {
    BitSet accounts = new BitSet();
    for (Guest guest : guests) {
      if (validity.holds(TimeSpan.of(guest.window()))) {
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
    codes[n++] = GrantEntry.subject(GrantEntry.PRINCIPAL, id);
    for (int g : groups) {
      codes[n++] = GrantEntry.subject(GrantEntry.GROUP, g);
    }
    codes[n++] = GrantEntry.subject(GrantEntry.ACCOUNT, who.home);
    if (guestOf != null) {
      for (int a = guestOf.nextSetBit(0); a >= 0; a = guestOf.nextSetBit(a + 1)) {
        if (a != who.home) {
          codes[n++] = GrantEntry.subject(GrantEntry.ACCOUNT, a);
        }
      }
    }
    if (who.pattern >= 0) {
      codes[n++] = GrantEntry.subject(GrantEntry.PATTERN, who.pattern);
    }
    codes[n++] = GrantEntry.subject(GrantEntry.PUBLIC, Subject.Public.ANYONE.ordinal());
    codes[n++] = GrantEntry.subject(GrantEntry.PUBLIC, Subject.Public.SIGNED_IN.ordinal());
    return n == codes.length ? codes : Arrays.copyOf(codes, n);
  }

  /** {@return whether it is a person enrolled for a second factor} */
  public boolean hasFactor() {
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
   * {@return whether what a special grant entry stands for holds now}: its window, its activation
   * where it must be on, and for a bridge that the principal belongs to the source
   */
  public boolean holds(int ref, boolean mustBeOn) {
    if (ref < 0) {
      Bridge bridge = it.catalogue.bridges().the(~ref);
      int group = it.catalogue.groups().require(bridge.group());
      int source = it.catalogue.accounts().require(it.catalogue.groups().the(group).account());
      return belongsTo(source) && validity.holds(TimeSpan.of(bridge.window()));
    }
    return validity.holds(it.times.getOr(ref, TimeSpan.ALWAYS)) && (!mustBeOn || isOn(ref));
  }

  private boolean isOn(int ref) {
    List<Activation> activations =
        profile == null ? List.of() : it.catalogue.links().activations(id);
    if (activations.isEmpty()) {
      return false;
    }
    AssignmentKey assignment = it.catalogue.assignments().the(ref).key();
    boolean switchedOn = false;
    for (Activation activation : activations) {
      switchedOn |=
          activation.assignment().equals(assignment)
              && validity.holds(TimeSpan.of(activation.window()));
    }
    return switchedOn;
  }

  /** {@return the span of time in which nothing asked about so far begins or ends} */
  public TimeSpan good() {
    return validity.span();
  }

  /** Also minds the window of something that another class looked at. */
  boolean inForce(TimeSpan times) {
    return validity.holds(times);
  }
}
