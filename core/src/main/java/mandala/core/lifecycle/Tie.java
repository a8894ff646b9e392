package mandala.core.lifecycle;

import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.UnaryOperator;
import mandala.core.change.Rewritten;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Delegation;
import mandala.core.model.Expectation;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Pattern;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Thing;
import mandala.core.model.Window;
import mandala.core.model.key.PrincipalKey;
import org.jspecify.annotations.Nullable;

/**
 * One thing that ties a principal to the model: something that it holds, or answers for. What the
 * model says of everybody of a unit, a pattern or a rule is no tie: it follows from the facts.
 */
public sealed interface Tie {

  /** {@return its name among the ties of one principal}, which lasts while the tie does */
  String id();

  /** {@return the thing of the model that says it} */
  Thing thing();

  /** What a tie is to the principal. */
  enum Sort {
    /** They have something by it. */
    ACCESS,
    /** They answer for something, which needs somebody. */
    DUTY,
    /** They act for somebody, or somebody for them. */
    DELEGATION,
    /** A statement names them. */
    STATEMENT
  }

  /** {@return what it is to the principal} */
  default Sort sort() {
    return switch (this) {
      case Membership _, Assigned _, Reaches _, Follows _, GuestOf _, Activated _ -> Sort.ACCESS;
      case Owns _, AnswersFor _, Sponsors _, SponsorsGuest _, Manages _ -> Sort.DUTY;
      case Delegates _ -> Sort.DELEGATION;
      case Expected _ -> Sort.STATEMENT;
    };
  }

  /** {@return the window of what has one}, null where the tie has none of its own */
  default @Nullable Window window() {
    return null;
  }

  /**
   * {@return whether somebody else can have the same}: nobody activates for another, and a
   * delegation is a matter of two people
   */
  default boolean canBeGiven() {
    return !(this instanceof Activated) && !(this instanceof Delegates);
  }

  /** {@return whether only one can have it}, so that giving it is handing it over */
  default boolean hasOnePlace() {
    return sort() == Sort.DUTY && !(this instanceof AnswersFor);
  }

  /** The tie ends. */
  void end(TieChanges changes, Principal whose);

  /** Somebody else has the same; of what only one can have, instead. */
  void give(TieChanges changes, Principal whose, Principal to);

  /** Somebody else has it instead. */
  default void hand(TieChanges changes, Principal whose, Principal to) {
    give(changes, whose, to);
    if (!hasOnePlace()) {
      end(changes, whose);
    }
  }

  /**
   * The tie ends at an instant, where that is earlier than its end. What would only begin then ends
   * at once; what has no window stays.
   */
  default void endAt(TieChanges changes, Principal whose, Instant at) {
    Window window = window();
    if (window == null) {
      return;
    }
    Instant from = window.from();
    Instant until = window.until();
    if (from != null && !from.isBefore(at)) {
      end(changes, whose);
    } else if (until == null || until.isAfter(at)) {
      within(changes, new Window(from, at));
    }
  }

  /** It has another window; where it has none to change, it stays. */
  default void within(TieChanges changes, Window window) {}

  /** {@return a list with one in place of another}, each once */
  static <T> List<T> replaced(List<T> in, T one, @Nullable T by) {
    Set<T> all = new LinkedHashSet<>();
    for (T each : in) {
      T is = each.equals(one) ? by : each;
      if (is != null) {
        all.add(is);
      }
    }
    return new ArrayList<>(all);
  }

  /** They are listed in a group. */
  record Membership(Group thing) implements Tie {
    @Override
    public String id() {
      return "group:" + thing.key();
    }

    private static Group.Member member(Principal it) {
      return new Group.Member.OfPrincipal(it.kind(), it.key());
    }

    @Override
    public void end(TieChanges changes, Principal whose) {
      changes.alter(thing, it -> Rewritten.without(it, member(whose)));
    }

    @Override
    public void give(TieChanges changes, Principal whose, Principal to) {
      changes.alter(thing, it -> it.lists(to) ? it : Rewritten.with(it, member(to)));
    }
  }

  /** Something is assigned to them. */
  record Assigned(Assignment thing) implements Tie {
    @Override
    public String id() {
      return "assignment:" + thing.key();
    }

    @Override
    public Window window() {
      return thing.window();
    }

    @Override
    public void end(TieChanges changes, Principal whose) {
      changes.remove(thing);
    }

    @Override
    public void within(TieChanges changes, Window window) {
      changes.alter(thing, it -> Rewritten.window(it, window));
    }

