package mandala.core.review;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.Removal;
import mandala.core.engine.Engine;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.present.Access;
import mandala.core.question.Session;
import org.jspecify.annotations.Nullable;

/**
 * Works out what items give whoever has them, each by whole evaluations of the model with and
 * without it; everybody with their second factor. For one thread.
 */
public final class ItemStudy {

  private final Engine engine;
  private final Catalogue catalogue;
  private final ReviewItems items;
  private final Instant at;
  private @Nullable Held held;

  private record Held(Session session, Access access) {}

  /** Begins a study of what a model gives at an instant. */
  public ItemStudy(Engine engine, ReviewItems items, Instant at) {
    this.engine = engine;
    this.catalogue = engine.catalogue();
    this.items = items;
    this.at = at;
  }

  /**
   * {@return what removing an item does to whoever has it}; empty where that is nobody or several
   * people, where it is no access by itself, where it is gone, or where the model would have faults
   * without it
   */
  public Optional<ItemEffect> effect(ReviewItem item) {
    Session session = sessionOf(item);
    if (session == null || ReviewItems.givesNoPermission(item)) {
      return Optional.empty();
    }
    List<Change> on = activating(item);
    Engine base = on.isEmpty() ? engine : engine.after(on);
    Engine without = after(base, List.of(item.removal()));
    if (without == null) {
      return Optional.empty();
    }
    Access held = on.isEmpty() ? held(session) : base.accessAfresh(session);
    Access left = without.accessAfresh(session);
    return Optional.of(
        new ItemEffect(session.principal(), held, left, held.beyond(left), !on.isEmpty()));
  }

  /**
   * {@return the rights that somebody loses when an item is removed, with others of theirs}; empty
   * where {@link #effect} is
   */
  public OptionalLong takes(ReviewItem item, Collection<ReviewItem> with) {
    if (with.isEmpty()) {
      return effect(item).stream().mapToLong(ItemEffect::takes).findFirst();
    }
    Session session = sessionOf(item);
    if (session == null || ReviewItems.givesNoPermission(item)) {
      return OptionalLong.empty();
    }
    List<Change> on = activating(item);
    Engine base = on.isEmpty() ? engine : engine.after(on);
    List<Removal> all = new ArrayList<>(List.of(item.removal()));
    with.forEach(it -> all.add(it.removal()));
    Engine without = after(base, all);
    return without == null
        ? OptionalLong.empty()
        : OptionalLong.of(
            base.accessAfresh(session).beyond(without.accessAfresh(session)).rights());
  }

  /** {@return what somebody has}; worked out once for their items, which come together */
  private Access held(Session session) {
    Held last = held;
    if (last == null || !last.session().equals(session)) {
      last = new Held(session, engine.accessAfresh(session));
      held = last;
    }
    return last.access();
  }

  /** {@return who has an item, as they would ask}; null where that is nobody, or several people */
  private @Nullable Session sessionOf(ReviewItem item) {
    if (item.removal() instanceof Removal.Undelegate(DelegationKey key)) {
      Delegation it = catalogue.delegations().get(key);
      return it == null ? null : new Session(it.delegate(), at, true, it.principal());
    }
    PrincipalKey who = item.whose().orElse(null);
    return who == null || !catalogue.principals().containsKey(who)
        ? null
        : new Session(who, at, true, null);
  }

  /**
   * {@return the model without some things, removed one after the other}; null where nothing is
   * removed, or the model would have faults
   */
  static @Nullable Engine after(Engine engine, List<Removal> removals) {
    List<Change> changes = changes(engine.catalogue(), removals);
    try {
      return changes.isEmpty() ? null : engine.after(changes);
    } catch (IllegalArgumentException _) {
      return null; // it leaves a faulty model
    }
  }

  /** {@return the changes that remove some things, one after the other}; fit to be a draft */
  public static List<Change> changes(Catalogue of, List<Removal> removals) {
    if (removals.size() == 1) {
      return removals.getFirst().in(of);
    }
    Draft draft = Draft.EMPTY;
    Catalogue now = of;
    for (Removal each : removals) {
      List<Change> changes = each.in(now);
      for (Change change : changes) {
        draft = draft.with(change);
      }
      now = Draft.of(changes).appliedUnchecked(now);
    }
    return draft.inOrder();
  }

  /** {@return what makes just-in-time access of an item stand, so that it counts} */
  public List<Change> activating(ReviewItem item) {
    List<Assignment> given = new ArrayList<>();
    switch (item.removal()) {
      case Removal.Unassign(AssignmentKey key) -> {
        Assignment it = catalogue.assignments().get(key);
        if (it != null) {
          given.add(it);
        }
      }
      case Removal.Leave(GroupKey group, var _) -> addOf(group, new LinkedHashSet<>(), given);
      case Removal.LoseAttribute(GroupKey group, var _) ->
          addOf(group, new LinkedHashSet<>(), given);
      case Removal.DropPattern(PrincipalKey who) -> {
        Principal it = catalogue.principals().get(who);
        if (it != null && it.pattern() != null) {
          given.addAll(items.assignedTo(new Subject.OfPattern(it.pattern())));
        }
      }
      default -> {
        // nothing of it is to be activated
      }
    }
    List<Change> changes = new ArrayList<>();
    for (Assignment it : given) {
      if (it.mode() == Assignment.Mode.JUST_IN_TIME) {
        catalogue.activations(it.key()).forEach(each -> changes.add(new Change.Removed(each)));
        changes.add(new Change.Altered(it, it.standing()));
      }
    }
    return changes;
  }

  private void addOf(GroupKey group, Set<GroupKey> seen, List<Assignment> into) {
    if (seen.add(group)) {
      into.addAll(items.assignedTo(new Subject.OfGroup(group)));
      for (int g : catalogue.links().nesting(catalogue.groups().number(group))) {
        addOf(catalogue.groups().the(g).key(), seen, into);
      }
    }
  }

  // ---- what else gives the same -----------------------------------------------------------------

  /**
   * {@return the rights that an item gives and that stay when it is removed}: what the item alone
   * would give beyond what everybody has, as far as something else gives it, too
   *
   * @param effect of the item, from this study
   */
  public Access staying(ReviewItem item, ItemEffect effect) {
    List<Removal> others = new ArrayList<>();
    for (ReviewItem each : items.of(effect.whose())) {
      if (!each.id().equals(item.id()) && !(each.removal() instanceof Removal.EndGuest)) {
        others.add(each.removal());
      }
    }
    if (others.isEmpty() || item.removal() instanceof Removal.Undelegate) {
      return engine.nothing();
    }
    List<Change> on = activating(item);
    Engine base = on.isEmpty() ? engine : engine.after(on);
    List<Removal> all = new ArrayList<>(others);
    all.add(item.removal());
    Engine alone = after(base, others);
    Engine none = after(base, all);
    if (alone == null || none == null) {
      return engine.nothing();
    }
    Session session = new Session(effect.whose(), at, true, null);
    Access gives = alone.accessAfresh(session).beyond(none.accessAfresh(session));
    return Access.shared(List.of(effect.left(), gives), 2);
  }

  /**
   * {@return what else must be removed of somebody so that nothing of what an item gives stays}: no
   * less would do; empty where nothing stays, or where no removal of theirs ends it
   *
   * @param staying what stays, from this study
   */
  public List<ReviewItem> sufficient(ReviewItem item, ItemEffect effect, Access staying) {
    return staying.rights() == 0
        ? List.of()
        : new SufficientSet(engine, items, effect, at).of(item, staying);
  }
}
