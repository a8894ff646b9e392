package mandala.core.lifecycle;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import mandala.core.analysis.Peers;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.model.About;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.Unit;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;

/**
 * What a list of the personnel office says of the people of an account and those below it: who
 * joins, whose facts change, who comes back, who leaves. It owns the persons at home there who have
 * a personnel number, and of them the facts that it has; everything else is left alone.
 *
 * @param owned the facts that the list has, besides the number and the name
 * @param missingLeave whether who is not in the list leaves
 */
public record PersonnelList(AccountKey account, Set<Fact> owned, boolean missingLeave) {

  /** The attribute that holds the personnel number. */
  public static final String NUMBER = "number";

  /** Copies the facts. */
  public PersonnelList {
    owned = Set.copyOf(owned);
  }

  /** A fact that a list can have. */
  public enum Fact {
    NAME,
    EMAIL,
    TITLE,
    UNIT,
    MANAGER,
    FROM,
    UNTIL
  }

  /**
   * A line of the list.
   *
   * @param who of whom: somebody who is there, or a key that is free
   * @param window from their first day to the day after the last
   */
  public record Entry(
      String number,
      PrincipalKey who,
      String name,
      @Nullable String email,
      @Nullable String title,
      @Nullable UnitKey unit,
      @Nullable PrincipalKey manager,
      Window window) {}

  /** What becomes of somebody. */
  public enum What {
    JOINS,
    CHANGES,
    RETURNS,
    LEAVES
  }

  /**
   * What the list does with one person.
   *
   * @param before as they are, null of who joins
   * @param after as the list has them
   * @param facts what changes of them; empty but of {@link What#CHANGES} and {@link What#RETURNS}
   */
  public record Step(What what, @Nullable Principal before, Principal after, Set<Fact> facts) {}

  /** {@return whether the list owns somebody} */
  public boolean owns(Catalogue in, Principal it) {
    return isPersonOf(in, it) && it.attributes().containsKey(NUMBER);
  }

  /** {@return whether the list may come to own somebody}: a person at home in its accounts */
  public boolean isPersonOf(Catalogue in, Principal it) {
    return it.kind() == Principal.Kind.PERSON
        && in.accounts().containsKey(account)
        && in.isAtOrBelow(it.account(), account);
  }

  /** {@return whether the list owns somebody who has not left}: of these it removes a share */
  public boolean holds(Catalogue in, Principal it) {
    return owns(in, it) && it.status() != Principal.Status.LEFT;
  }

  /**
   * {@return what the list does}, in its order, and who leaves last
   *
   * @param entries each of another person
   * @param spared who is named by lines that could not be read, and so leaves in no case
   * @param at who is in the list only until before then leaves
   */
  public List<Step> steps(Catalogue in, List<Entry> entries, Set<PrincipalKey> spared, Instant at) {
    List<Step> steps = new ArrayList<>();
    Set<PrincipalKey> named = new HashSet<>(spared);
    for (Entry it : entries) {
      named.add(it.who());
      Principal before = in.principals().get(it.who());
      Step step = before == null ? joins(in, it, at) : known(in, before, it, at);
      if (step != null) {
        steps.add(step);
      }
    }
    if (missingLeave) {
      for (Principal it : in.principals().values()) {
        if (holds(in, it) && !named.contains(it.key())) {
          steps.add(leaves(it));
        }
      }
    }
    return steps;
  }

  private static boolean isOver(Window window, Instant at) {
    Instant until = window.until();
    return until != null && !until.isAfter(at);
  }

  private static Step leaves(Principal it) {
    return new Step(What.LEAVES, it, Rewritten.status(it, Principal.Status.LEFT), Set.of());
  }

  private @Nullable Step joins(Catalogue in, Entry it, Instant at) {
    if (isOver(it.window(), at)) {
      return null; // they left before Mandala knew them
    }
    Principal fresh =
        new Principal(
            it.who(),
            About.named(it.name()),
            Principal.Kind.PERSON,
            homeOf(in, it.unit(), account),
            it.unit(),
            it.manager(),
            Principal.Status.INVITED,
            it.window(),
            false,
            attributes(Map.of(), it),
            null,
            List.of(),
            it.email(),
            null,
            null);
    return new Step(What.JOINS, null, fresh, Set.of());
  }

  private @Nullable Step known(Catalogue in, Principal before, Entry it, Instant at) {
    boolean left = before.status() == Principal.Status.LEFT;
    if (isOver(it.window(), at) && owned.contains(Fact.UNTIL)) {
      return left ? null : leaves(before);
    }
    Principal after = withFacts(in, before, it);
    Set<Fact> facts = differing(before, after);
    if (left) {
      return new Step(What.RETURNS, before, invited(after, at), facts);
    }
    return after.equals(before) ? null : new Step(What.CHANGES, before, after, facts);
  }