    @Override
    public void give(TieChanges changes, Principal whose, Principal to) {
      changes.add(
          Rewritten.subject(
              thing,
              changes.keyFor(thing.key(), to.key()),
              new Subject.OfPrincipal(to.kind(), to.key())));
    }
  }

  /** They reach a unit beyond their own. */
  record Reaches(Principal thing, Principal.Reach reach) implements Tie {
    @Override
    public String id() {
      return "reach:" + reach.unit();
    }

    @Override
    public void end(TieChanges changes, Principal whose) {
      changes.alter(whose, it -> Rewritten.withoutReach(it, reach.unit()));
    }

    @Override
    public void give(TieChanges changes, Principal whose, Principal to) {
      changes.alter(
          to,
          it -> {
            List<Principal.Reach> all = new ArrayList<>(it.reach());
            boolean full = all.contains(new Principal.Reach(reach.unit(), Principal.Level.FULL));
            if (full) {
              return it;
            }
            all.removeIf(each -> each.unit().equals(reach.unit()));
            all.add(reach);
            return Rewritten.reach(it, all);
          });
    }
  }

  /** They follow a pattern. */
  record Follows(Principal thing, Pattern pattern) implements Tie {
    @Override
    public String id() {
      return "pattern:" + pattern.key();
    }

    @Override
    public void end(TieChanges changes, Principal whose) {
      changes.alter(whose, it -> Rewritten.pattern(it, null));
    }

    @Override
    public void give(TieChanges changes, Principal whose, Principal to) {
      changes.alter(to, it -> Rewritten.pattern(it, pattern.key()));
    }
  }

  /** They are a guest of another account. */
  record GuestOf(Guest thing, int number) implements Tie {
    @Override
    public String id() {
      return "guest:" + thing.account() + (number == 0 ? "" : ":" + number);
    }

    @Override
    public Window window() {
      return thing.window();
    }

    @Override
    public void end(TieChanges changes, Principal whose) {
      changes.remove(thing);
    }

    @Override
    public void within(TieChanges changes, Window window) {
      changes.alter(thing, it -> Rewritten.window(it, window));
    }

    @Override
    public void give(TieChanges changes, Principal whose, Principal to) {
      PrincipalKey sponsor = thing.sponsor();
      changes.add(
          new Guest(
              thing.about(),
              to.key(),
              thing.account(),
              thing.withSubaccounts(),
              thing.window(),
              to.key().equals(sponsor) ? null : sponsor));
    }
  }

  /** They activated something that is just-in-time. */
  record Activated(Activation thing, int number) implements Tie {
    @Override
    public String id() {
      return "activation:" + thing.assignment() + (number == 0 ? "" : ":" + number);
    }

    @Override
    public Window window() {
      return thing.window();
    }

    @Override
    public void end(TieChanges changes, Principal whose) {
      changes.remove(thing);
    }

    /** Nobody activates for another (section 11). */
    @Override
    public void give(TieChanges changes, Principal whose, Principal to) {}
  }

  /** They own a place. */
  record Owns(Resource thing) implements Tie {
    @Override
    public String id() {
      return "place:" + thing.key();
    }

    @Override
    public void end(TieChanges changes, Principal whose) {
      changes.alter(thing, it -> Rewritten.owner(it, null));
    }

    @Override
    public void give(TieChanges changes, Principal whose, Principal to) {
      changes.alter(thing, it -> Rewritten.owner(it, to.key()));
    }
  }

  /** They answer for a group, a role or a pattern. */
  record AnswersFor(Thing thing) implements Tie {
    @Override
    public String id() {
      return Kind.of(thing).field() + ":" + thing.key();
    }

    @Override
    public void end(TieChanges changes, Principal whose) {
      owners(changes, all -> replaced(all, whose.key(), null));
    }

    @Override
    public void give(TieChanges changes, Principal whose, Principal to) {
      owners(
          changes,
          all -> {
            Set<PrincipalKey> more = new LinkedHashSet<>(all);
            more.add(to.key());
            return List.copyOf(more);
          });
    }

    private void owners(TieChanges changes, UnaryOperator<List<PrincipalKey>> how) {
      switch (thing) {
        case Group group ->
            changes.alter(group, it -> Rewritten.owners(it, how.apply(it.owners())));
        case Role role -> changes.alter(role, it -> Rewritten.owners(it, how.apply(it.owners())));
        case Pattern pattern ->
            changes.alter(pattern, it -> Rewritten.owners(it, how.apply(it.owners())));
        default -> throw new IllegalStateException("Impossible state: nobody owns a " + thing);
      }
    }
  }

