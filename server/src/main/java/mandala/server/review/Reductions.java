package mandala.server.review;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.change.Removal;
import mandala.core.change.Rewritten;
import mandala.core.detect.Detection;
import mandala.core.detect.Remedies;
import mandala.core.engine.Engine;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Guest;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.review.ReviewItem;
import mandala.document.TroubleText;
import mandala.server.question.FigureView;
import org.jspecify.annotations.Nullable;

/** Ways to keep less of an item: until a time, only when activated, in fewer places, less of it. */
final class Reductions {

  private static final Set<Remedies.Act> LESS =
      Set.of(Remedies.Act.NARROW_SCOPE, Remedies.Act.GIVE_LESS, Remedies.Act.STOP_CROSSING_SEALS);

  static final String END = "end";
  private static final String ACTIVATE = "just-in-time";

  private Reductions() {}

  /**
   * A way to reduce an item.
   *
   * @param changes none where a time must be chosen first
   */
  record Way(String key, String label, List<Change> changes) {
    boolean needsTime() {
      return key.equals(END);
    }
  }

  /** {@return the ways to reduce an item}, those that its findings propose first */
  static List<Way> of(ReviewItem item, Collection<Detection> findings, Engine engine, Instant at) {
    Catalogue catalogue = engine.catalogue();
    List<Way> ways = new ArrayList<>();
    for (Detection each : findings) {
      for (Remedies.Remedy it : Remedies.of(each.trouble(), engine, at)) {
        if (LESS.contains(it.act())) {
          ways.add(new Way(FigureView.word(it.act()), TroubleText.label(it.act()), it.changes()));
        }
      }
    }
    if (item.removal() instanceof Removal.Unassign(AssignmentKey key)) {
      Assignment it = catalogue.assignments().get(key);
      if (it != null && it.mode() == Assignment.Mode.STANDING && item.whose().isPresent()) {
        ways.add(
            new Way(
                ACTIVATE,
                "Make it just-in-time",
                List.of(new Change.Altered(it, it.in(Assignment.Mode.JUST_IN_TIME)))));
      }
    }
    if (canEnd(item)) {
      ways.add(new Way(END, "End it on a date", List.of()));
    }
    return ways;
  }

  private static boolean canEnd(ReviewItem item) {
    return item.removal() instanceof Removal.Unassign
        || item.removal() instanceof Removal.EndGuest
        || item.removal() instanceof Removal.EndBridge
        || item.removal() instanceof Removal.Undelegate;
  }

  /**
   * {@return the changes of a way}, none where it no longer fits the model
   *
   * @param until when it ends, where the way needs that
   */
  static List<Change> changes(
      String way,
      @Nullable Instant until,
      ReviewItem item,
      Collection<Detection> findings,
      Engine engine,
      Instant at) {
    if (way.equals(END) && until != null) {
      return end(item, until, engine.catalogue());
    }
    return of(item, findings, engine, at).stream()
        .filter(it -> it.key().equals(way))
        .findFirst()
        .map(Way::changes)
        .orElse(List.of());
  }

  private static List<Change> end(ReviewItem item, Instant until, Catalogue in) {
    return switch (item.removal()) {
      case Removal.Unassign(AssignmentKey key) ->
          Optional.ofNullable(in.assignments().get(key))
              .<List<Change>>map(it ->
                  List.of(new Change.Altered(it, Rewritten.window(it, ending(it.window(), until)))))
              .orElse(List.of());
      case Removal.EndBridge(BridgeKey key) ->
          Optional.ofNullable(in.bridges().get(key))
              .<List<Change>>map((Bridge it) ->
                  List.of(new Change.Altered(it, Rewritten.window(it, ending(it.window(), until)))))
              .orElse(List.of());
      case Removal.Undelegate(DelegationKey key) ->
          Optional.ofNullable(in.delegations().get(key))
              .<List<Change>>map((Delegation it) ->
                  List.of(new Change.Altered(it, Rewritten.window(it, ending(it.window(), until)))))
              .orElse(List.of());
      case Removal.EndGuest(PrincipalKey who, AccountKey account) -> {
        List<Change> changes = new ArrayList<>();
        int number = in.principals().number(who);
        for (Guest it : number < 0 ? List.<Guest>of() : in.links().guests(number)) {
          if (it.account().equals(account)) {
            changes.add(new Change.Removed(it));
            changes.add(new Change.Added(Rewritten.window(it, ending(it.window(), until))));
          }
        }
        yield changes;
      }
      default -> List.of();
    };
  }

  private static Window ending(Window was, Instant until) {
    boolean sooner = was.until() != null && was.until().isBefore(until);
    return new Window(was.from(), sooner ? was.until() : until);
  }
}
