package mandala.core.review;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import mandala.core.change.Removal;
import mandala.core.engine.Engine;
import mandala.core.explain.Route;
import mandala.core.explain.Routes;
import mandala.core.explain.Source;
import mandala.core.explain.SubjectStep;
import mandala.core.model.Permission;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.present.Access;
import mandala.core.question.Question;
import mandala.core.question.Session;
import org.jspecify.annotations.Nullable;

/**
 * What of somebody must go for some rights to end.
 *
 * <ol>
 *   <li>While a right is left, the first step of a route of it goes: a membership, an assignment, a
 *       pattern or a guest membership of theirs.
 *   <li>Each of those that were found is put back; where nothing comes back with it, it stays.
 * </ol>
 *
 * <p>Bounded by {@link #MOST} things. Cost: an evaluation and an explanation for each.
 */
final class SufficientSet {

  private static final int MOST = 12;

  private final Engine engine;
  private final ReviewItems items;
  private final PrincipalKey whose;
  private final Instant at;

  SufficientSet(Engine engine, ReviewItems items, ItemEffect effect, Instant at) {
    this.engine = engine;
    this.items = items;
    whose = effect.whose();
    this.at = at;
  }

  List<ReviewItem> of(ReviewItem item, Access wanted) {
    List<ReviewItem> known = items.of(whose);
    List<ReviewItem> found = new ArrayList<>();
    found.add(item);
    while (found.size() <= MOST) {
      Engine now = without(found);
      Access left = now == null ? null : left(now, wanted);
      if (now == null || left == null) {
        return List.of();
      }
      if (left.rights() == 0) {
        return needed(found, wanted);
      }
      String next = firstStep(now, left).map(it -> new ReviewItem(it, whose).id()).orElse("");
      ReviewItem step =
          known.stream()
              .filter(it -> it.id().equals(next) && !found.contains(it))
              .findFirst()
              .orElse(null);
      if (step == null) {
        return List.of(); // everybody has it, or a rule on facts that stay gives it
      }
      found.add(step);
    }
    return List.of();
  }

  private @Nullable Engine without(List<ReviewItem> some) {
    return ItemStudy.after(engine, some.stream().map(ReviewItem::removal).toList());
  }

  private Access left(Engine now, Access wanted) {
    Access after = now.accessAfresh(new Session(whose, at, true, null));
    return Access.shared(List.of(wanted, after), 2);
  }

  /** The others, without those that can stay. */
  private List<ReviewItem> needed(List<ReviewItem> found, Access wanted) {
    List<ReviewItem> needed = new ArrayList<>(found);
    for (ReviewItem each : found.subList(1, found.size())) {
      List<ReviewItem> rest = new ArrayList<>(needed);
      rest.remove(each);
      Engine now = without(rest);
      if (now != null && left(now, wanted).rights() == 0) {
        needed = rest;
      }
    }
    return List.copyOf(needed.subList(1, needed.size()));
  }

  private Optional<Removal> firstStep(Engine now, Access left) {
    for (Permission permission : now.catalogue().permissions().values()) {
      PermissionKey key = permission.key();
      List<Access.Interval> where = left.intervals(key);
      if (!where.isEmpty()) {
        Question question = new Question(whose, key, where.getFirst().first(), at, true, null);
        return Routes.of(now).explain(question).live().stream()
            .findFirst()
            .flatMap(this::firstStep);
      }
    }
    return Optional.empty();
  }

  private Optional<Removal> firstStep(Route route) {
    for (SubjectStep step : route.subjectPath()) {
      switch (step) {
        case SubjectStep.InGroup(GroupKey group, boolean byRule) -> {
          return items.of(whose).stream()
              .map(ReviewItem::removal)
              .filter(it ->
                  byRule
                      ? it.equals(new Removal.LoseAttribute(group, whose))
                      : it instanceof Removal.Leave leave && leave.group().equals(group))
              .findFirst();
        }
        case SubjectStep.WithPattern _ -> {
          return Optional.of(new Removal.DropPattern(whose));
        }
        case SubjectStep.AtAccount(AccountKey account, boolean asGuest) -> {
          return items.of(whose).stream()
              .map(ReviewItem::removal)
              .filter(it ->
                  asGuest
                      && it instanceof Removal.EndGuest guest
                      && engine.catalogue().isAtOrBelow(account, guest.account()))
              .findFirst();
        }
        case SubjectStep.Publicly _ -> {
          return Optional.empty();
        }
        case SubjectStep.Oneself _ -> {
          // what follows says by what
        }
      }
    }
    return route.source() instanceof Source.ByAssignment(AssignmentKey key)
        ? Optional.of(new Removal.Unassign(key))
        : Optional.empty();
  }
}