  /** They answer for a service. */
  record Sponsors(Principal thing) implements Tie {
    @Override
    public String id() {
      return "service:" + thing.key();
    }

    @Override
    public void end(TieChanges changes, Principal whose) {
      changes.alter(thing, it -> Rewritten.sponsor(it, null));
    }

    @Override
    public void give(TieChanges changes, Principal whose, Principal to) {
      changes.alter(thing, it -> Rewritten.sponsor(it, to.key()));
    }
  }

  /** They answer for a guest. */
  record SponsorsGuest(Guest thing, int number) implements Tie {
    @Override
    public String id() {
      return "guest-of:"
          + thing.account()
          + ":"
          + thing.principal()
          + (number == 0 ? "" : ":" + number);
    }

    @Override
    public void end(TieChanges changes, Principal whose) {
      changes.alter(thing, it -> Rewritten.sponsor(it, null));
    }

    /** Nobody answers for themselves. */
    @Override
    public void give(TieChanges changes, Principal whose, Principal to) {
      boolean self = thing.principal().equals(to.key());
      changes.alter(thing, it -> Rewritten.sponsor(it, self ? null : to.key()));
    }
  }

  /** Somebody reports to them. */
  record Manages(Principal thing) implements Tie {
    @Override
    public String id() {
      return "report:" + thing.key();
    }

    @Override
    public void end(TieChanges changes, Principal whose) {
      manager(changes, null);
    }

    /** Who is to manage themselves reports to whom the one before reported. */
    @Override
    public void give(TieChanges changes, Principal whose, Principal to) {
      PrincipalKey above = whose.manager();
      manager(
          changes,
          !thing.key().equals(to.key()) ? to.key() : to.key().equals(above) ? null : above);
    }

    private void manager(TieChanges changes, @Nullable PrincipalKey manager) {
      changes.alter(thing, it -> Rewritten.facts(it, it.unit(), manager, it.attributes()));
    }
  }

  /**
   * Somebody acts for them, or they act for somebody.
   *
   * @param own whether it is they who are acted for
   */
  record Delegates(Delegation thing, boolean own) implements Tie {
    @Override
    public String id() {
      return "delegation:" + thing.key();
    }

    @Override
    public Window window() {
      return thing.window();
    }

    @Override
    public void end(TieChanges changes, Principal whose) {
      changes.remove(thing);
    }

    @Override
    public void within(TieChanges changes, Window window) {
      changes.alter(thing, it -> Rewritten.window(it, window));
    }

    /** A delegation is a matter of two persons: only one person with two records passes it on. */
    @Override
    public void give(TieChanges changes, Principal whose, Principal to) {}

    @Override
    public void hand(TieChanges changes, Principal whose, Principal to) {
      PrincipalKey other = own ? thing.delegate() : thing.principal();
      if (other.equals(to.key())) {
        changes.remove(thing);
        return;
      }
      changes.alter(
          thing,
          it ->
              new Delegation(
                  it.key(),
                  it.about(),
                  own ? to.key() : it.principal(),
                  own ? it.delegate() : to.key(),
                  it.limit(),
                  it.scope(),
                  it.window()));
    }
  }

  /** An expectation names them. */
  record Expected(Expectation thing) implements Tie {
    @Override
    public String id() {
      return "expectation:" + thing.key();
    }

    private static Subject subject(Principal it) {
      return new Subject.OfPrincipal(it.kind(), it.key());
    }

    /** An expectation of nobody goes: it would say nothing, or that nobody may. */
    @Override
    public void end(TieChanges changes, Principal whose) {
      if (thing.subjects().equals(List.of(subject(whose)))) {
        changes.remove(thing);
      } else {
        changes.alter(
            thing, it -> Rewritten.subjects(it, replaced(it.subjects(), subject(whose), null)));
      }
    }

    @Override
    public void give(TieChanges changes, Principal whose, Principal to) {
      changes.alter(
          thing,
          it -> {
            Set<Subject> all = new LinkedHashSet<>(it.subjects());
            all.add(subject(to));
            return Rewritten.subjects(it, List.copyOf(all));
          });
    }

    @Override
    public void hand(TieChanges changes, Principal whose, Principal to) {
      changes.alter(
          thing,
          it -> Rewritten.subjects(it, replaced(it.subjects(), subject(whose), subject(to))));
    }
  }
}
