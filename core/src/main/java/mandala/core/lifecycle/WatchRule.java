package mandala.core.lifecycle;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import org.jspecify.annotations.Nullable;

/**
 * A rule that watches for people who are not seen, and for what is left over. Whoever may own an
 * account is left alone: a rule never locks out who could set things right.
 *
 * @param account at home in it or below it; of guests: guests of it; null for all
 * @param group only who is in it, by whatever route; null for all
 * @param warnAfter days without being seen after which they are warned; null for no warning
 * @param after days without being seen after which the rule acts
 */
public record WatchRule(
    What what,
    @Nullable AccountKey account,
    @Nullable GroupKey group,
    @Nullable Integer warnAfter,
    int after) {

  /** What is watched, and so what the rule does. */
  public enum What {
    /** Active persons who are not seen are suspended. */
    PERSONS,
    /** Guest memberships of who is not seen end. */
    GUESTS,
    /** Who is invited and does not come is marked as left. */
    INVITATIONS,
    /** Services that are not used are reported; nothing changes. */
    SERVICES
  }

  /**
   * Somebody whom a rule finds.
   *
   * @param since when they were seen last, or since when the rule can say so
   * @param due when the rule acts
   * @param guests the memberships that are to end; empty but of guests
   */
  public record Hit(Principal who, Instant since, Instant due, List<Guest> guests) {

    /** {@return whether the rule acts at an instant} */
    public boolean acts(Instant at) {
      return !due.isAfter(at);
    }
  }

  private static Duration days(int days) {
    return Duration.ofDays(days);
  }

  /**
   * {@return whom the rule finds at an instant}, to warn or to act on, whoever was not seen for
   * longest first
   *
   * @param seen when somebody was seen last, or of who is invited when they were; null where that
   *     is not known
   * @param known since when the rule watches: of whom nothing is known, time counts from then
   */
  public List<Hit> hits(
      Engine engine, Instant at, Function<Principal, @Nullable Instant> seen, Instant known) {
    Catalogue in = engine.catalogue();
    Set<PrincipalKey> members = members(engine, at);
    Set<PrincipalKey> owners =
        engine.possibleOwners().stream().map(Principal::key).collect(Collectors.toSet());
    int first = warnAfter == null ? after : Math.min(warnAfter, after);
    List<Hit> hits = new ArrayList<>();
    for (Principal it : in.principals().values()) {
      if (!watches(it)
          || owners.contains(it.key())
          || (members != null && !members.contains(it.key()))) {
        continue;
      }
      List<Guest> guests = what == What.GUESTS ? guests(in, it, at) : List.of();
      if (what == What.GUESTS ? guests.isEmpty() : !isThere(in, it.account())) {
        continue;
      }
      Instant since = since(seen.apply(it), it.window(), known);
      if (!since.plus(days(first)).isAfter(at)) {
        hits.add(new Hit(it, since, since.plus(days(after)), guests));
      }
    }
    hits.sort(Comparator.comparing(Hit::since).thenComparing(hit -> hit.who().key().value()));
    return hits;
  }

  private @Nullable Set<PrincipalKey> members(Engine engine, Instant at) {
    if (group == null) {
      return null;
    }
    Set<PrincipalKey> members = new HashSet<>();
    if (engine.catalogue().groups().containsKey(group)) {
      engine.having(new Subject.OfGroup(group), at).forEach(it -> members.add(it.key()));
    }
    return members;
  }

  private boolean watches(Principal it) {
    return switch (what) {
      case PERSONS, GUESTS ->
          it.kind() == Principal.Kind.PERSON && it.status() == Principal.Status.ACTIVE;
      case INVITATIONS ->
          it.kind() == Principal.Kind.PERSON && it.status() == Principal.Status.INVITED;
      case SERVICES ->
          it.kind() == Principal.Kind.SERVICE && it.status() == Principal.Status.ACTIVE;
    };
  }

  private List<Guest> guests(Catalogue in, Principal it, Instant at) {
    return in.find(Kind.GUESTS, it.key().value()).stream()
        .map(Guest.class::cast)
        .filter(guest -> isThere(in, guest.account()) && guest.window().holdsAt(at))
        .toList();
  }

  private boolean isThere(Catalogue in, AccountKey where) {
    return account == null
        || (in.accounts().containsKey(account) && in.isAtOrBelow(where, account));
  }

  /** Nobody could come before their time began, and nothing is known of before the rule. */
  private static Instant since(@Nullable Instant seen, Window window, Instant known) {
    Instant from = window.from();
    Instant since = seen == null ? known : seen;
    return from != null && from.isAfter(since) ? from : since;
  }

  /** {@return the changes with which the rule acts on some of its hits}; none of services */
  public List<Change> changes(Catalogue in, Collection<Hit> hits, Instant at) {
    TieChanges changes = new TieChanges(in);
    for (Hit it : hits) {
      switch (what) {
        case PERSONS ->
            changes.alter(it.who(), who -> Rewritten.status(who, Principal.Status.SUSPENDED));
        case INVITATIONS -> Parting.part(Ties.of(in, it.who()), Map.of(), changes);
        case GUESTS ->
            it.guests().forEach(guest -> new Tie.GuestOf(guest, 0).endAt(changes, it.who(), at));
        case SERVICES -> {
          // told to who answers for them
        }
      }
    }
    return changes.all();
  }
}