  /** An end that is over and that the list says nothing of would keep them out. */
  private static Principal invited(Principal it, Instant at) {
    return isOver(it.window(), at)
        ? Rewritten.status(Rewritten.active(it), Principal.Status.INVITED)
        : Rewritten.status(it, Principal.Status.INVITED);
  }

  /** Somebody as the list has them: a blank takes a fact away that the list owns. */
  private Principal withFacts(Catalogue in, Principal before, Entry it) {
    UnitKey unit = owned.contains(Fact.UNIT) ? it.unit() : before.unit();
    AccountKey home =
        owned.contains(Fact.UNIT) ? homeOf(in, it.unit(), before.account()) : before.account();
    Window was = before.window();
    return new Principal(
        before.key(),
        new About(it.name(), before.about().description(), before.about().note()),
        before.kind(),
        home,
        unit,
        owned.contains(Fact.MANAGER) ? it.manager() : before.manager(),
        before.status(),
        new Window(
            owned.contains(Fact.FROM) ? it.window().from() : was.from(),
            owned.contains(Fact.UNTIL) ? it.window().until() : was.until()),
        before.mfa(),
        attributes(before.attributes(), it),
        before.pattern(),
        before.reach(),
        owned.contains(Fact.EMAIL) && it.email() != null ? it.email() : before.email(),
        before.lastSeen(),
        before.sponsor());
  }

  private Map<String, String> attributes(Map<String, String> before, Entry it) {
    Map<String, String> after = new TreeMap<>(before);
    after.put(NUMBER, it.number());
    if (owned.contains(Fact.TITLE)) {
      if (it.title() == null) {
        after.remove(Peers.TITLE);
      } else {
        after.put(Peers.TITLE, it.title());
      }
    }
    return after;
  }

  /** A unit leads into its account (section 10). */
  private static AccountKey homeOf(Catalogue in, @Nullable UnitKey unit, AccountKey otherwise) {
    Unit of = unit == null ? null : in.units().get(unit);
    return of == null ? otherwise : of.account();
  }

  private static Set<Fact> differing(Principal before, Principal after) {
    Map<Fact, Boolean> same = new LinkedHashMap<>();
    same.put(Fact.NAME, before.about().equals(after.about()));
    same.put(Fact.EMAIL, Objects.equals(before.email(), after.email()));
    same.put(
        Fact.TITLE,
        Objects.equals(before.attributes().get(Peers.TITLE), after.attributes().get(Peers.TITLE)));
    same.put(Fact.UNIT, Objects.equals(before.unit(), after.unit()));
    same.put(Fact.MANAGER, Objects.equals(before.manager(), after.manager()));
    same.put(Fact.FROM, Objects.equals(before.window().from(), after.window().from()));
    same.put(Fact.UNTIL, Objects.equals(before.window().until(), after.window().until()));
    Set<Fact> facts = new LinkedHashSet<>();
    same.forEach((fact, is) -> {
      if (!is) {
        facts.add(fact);
      }
    });
    return facts;
  }

  /**
   * {@return the changes of some steps}: who leaves keeps nothing, and what they answer for goes to
   * the next above them who stays
   */
  public static List<Change> changes(Catalogue in, List<Step> steps) {
    TieChanges changes = new TieChanges(in);
    Map<PrincipalKey, Principal> leaving = new LinkedHashMap<>();
    Set<PrincipalKey> elsewhere = new HashSet<>();
    for (Step it : steps) {
      Principal before = it.before();
      if (it.what() == What.LEAVES && before != null) {
        leaving.put(before.key(), before);
      } else if (before == null) {
        changes.add(it.after());
      } else {
        changes.alter(before, _ -> it.after());
        if (it.facts().contains(Fact.MANAGER)) {
          elsewhere.add(before.key());
        }
      }
    }
    for (Principal it : leaving.values()) {
      Principal heir = heir(in, it, leaving.keySet());
      Ties ties = Ties.of(in, it);
      Map<String, Fate> fates = new HashMap<>();
      if (heir != null) {
        for (Tie tie : ties.all()) {
          if (tie.sort() == Tie.Sort.DUTY) {
            fates.put(tie.id(), new Fate.HandTo(heir));
          }
        }
      }
      for (Tie tie : ties.all()) {
        if (tie instanceof Tie.Manages(var report) && elsewhere.contains(report.key())) {
          fates.put(tie.id(), new Fate.Keep()); // the list says who manages them now
        }
      }
      Parting.part(ties, fates, changes);
    }
    return changes.all();
  }

  private static @Nullable Principal heir(Catalogue in, Principal leaving, Set<PrincipalKey> gone) {
    Set<PrincipalKey> met = new HashSet<>();
    Principal at = leaving;
    while (at.manager() != null && met.add(at.key())) {
      Principal above = in.principals().get(at.manager());
      if (above == null) {
        return null;
      }
      if (!gone.contains(above.key())
          && above.kind() == Principal.Kind.PERSON
          && above.status() == Principal.Status.ACTIVE) {
        return above;
      }
      at = above;
    }
    return null;
  }
}
